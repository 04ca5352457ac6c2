/** How long ago something was, in words; a date when it was more than a week. */
export function sinceText(then: Date, now: Date): string {
  const minutes = Math.floor((now.getTime() - then.getTime()) / 60_000)
  if (minutes < 1) return 'just now'
  if (minutes < 60) return `${minutes} minute${minutes === 1 ? '' : 's'} ago`
  const hours = Math.floor(minutes / 60)
  if (hours < 24) return `${hours} hour${hours === 1 ? '' : 's'} ago`
  const days = Math.floor(hours / 24)
  if (days < 8) return days === 1 ? 'yesterday' : `${days} days ago`
  return `on ${then.toISOString().slice(0, 10)}`
}
