/**
 * One CSV text, RFC 4180: quotes only where needed, CRLF line ends.
 * Numbers are written in full, so that reading them back gives the same bits. A name that a spreadsheet would take for a
 * formula gets an apostrophe in front (see {@link plainName}).
 */
export function writeCsv(header: readonly string[], rows: Iterable<readonly (string | number)[]>): string {
  let text = header.map(quote).join(',') + '\r\n'
  for (const row of rows) text += row.map(quote).join(',') + '\r\n'
  return text
}

function quote(field: string | number): string {
  const text = typeof field === 'string' ? guarded(field) : String(field)
  return /[",\r\n]/.test(text) || text !== text.trim() ? `"${text.replaceAll('"', '""')}"` : text
}

/** What spreadsheets run as a formula, whether or not it is in quotes; with any number of apostrophes before it. */
const FORMULA = /^'*[=+\-@]/

function guarded(name: string): string {
  return FORMULA.test(name) ? `'${name}` : name
}

/** A name as it was before it was written: without the apostrophe that keeps a spreadsheet from running it. */
export function plainName(field: string): string {
  return field.startsWith("'") && FORMULA.test(field) ? field.slice(1) : field
}
