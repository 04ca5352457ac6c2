/** What drawing may take before the page is given a rest, in milliseconds: two frames of a screen, as one may be waited for. */
const QUICK = 34

/**
 * Calls back when what was just put on the page has been drawn, and after as long a rest as a slow drawing took:
 * however fast a worker is, half of the page's time is left for the person at it.
 */
export function afterDrawing(done: () => void): void {
  // Without a screen, as in tests, nothing is drawn.
  if (typeof requestAnimationFrame === 'undefined') return void setTimeout(done)
  const began = performance.now()
  // A task that is begun in a frame has its turn after that frame was drawn.
  requestAnimationFrame(() =>
    setTimeout(() => {
      const spent = performance.now() - began
      if (spent > QUICK * 1.2) setTimeout(done, Math.min(spent, 250))
      else done()
    }),
  )
}
