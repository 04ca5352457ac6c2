/** Until when one may hand in. @param closesAt  ISO 8601; null for no end */
export function closingText(closesAt: string | null, now = new Date()): string {
  if (closesAt === null) return 'No closing time'
  const at = new Date(closesAt)
  const words = at.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
  return at > now ? `Closes on ${words}` : `Closed on ${words}`
}
