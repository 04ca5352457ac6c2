import Papa from 'papaparse'
import { plainName } from '../../formats/csv'
import { refuseLongLines } from '../../formats/text'
import { ProblemError, refuse, type Problem } from '../../problem'
import { groundNamed, readThings, type CellThings } from './cell-text'
import { cellName } from './cells'
import { checkGridShape } from './check-grid'
import { MARKS } from './grid-text'
import { PLAIN_GRID, THING_LISTS, WALL, type Grid, type Ground, type ThingList } from './document'
import { gridSchema } from './schema'
import { HEAD, RULE_NAMES, RULES, type RuleName } from './text-rules'

const PROBLEM_LIMIT = 20

/** A line that names more than a character: a rule of moving, or a number of the environment. */
const LONG_LINE = /^([a-z][a-z ]+?)\s*=\s*(\S+)$/

/** Discount and cap, where a map says them. @throws ProblemError for one that is out of range */
export function headOfMap(text: string): { discount?: number; cap?: number } {
  const head: { discount?: number; cap?: number } = {}
  text.split(/\r?\n/).forEach((line, i) => {
    const [, name, value] = LONG_LINE.exec(line.trim()) ?? []
    if (!(HEAD as readonly string[]).includes(name)) return
    const number = Number(value)
    const fits =
      name === 'cap' ? Number.isInteger(number) && number >= 0 && number <= 1e6 : number >= 0 && number <= 1
    if (!fits)
      refuse(
        `line ${i + 1}`,
        `The ${name} is ${value}.`,
        name === 'cap' ? 'Write a whole number from 0, for no cap.' : 'Write a number from 0 to 1.',
      )
    head[name as 'discount' | 'cap'] = number
  })
  return head
}

/**
 * Reads a grid's floor and things from a text map or a CSV, told apart by a comma or a tab in the first line.
 * @param base  whose rules of moving are kept, and whose grounds are known; it may have none
 * @throws ProblemError with line and column of everything wrong, up to twenty places
 */
export function readGridText(text: string, base: Grid): Grid {
  const plain = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n')
  refuseLongLines(plain)
  if (plain.trim() === '') refuse('line 1', 'There is no text.', 'Paste a map or a CSV.')
  const first = plain.slice(0, plain.indexOf('\n') < 0 ? undefined : plain.indexOf('\n'))
  return /[,\t]/.test(first) ? readCsv(plain, base) : readMap(plain, base)
}

interface Draft {
  readonly floor: string[]
  readonly things: { [L in ThingList]: object[] }
  readonly problems: Problem[]
}

function emptyDraft(): Draft {
  return {
    floor: [],
    things: Object.fromEntries(THING_LISTS.map((list) => [list, []])) as unknown as Draft['things'],
    problems: [],
  }
}

function readMap(text: string, base: Grid): Grid {
  const lines = text.split('\n').map((line) => line.replace(/\s+$/, ''))
  const top = lines.findIndex((line) => line !== '')
  const gap = lines.findIndex((line, i) => i > top && line === '')
  const rows = lines.slice(top, gap < 0 ? undefined : gap)
  const draft = emptyDraft()
  const usesPlain = rows.some((line) => line.includes(PLAIN_GRID.grounds[0].symbol))
  const legend = gap < 0 ? [] : lines.slice(gap)
  const { grounds, marks, rules } = readLegend(legend, gap + 1, base, usesPlain, draft.problems)
  const symbols = new Set([WALL, ...grounds.map(({ symbol }) => symbol)])
  rows.forEach((line, row) => {
    let floor = ''
    Array.from(line).forEach((character, column) => {
      const place = `line ${top + row + 1}, column ${column + 1}`
      const mark = marks.get(character)
      if (mark) {
        const { things, symbol } = mark
        addThings(draft, things, cellName(column, row))
        floor += symbol
        return
      }
      if (symbols.has(character)) floor += character
      else {
        floor += grounds[0].symbol
        if (draft.problems.length < PROBLEM_LIMIT)
          draft.problems.push({
            place,
            cause: `Nothing says what “${character}” is.`,
            remedy: `Use ${[...symbols].join(' ')}, or add a line below the map: ${character} = ending 10.`,
          })
      }
    })
    draft.floor.push(floor)
  })
  return finish(draft, { ...base, ...rules, grounds })
}

/** The lines below a map: grounds, and what else a character stands for. */
function readLegend(
  lines: readonly string[],
  before: number,
  base: Grid,
  usesPlain: boolean,
  problems: Problem[],
) {
  let grounds: readonly Ground[] = base.grounds
  const defined: Ground[] = []
  const waiting: { mark: string; words: string; place: string }[] = []
  const rules: Partial<Record<RuleName, Grid[RuleName]>> = {}
  lines.forEach((line, i) => {
    if (line === '') return
    const place = `line ${before + i}`
    const [, long, value] = LONG_LINE.exec(line) ?? []
    const rule = RULE_NAMES.find((each) => RULES[each].name === long)
    if (rule) rules[rule] = RULES[rule].read(value)
    if (rule || (HEAD as readonly string[]).includes(long)) return
    const match = /^(\S)\s*=\s*(.+)$/u.exec(line)
    if (!match) {
      problems.push({
        place,
        cause: `“${line.slice(0, 40)}” does not say what a character stands for.`,
        remedy: `Write X = ending 10, or a rule such as step reward = -1 (${RULE_NAMES.map((each) => RULES[each].name).join(', ')}); leave no blank line inside the map.`,
      })
      return
    }
    const [, mark, words] = match
    const ground = words.includes(';') ? undefined : readGround(words, mark)
    if (ground) defined.push(ground)
    else waiting.push({ mark, words, place })
  })
  const redefined = (symbol: string) => defined.find((each) => each.symbol === symbol)
  const added = defined.filter(({ symbol }) => grounds.every((each) => each.symbol !== symbol))
  grounds = [...grounds.map((ground) => redefined(ground.symbol) ?? ground), ...added]
  const [plain] = PLAIN_GRID.grounds
  if (grounds.length === 0 || (base.grounds.length === 0 && usesPlain && !redefined(plain.symbol)))
    grounds = [plain, ...grounds]
  const marks = new Map<string, { things: CellThings; symbol: string }>()
  for (const { mark, words, place } of waiting)
    collect(problems, () => marks.set(mark, readCell(words, place, grounds)))
  return { grounds, marks, rules: rules as Partial<Grid> }
}

/** `ground carpet, cost 1, veer 0.1`; undefined when a text says something else. */
function readGround(words: string, symbol: string): Ground | undefined {
  const [, name, cost, veer] =
    /^ground\s+(.+?)(?:,\s*cost\s+(\S+?))?(?:,\s*veer\s+(\S+))?$/i.exec(words) ?? []
  if (name === undefined) return undefined
  return {
    symbol,
    name: name.slice(0, 40),
    cost: cost === undefined ? 0 : Number(cost),
    veer: veer === undefined ? null : Number(veer),
  }
}

function readCell(
  words: string,
  place: string,
  grounds: readonly Ground[],
): { things: CellThings; symbol: string } {
  const { things, rest } = readThings(words, place)
  let symbol = grounds[0].symbol
  for (const item of rest) {
    if (item === WALL || item.toLowerCase() === 'wall') {
      symbol = WALL
      continue
    }
    const ground = groundNamed(item, grounds)
    if (!ground)
      refuse(
        place,
        `“${item.slice(0, 40)}” is neither a ground nor a thing.`,
        `Grounds are ${grounds.map(({ name }) => name).join(', ')}; things are start, ending, bonus, send-back, jump, token, gate, draught.`,
      )
    symbol = ground!.symbol
  }
  return { things, symbol }
}

function readCsv(text: string, known: Grid): Grid {
  const { data, errors } = Papa.parse<string[]>(text.replace(/\n+$/, ''), {
    delimiter: /\t/.test(text.slice(0, text.indexOf('\n') < 0 ? undefined : text.indexOf('\n'))) ? '\t' : ',',
  })
  const base = { ...known, grounds: groundsOf(data, known.grounds) }
  const draft = emptyDraft()
  for (const error of errors)
    if (error.type === 'Quotes')
      draft.problems.push({
        place: `row ${(error.row ?? 0) + 1}`,
        cause: 'A quoted field is not closed, or text follows its closing quote.',
        remedy: 'Close it, and write a quote inside a field twice.',
      })
  data.forEach((fields, row) => {
    let floor = ''
    fields.forEach((field, column) => {
      const at = cellName(column, row)
      collect(draft.problems, () => {
        const { things, symbol } = readCell(
          withoutNumbers(plainName(field.trim())),
          `row ${row + 1}, field ${column + 1} (${at})`,
          base.grounds,
        )
        addThings(draft, things, at)
        floor += symbol
      })
    })
    draft.floor.push(floor)
  })
  return finish(draft, base)
}

/** The grounds that are known, and those that the fields of a CSV name besides. */
function groundsOf(data: readonly (readonly string[])[], known: readonly Ground[]): readonly Ground[] {
  const grounds = [...(known.length ? known : PLAIN_GRID.grounds)]
  for (const item of data.flat().flatMap((field) => plainName(field.trim()).split(';'))) {
    const mark = MARKS.find((each) => grounds.every(({ symbol }) => symbol !== each))!
    const ground = readGround(item.trim(), mark)
    if (ground && !groundNamed(`ground ${ground.name}`, grounds)) grounds.push(ground)
  }
  return grounds
}

/** A field without what its ground costs, which was read already. */
function withoutNumbers(field: string): string {
  return field
    .split(';')
    .map((item) => {
      const ground = readGround(item.trim(), ' ')
      return ground ? ` ground ${ground.name}` : item
    })
    .join(';')
    .trim()
}

function addThings(draft: Draft, things: CellThings, at: string): void {
  for (const [list, thing] of Object.entries(things)) draft.things[list as ThingList].push({ at, ...thing })
}

/** The grid of a draft, checked like any document. */
function finish({ floor, things, problems }: Draft, base: Grid): Grid {
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
  const { error, value } = gridSchema.validate(
    { ...base, floor, ...things },
    { abortEarly: false, convert: false },
  )
  if (error)
    throw new ProblemError(
      error.details.slice(0, PROBLEM_LIMIT).map(({ path, message }) => ({
        place: path.join('.'),
        cause: `${message.replace(/^"[^"]*" /, 'It ')}.`,
        remedy: 'See docs/formats.md for what may stand there.',
      })),
    )
  checkGridShape(value as Grid)
  return value as Grid
}

function collect(problems: Problem[], run: () => void): void {
  try {
    run()
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    if (problems.length < PROBLEM_LIMIT) problems.push(...error.problems)
  }
}
