import Papa from 'papaparse'
import type { Model } from '../model/model'
import { writeCsv } from '../formats/csv'
import { refuseLongLines } from '../formats/text'
import { ProblemError, refuse, type Problem } from '../problem'

/** One line of a transition list: state, action, next state, probability, expected reward. */
export type Transition = readonly [
  state: string,
  action: string,
  next: string,
  probability: number,
  reward: number,
]

const COLUMNS = ['state', 'action', 'next_state', 'probability', 'reward'] as const
/** Problems reported at once; a file with more is usually wrong in one way. */
const PROBLEM_LIMIT = 20

/**
 * Reads a transition list (RFC 4180; UTF-8, BOM and CRLF accepted; columns in any order, extra ones refused).
 * Blanks around names and numbers do not count. That the probabilities of a row sum to 1 is checked when the
 * list is compiled.
 *
 * @throws ProblemError naming line and column of everything wrong, up to twenty places
 */
export function parseTransitionList(text: string): Transition[] {
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
  rows.forEach((row, i) => {
    if (problems.length >= PROBLEM_LIMIT || (row.length === 1 && row[0].trim() === '')) return
    const transition = readRow(row, header.length, place, `line ${lines[i + 1]}`, problems)
    if (transition) transitions.push(transition)
  })
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
  if (transitions.length === 0)
    refuse('line 2', 'The list has a header and no rows.', 'Add a line for each outcome of each action.')
  return transitions
}

/** The transition list of any compiled model; reading it back gives the same states, rows and outcomes. */
export function writeTransitionList(model: Model): string {
  return writeCsv(COLUMNS, transitionRows(model))
}

function* transitionRows(model: Model): Generator<(string | number)[]> {
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
        yield [
          model.labels[s],
          model.actions[model.rowAction[r]],
          model.labels[model.outcomeState[o]],
          model.outcomeProbability[o],
          model.outcomeReward[o],
        ]
}

function readHeader(header: readonly string[]): Record<(typeof COLUMNS)[number], number> {
  const names = header.map((name) => name.trim())
  const problems: Problem[] = []
  const remedy = `The header is ${COLUMNS.join(',')}, in any order.`
  for (const column of COLUMNS)
    if (!names.includes(column))
      problems.push({ place: 'line 1', cause: `The column "${column}" is missing.`, remedy })
  names.forEach((name, i) => {
    const known = (COLUMNS as readonly string[]).includes(name)
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
  return Object.fromEntries(COLUMNS.map((column) => [column, names.indexOf(column)])) as Record<
    (typeof COLUMNS)[number],
    number
  >
}

function readRow(
  row: readonly string[],
  width: number,
  place: Record<(typeof COLUMNS)[number], number>,
  line: string,
  problems: Problem[],
): Transition | undefined {
  const before = problems.length
  if (row.length !== width) {
    problems.push({
      place: line,
      cause: `It has ${row.length} field${row.length === 1 ? '' : 's'} where the header has ${width}.`,
      remedy: 'Write every field, and put a name that holds a comma in quotes.',
    })
    return undefined
  }
  const name = (column: (typeof COLUMNS)[number]) => {
    const text = row[place[column]].trim()
    if (text === '')
      problems.push({ place: `${line}, column ${column}`, cause: 'It is empty.', remedy: 'Write a name.' })
    else if (text.length > 200)
      problems.push({
        place: `${line}, column ${column}`,
        cause: `The name "${clip(text)}" has ${text.length} characters.`,
        remedy: 'Names have at most 200.',
      })
    return text
  }
  const number = (column: 'probability' | 'reward', low: number, high: number, range: string) => {
    const text = row[place[column]].trim()
    const value = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : NaN
    if (!(value >= low && value <= high))
      problems.push({
        place: `${line}, column ${column}`,
        cause: `"${clip(text)}" is not ${range}.`,
        remedy: `Write ${range} with a decimal point.`,
      })
    return value
  }
  const transition: Transition = [
    name('state'),
    name('action'),
    name('next_state'),
    number('probability', 0, 1, 'a number from 0 to 1'),
    number('reward', -1e300, 1e300, 'a finite number'),
  ]
  return problems.length === before ? transition : undefined
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
