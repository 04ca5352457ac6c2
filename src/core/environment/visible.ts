/** Fields whose text has lines of its own. */
const LINED: ReadonlySet<string> = new Set(['note', 'text', 'working'])
/** What moves the cursor or says nothing: control characters and the two line separators. */
const UNSEEN = /[\p{Cc}\u2028\u2029]/gu
const UNSEEN_IN_LINES = /(?![\t\n\r])[\p{Cc}\u2028\u2029]/gu

/**
 * A parsed value with every control character in its texts and keys as a sign that can be seen (`␀`, `␉`): names go into files
 * and pictures of many forms, and not all of them can hold the others. Line ends and tabs stay where a text has lines.
 * @returns the very same value where there is none
 */
export function withVisibleSigns<T>(value: T, key = ''): T {
  if (typeof value === 'string') return visible(value, LINED.has(key)) as T
  if (Array.isArray(value)) {
    const items = value.map((each: unknown) => withVisibleSigns(each))
    return items.some((each, i) => each !== value[i]) ? (items as T) : value
  }
  if (typeof value !== 'object' || value === null) return value
  const before = Object.entries(value)
  const after = before.map(([name, each]) => [visible(name, false), withVisibleSigns(each, name)] as const)
  return after.some(([name, each], i) => name !== before[i][0] || each !== before[i][1])
    ? (Object.fromEntries(after) as T)
    : value
}

function visible(text: string, hasLines: boolean): string {
  return text.replace(hasLines ? UNSEEN_IN_LINES : UNSEEN, (sign) => {
    const code = sign.codePointAt(0)!
    if (code < 0x20) return String.fromCodePoint(0x2400 + code)
    return code === 0x7f ? '\u2421' : code < 0x2000 ? '\ufffd' : '\u2424'
  })
}
