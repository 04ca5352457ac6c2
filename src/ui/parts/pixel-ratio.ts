/** The screen's pixels for a pixel of an element, which a zoom of the page or of what is around it may enlarge. */
export function pixelRatioOf(element: Element): number {
  return (window.devicePixelRatio || 1) * ((element as { currentCSSZoom?: number }).currentCSSZoom ?? 1)
}
