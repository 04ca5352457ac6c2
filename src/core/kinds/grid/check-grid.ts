import { ProblemError, type Problem } from '../../problem'
import { cellName, parseCellName } from './cells'
import { HELD_LIMIT, THING_LISTS, WALL, type Grid, type ThingList } from './document'

/** Cells a document may have in all; the editor draws up to 64 x 64. */
const CELL_LIMIT = 500_000
const PROBLEM_LIMIT = 20

/** What people call the things of each list. */
export const THING_NAMES: Record<ThingList, string> = {
  starts: 'start',
  endings: 'ending',
  bonuses: 'bonus',
  sendBacks: 'send-back',
  jumps: 'jump',
  tokens: 'token',
  gates: 'gate',
  draughts: 'draught',
}

/** What a draught may blow over: on the others nobody stays to be carried. */
const UNDER_A_DRAUGHT: readonly ThingList[] = ['starts', 'bonuses', 'tokens', 'gates']

/**
 * What the schema cannot say: equal rows, known symbols, things on open cells that go together, chances that leave
 * room for each other, tokens and cells that others name.
 * @throws ProblemError with up to twenty places
 */
export function checkGrid(grid: Grid): void {
  checkGridShape(grid)
  const problems: Problem[] = []
  checkThings(grid, problems)
  checkChances(grid, problems)
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
}

/**
 * What even a half-drawn grid must be, to be drawn and kept: equal rows, known symbols, things on cells of the floor.
 * @throws ProblemError with up to twenty places
 */
export function checkGridShape(grid: Grid): void {
  const problems: Problem[] = []
  checkFloor(grid, problems)
  const last = cellName(grid.floor[0].length - 1, grid.floor.length - 1)
  for (const list of THING_LISTS)
    grid[list].forEach((thing, i) => {
      for (const field of ['at', 'to'] as const) {
        const name = (thing as { at: string; to?: string | null })[field]
        const cell = name == null ? null : parseCellName(name)
        if (cell === null || (cell && grid.floor[cell.row]?.[cell.column] !== undefined)) continue
        problems.push({
          place: `grid.${list}[${i}]${field === 'to' ? '.to' : ''}`,
          cause: `There is no cell "${name}".`,
          remedy: `Name one from A1 to ${last}.`,
        })
      }
    })
  if (problems.length) throw new ProblemError(problems.slice(0, PROBLEM_LIMIT))
}

function checkFloor(grid: Grid, problems: Problem[]): void {
  const width = grid.floor[0].length
  if (width * grid.floor.length > CELL_LIMIT)
    throw new ProblemError([
      {
        place: 'grid.floor',
        cause: `The grid has ${width} x ${grid.floor.length} = ${width * grid.floor.length} cells.`,
        remedy: `A grid may have ${CELL_LIMIT}; make it smaller.`,
      },
    ])
  const symbols = new Set([WALL, ...grid.grounds.map((ground) => ground.symbol)])
  grid.floor.forEach((row, r) => {
    if (problems.length >= PROBLEM_LIMIT) return
    if (row.length !== width)
      problems.push({
        place: `grid.floor[${r}]`,
        cause: `The row has ${row.length} cells, the first row ${width}.`,
        remedy: 'Make all rows equally long.',
      })
    for (let column = 0; column < row.length; column++)
      if (!symbols.has(row[column])) {
        problems.push({
          place: `grid.floor[${r}], cell ${cellName(column, r)}`,
          cause: `No ground has the symbol "${row[column]}".`,
          remedy: `Use one of ${[...symbols].join(' ')}, or add a ground.`,
        })
        break
      }
  })
}

function checkThings(grid: Grid, problems: Problem[]): void {
  const needOpen = (place: string, name: string): boolean => {
    const { column, row } = parseCellName(name)!
    if (grid.floor[row][column] !== WALL) return true
    problems.push({ place, cause: `Cell ${name} is a wall.`, remedy: 'Move it to an open cell.' })
    return false
  }
  const taken = new Map<string, { list: ThingList; place: string }>()
  for (const list of THING_LISTS)
    grid[list].forEach(({ at }, i) => {
      const place = `grid.${list}[${i}]`
      needOpen(place, at)
      const other = taken.get(at)
      if (!other) taken.set(at, { list, place })
      else if (list !== 'draughts' || !UNDER_A_DRAUGHT.includes(other.list))
        problems.push({
          place,
          cause: `Cell ${at} is already used by ${other.place}.`,
          remedy:
            list === 'draughts' && other.list !== 'draughts'
              ? `A draught cannot blow over ${aThing(other.list)}: keep one of them.`
              : 'Keep one of them.',
        })
    })
  const noPlaceToLand = new Map(
    [...grid.jumps, ...grid.sendBacks].map(({ at }) => [at, taken.get(at)?.place] as const),
  )
  const checkTarget = (place: string, to: string) => {
    if (needOpen(`${place}.to`, to) && noPlaceToLand.has(to))
      problems.push({
        place: `${place}.to`,
        cause: `Cell ${to} leads elsewhere itself (${noPlaceToLand.get(to)}).`,
        remedy: 'Lead to a cell where one can stay.',
      })
  }
  grid.jumps.forEach(({ to }, i) => checkTarget(`grid.jumps[${i}]`, to))
  grid.sendBacks.forEach(({ to }, i) => to !== null && checkTarget(`grid.sendBacks[${i}]`, to))
  const known = grid.tokens.map(({ name }) => name)
  grid.gates.forEach(({ token }, i) => {
    if (!known.includes(token))
      problems.push({
        place: `grid.gates[${i}].token`,
        cause: `There is no token "${token}".`,
        remedy: known.length ? `Name one of ${known.join(', ')}.` : 'Put a token on the grid.',
      })
  })
  const once = grid.bonuses.filter((bonus) => bonus.once).length
  if (once > HELD_LIMIT)
    problems.push({
      place: 'grid.bonuses',
      cause: `${once} bonuses are paid once an episode; each doubles the states.`,
      remedy: `Have at most ${HELD_LIMIT}, or let some pay every time.`,
    })
}

function checkChances(grid: Grid, problems: Problem[]): void {
  const rest = grid.stall + grid.reverse
  const check = (place: string, veer: number, whose: string) => {
    if (veer + rest > 1 + 1e-12)
      problems.push({
        place,
        cause: `${whose} ${veer}, stall ${grid.stall} and reverse ${grid.reverse} are more than 1 together.`,
        remedy: 'Lower one of them.',
      })
  }
  check('grid.veer', grid.veer, 'The chances veer')
  grid.grounds.forEach(({ veer, name }, i) => {
    if (veer !== null) check(`grid.grounds[${i}].veer`, veer, `On ${name} the chances veer`)
  })
}

export function aThing(list: ThingList): string {
  const name = THING_NAMES[list]
  return `${/^[aeiou]/.test(name) ? 'an' : 'a'} ${name}`
}
