import Papa from 'papaparse'
import { plainName } from '../../formats/csv'
import { PROBABILITY_SLACK } from '../../model/builder'
import { refuseLongLines } from '../../formats/text'
import { ProblemError, refuse, type Problem } from '../../problem'
import {
  ALL_COLUMNS,
  COLUMNS,
  EXTRA_COLUMNS,
  NAME_LIMIT,
  type Column,
  type Transition,
  type TransitionList,
} from './transition'

/** Problems reported at once; a file with more is usually wrong in one way. */
const PROBLEM_LIMIT = 20

/**
 * Reads a transition list (RFC 4180; UTF-8, BOM and CRLF accepted; columns in any order, unknown ones refused).
 * Blanks around names and numbers do not count. That the probabilities of a row sum to 1 is checked when the
 * list is compiled.
 *
 * @throws ProblemError naming line and column of everything wrong, up to twenty places
 */
export function parseTransitionList(text: string): TransitionList {
  refuseLongLines(text)
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter: ',' })
  const [header, ...rows] = parsed.data
  const place = readHeader(header ?? [])
  const lines = lineNumbers(parsed.data)
  const problems: Problem[] = parsed.errors
    .filter((error) => error.type === 'Quotes')
    .map((error) => ({
      place: `line ${lines[error.row ?? 0] ?? '?'}`,
      cause: 'A quoted field is not closed, or text follows its closing quote.',
      remedy: 'Close it, and write a quote inside a field twice.',
    }))
  const transitions: Transition[] = []
  const starts = new Map<string, number>()
  const observations = new Map<string, string>()
  rows.forEach((row, i) => {
    if (problems.length >= PROBLEM_LIMIT || (row.length === 1 && row[0].trim() === '')) return
    const line = `line ${lines[i + 1]}`
    const read = readRow(row, header.length, place, line, problems)
    if (!read) return
    const { transition, start, observation } = read
    transitions.push(transition)
    const [state] = transition
    const clash = (column: string) =>
      problems.push({
        place: `${line}, column ${column}`,
        cause: `It says something else of "${clip(state)}" than a line above.`,
        remedy: 'Say it once, in the first line of the state.',
      })
    if (start > 0) {
      if ((starts.get(state) ?? start) !== start) clash('start')
      starts.set(state, start)
    }
    if (observation !== '') {
      if ((observations.get(state) ?? observation) !== observation) clash('observation')
      observations.set(state, observation)
    }
  })
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
  if (transitions.length === 0)
    refuse('line 2', 'The list has a header and no rows.', 'Add a line for each outcome of each action.')
  return {
    transitions,
    starts: Array.from(starts, ([state, weight]) => ({ state, weight })),
    observations: Object.fromEntries(observations),
  }
}

/** Whether a first line is that of a transition list, rather than the first row of a grid. */
export function isListHeader(line: string): boolean {
  const names = line.split(/[,;\t]/).map((name) => name.trim().replace(/^"|"$/g, '').toLowerCase())
  return COLUMNS.filter((column) => names.includes(column)).length >= 2
}

function readHeader(header: readonly string[]): Partial<Record<Column, number>> {
  const names = header.map((name) => name.trim())
  const problems: Problem[] = []
  const remedy = `The header is ${COLUMNS.join(',')}, in any order; ${EXTRA_COLUMNS.join(', ')} may be added.`
  const other = header.length === 1 ? /[;\t]/.exec(header[0])?.[0] : undefined
  if (other)
    refuse(
      'line 1',
      `The fields are separated by ${other === ';' ? 'semicolons' : 'tabs'}.`,
      'Save the list as CSV with commas between the fields and points in the numbers (in a spreadsheet: “CSV UTF-8, comma separated”).',
    )
  if (!names.some((name) => (ALL_COLUMNS as readonly string[]).includes(name)))
    refuse(
      'line 1',
      `The file is neither a transition list nor the cells of a grid: it begins with "${clip(names.join(','))}".`,
      `A list begins with the header ${COLUMNS.join(',')}; of cells, each is a wall, start, ending or another tile by name.`,
    )
  for (const column of COLUMNS)
    if (!names.includes(column))
      problems.push({ place: 'line 1', cause: `The column "${column}" is missing.`, remedy })
  names.forEach((name, i) => {
    const known = (ALL_COLUMNS as readonly string[]).includes(name)
    if (!known)
      problems.push({
        place: `line 1, column ${i + 1}`,
        cause: `There is an extra column "${clip(name)}".`,
        remedy,
      })
    else if (names.indexOf(name) !== i)
      problems.push({ place: `line 1, column ${i + 1}`, cause: `The column "${name}" stands twice.`, remedy })
  })
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
  return Object.fromEntries(
    ALL_COLUMNS.filter((column) => names.includes(column)).map((column) => [column, names.indexOf(column)]),
  )
}

function readRow(
  row: readonly string[],
  width: number,
  place: Partial<Record<Column, number>>,
  line: string,
  problems: Problem[],
): { transition: Transition; start: number; observation: string } | undefined {
  const before = problems.length
  if (row.length !== width) {
    problems.push({
      place: line,
      cause: `It has ${row.length} field${row.length === 1 ? '' : 's'} where the header has ${width}.`,
      remedy: 'Write every field, and put a name that holds a comma in quotes.',
    })
    return undefined
  }
  const field = (column: Column) => row[place[column] ?? -1]?.trim() ?? ''
  const name = (column: Column, needed = true) => {
    const text = plainName(field(column))
    if (text === '' && needed)
      problems.push({ place: `${line}, column ${column}`, cause: 'It is empty.', remedy: 'Write a name.' })
    else if (text.length > NAME_LIMIT)
      problems.push({
        place: `${line}, column ${column}`,
        cause: `The name "${clip(text)}" has ${text.length} characters.`,
        remedy: `Names have at most ${NAME_LIMIT}.`,
      })
    return text
  }
  /** @param otherwise  what an empty field says; one that must be filled in has none */
  const number = (column: Column, low: number, high: number, range: string, otherwise?: number) => {
    const text = field(column)
    if (text === '' && otherwise !== undefined) return otherwise
    const value = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : NaN
    if (!(value >= low && value <= high))
      problems.push({
        place: `${line}, column ${column}`,
        cause: `"${clip(text)}" is not ${range}.`,
        remedy: `Write ${range} with a decimal point.`,
      })
    return value
  }
  const five = [
    name('state'),
    name('action'),
    name('next_state'),
    // Chances that were added up may be off by a rounding.
    number('probability', 0, 1 + PROBABILITY_SLACK, 'a number from 0 to 1'),
    number('reward', -1e300, 1e300, 'a finite number'),
  ] as const
  const discount = number('discount', 0, 1, 'a number from 0 to 1', 1)
  const start = number('start', 0, 1e9, 'a weight from 0', 0)
  const observation = name('observation', false)
  const transition: Transition = discount === 1 ? five : [...five, discount]
  return problems.length === before ? { transition, start, observation } : undefined
}

/** The line each row begins on; a quoted field may hold line ends of its own. */
function lineNumbers(rows: readonly (readonly string[])[]): number[] {
  let line = 1
  return rows.map((row) => {
    const here = line
    line += 1
    for (const field of row) for (const char of field) if (char === '\n') line += 1
    return here
  })
}

function clip(text: string): string {
  return text.length > 40 ? `${text.slice(0, 40)}…` : text
}
