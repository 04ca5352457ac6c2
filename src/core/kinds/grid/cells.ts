/** Cell names: a column in letters and a row from the top, as on a floor plan: A1, C4, AA12. */
export function cellName(column: number, row: number): string {
  return columnName(column) + (row + 1)
}

export function columnName(column: number): string {
  let letters = ''
  for (let c = column; c >= 0; c = Math.floor(c / 26) - 1)
    letters = String.fromCharCode(65 + (c % 26)) + letters
  return letters
}

/** The column and row, from 0, of a cell name, or undefined when the text is none. */
export function parseCellName(name: string): { column: number; row: number } | undefined {
  const match = /^([A-Z]{1,3})([1-9]\d{0,4})$/.exec(name)
  if (!match) return undefined
  let column = 0
  for (const letter of match[1]) column = column * 26 + (letter.charCodeAt(0) - 64)
  return { column: column - 1, row: Number(match[2]) - 1 }
}
