/** The family that pictures are lettered in. */
const FAMILY = 'Source Sans 3 Variable'

/**
 * A picture as a file that stands alone: with the parts of the typeface that it uses inside, so that it looks the same
 * where the typeface is not installed, and without signs that XML does not allow. Readers that do not know embedded
 * typefaces fall back on the ones named beside it.
 */
export async function finishedSvg(svg: string): Promise<string> {
  const sound = withoutForbidden(svg)
  const faces = await Promise.all(
    pageFaces()
      .filter(({ range }) => holdsAny(range, sound))
      .map(async ({ source }) => {
        const response = await fetch(source)
        return `@font-face{font-family:'${FAMILY}';font-weight:200 900;src:url(data:font/woff2;base64,${base64(new Uint8Array(await response.arrayBuffer()))}) format('woff2')}`
      }),
  ).catch(() => [])
  return sound.replace(/<svg[^>]*>/, (open) =>
    faces.length ? `${open}<style>${faces.join('')}</style>` : open,
  )
}

/** Signs that may not stand in an XML text, whichever way they are written (XML 1.0, section 2.2). */
export function withoutForbidden(text: string): string {
  return text.replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
}

interface Face {
  readonly source: string
  /** `U+0-FF, U+131`; empty for all signs. */
  readonly range: string
}

/** The files of the typeface that the page was given. */
function pageFaces(): Face[] {
  const faces: Face[] = []
  for (const sheet of document.styleSheets)
    for (const rule of sheet.cssRules) {
      if (!(rule instanceof CSSFontFaceRule)) continue
      const { style } = rule
      if (style.getPropertyValue('font-family').replace(/["']/g, '') !== FAMILY) continue
      const [, address] = /url\(["']?([^"')]+)["']?\)/.exec(style.getPropertyValue('src')) ?? []
      if (address)
        faces.push({
          source: new URL(address, sheet.href ?? document.baseURI).href,
          range: style.getPropertyValue('unicode-range'),
        })
    }
  return faces
}

/** Whether a text uses a sign of a range, other than a space. */
export function holdsAny(range: string, text: string): boolean {
  const parts = [...range.matchAll(/U\+([0-9A-F]+)(?:-([0-9A-F]+))?/gi)].map(
    ([, from, to]) => [parseInt(from, 16), parseInt(to ?? from, 16)] as const,
  )
  if (!parts.length) return true
  for (const sign of text) {
    const code = sign.codePointAt(0)!
    if (code > 0x20 && parts.some(([from, to]) => code >= from && code <= to)) return true
  }
  return false
}

function base64(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += 8192)
    text += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return btoa(text)
}
