/**
 * One CSV text, RFC 4180: quotes only where needed, CRLF line ends.
 * Numbers are written in full, so that reading them back gives the same bits.
 */
export function writeCsv(header: readonly string[], rows: Iterable<readonly (string | number)[]>): string {
  let text = header.map(quote).join(',') + '\r\n'
  for (const row of rows) text += row.map(quote).join(',') + '\r\n'
  return text
}

function quote(field: string | number): string {
  const text = String(field)
  return /[",\r\n]/.test(text) || text !== text.trim() ? `"${text.replaceAll('"', '""')}"` : text
}
