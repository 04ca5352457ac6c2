/** The number that somebody wrote, with a point or a comma and any sign for minus; null for what is none. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace('−', '-').replace(',', '.')
  const number = plain === '' ? NaN : Number(plain)
  return Number.isFinite(number) ? number : null
}
