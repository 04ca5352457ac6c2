import { ProblemError, type Problem } from '../../problem'
import { NAME_LIMIT, type Transition } from './transition'

/** The columns of a transition sheet, in their order. */
export const SHEET_COLUMNS = ['state', 'action', 'next_state', 'probability', 'reward'] as const

const ROW_LIMIT = 200_000

/**
 * What a field says, as it goes into the sheet.
 * @param column 0 to 4
 * @throws ProblemError for a number that is none or out of range, and a name that is too long
 */
export function readField(text: string, row: number, column: number): string | number {
  const plain = text.trim()
  const place = `row ${row + 1}, ${SHEET_COLUMNS[column]}`
  if (column < 3) {
    if (plain.length > NAME_LIMIT)
      throw new ProblemError([
        {
          place,
          cause: `The name has ${plain.length} characters.`,
          remedy: `Names have at most ${NAME_LIMIT}.`,
        },
      ])
    return plain
  }
  const dotted = plain.replace('−', '-').replace(/^([+-]?\d*),(\d+)$/, '$1.$2')
  const value = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(dotted) ? Number(dotted) : NaN
  const fits = column === 3 ? value >= 0 && value <= 1 : Math.abs(value) <= 1e300
  if (!fits)
    throw new ProblemError([
      {
        place,
        cause: `“${plain.slice(0, 40)}” is not ${column === 3 ? 'a number from 0 to 1' : 'a finite number'}.`,
        remedy: 'Write it with a decimal point.',
      },
    ])
  return value
}

/** A new line: the same state and action as the one before, the rest still to be filled in. */
export function blankRow(before: Transition | undefined): Transition {
  return [before?.[0] ?? '', before?.[1] ?? '', '', 1, 0]
}

/** The sheet with one field changed. @throws ProblemError, see {@link readField} */
export function putField(
  rows: readonly Transition[],
  row: number,
  column: number,
  text: string,
): readonly Transition[] {
  const value = readField(text, row, column)
  if (rows[row][column] === value) return rows
  return rows.map((each, i) => (i === row ? withField(each, column, value) : each))
}

/**
 * Pastes a block of fields, as it comes from a spreadsheet, with its corner at a field; lines are added at the end as
 * needed. A block that begins with the names of the columns is a whole list and takes the place of all lines.
 * @throws ProblemError naming every field that does not fit, up to twenty; then nothing is changed
 */
export function pasteFields(
  rows: readonly Transition[],
  at: { row: number; column: number },
  fields: readonly (readonly string[])[],
): readonly Transition[] {
  const block = fields.filter((line, i) => !(i === fields.length - 1 && line.length === 1 && line[0] === ''))
  const header = (block[0] ?? []).map((name) => name.trim().toLowerCase().replace(/ /g, '_'))
  const whole = SHEET_COLUMNS.every((name) => header.includes(name))
  const columns = whole
    ? header.map((name) => (SHEET_COLUMNS as readonly string[]).indexOf(name))
    : Array.from({ length: 5 - at.column }, (_, i) => at.column + i)
  const lines = whole ? block.slice(1) : block
  const pasted: Transition[] = whole ? [] : rows.slice()
  const first = whole ? 0 : at.row
  const problems: Problem[] = []
  if (first + lines.length > ROW_LIMIT)
    throw new ProblemError([
      {
        place: 'pasted text',
        cause: `It has ${lines.length} lines.`,
        remedy: `A sheet has up to ${ROW_LIMIT}; import larger lists as a file.`,
      },
    ])
  lines.forEach((line, i) => {
    const row = first + i
    if (!pasted[row]) pasted[row] = blankRow(pasted[row - 1])
    if (!whole && line.length > columns.length && problems.length < 20)
      problems.push({
        place: `row ${row + 1}`,
        cause: `It has ${line.length} fields where ${columns.length} fit.`,
        remedy: 'Paste further to the left, or fewer columns.',
      })
    columns.forEach((column, k) => {
      if (column < 0 || line[k] === undefined || problems.length >= 20) return
      try {
        pasted[row] = withField(pasted[row], column, readField(line[k], row, column))
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        problems.push(...error.problems)
      }
    })
  })
  if (problems.length) throw new ProblemError(problems)
  return pasted
}

function withField(row: Transition, column: number, value: string | number): Transition {
  return row.map((field, i) => (i === column ? value : field)) as unknown as Transition
}
