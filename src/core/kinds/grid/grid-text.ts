import { writeCsv } from '../../formats/csv'
import { writeThings, type CellThings } from './cell-text'
import { cellName } from './cells'
import { PLAIN_GRID, THING_LISTS, WALL, type Grid, type Ground } from './document'
import { HEAD, RULE_NAMES, RULES } from './text-rules'

/** What lies on each cell that has something. */
function thingsOfCells(grid: Grid): Map<string, CellThings> {
  const cells = new Map<string, CellThings>()
  for (const list of THING_LISTS)
    for (const { at, ...thing } of grid[list]) cells.set(at, { ...cells.get(at), [list]: thing })
  return cells
}

/** Characters for what has no symbol of its own, letters first. */
export const MARKS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789'].concat(
  // Far more kinds of cells than a class can keep apart, but nothing is left out.
  Array.from({ length: 2000 }, (_, i) => String.fromCharCode(0x3400 + i)),
)
/** Characters that would be read as something else. */
const RESERVED = new Set([',', '\t', '='])

/** The rules of moving that are not the plainest, as lines: `step reward = -1`. */
export function ruleLines(grid: Grid): string[] {
  return RULE_NAMES.filter((rule) => grid[rule] !== PLAIN_GRID[rule]).map((rule) => {
    const value = grid[rule]
    return `${RULES[rule].name} = ${typeof value === 'boolean' ? (value ? 'yes' : 'no') : value}`
  })
}

/**
 * A grid as a text map: a character a cell, and below it, after a blank line, what each character stands for.
 * `readGridText` gives the same grid back.
 * @param head  discount and cap of the environment, to stand below it
 */
export function writeGridMap(grid: Grid, head: { discount?: number; cap?: number } = {}): string {
  const legend: string[] = []
  const used = new Set<string>([WALL, ...grid.grounds.map(({ symbol }) => symbol)])
  const spare = (wanted?: string) => {
    const mark = [...(wanted ? [wanted] : []), ...MARKS].find((each) => !used.has(each)) ?? '?'
    used.add(mark)
    return mark
  }
  const symbolOf = new Map<string, string>()
  for (const { symbol, name, cost, veer } of grid.grounds) {
    const shown = RESERVED.has(symbol) ? spare() : symbol
    symbolOf.set(symbol, shown)
    legend.push(`${shown} = ground ${name}, ${groundNumbers({ symbol, name, cost, veer })}`)
  }
  const markOf = new Map<string, string>()
  const cells = thingsOfCells(grid)
  const rows = grid.floor.map((symbols, row) =>
    Array.from(symbols, (symbol, column) => {
      const things = cells.get(cellName(column, row))
      if (!things) return symbolOf.get(symbol) ?? symbol
      const words = [groundWords(symbol, grid), writeThings(things)].filter(Boolean).join('; ')
      let mark = markOf.get(words)
      if (mark === undefined) {
        mark = spare(things.starts ? 'S' : undefined)
        markOf.set(words, mark)
        legend.push(`${mark} = ${words}`)
      }
      return mark
    }).join(''),
  )
  const numbers = HEAD.flatMap((name) => (head[name] === undefined ? [] : [`${name} = ${head[name]}`]))
  return `${rows.join('\n')}\n\n${[...legend, ...ruleLines(grid), ...numbers].join('\n')}\n`
}

/** A grid as CSV: a field a cell, empty for a first ground that costs nothing. Grounds are named with what they cost. */
export function writeGridCsv(grid: Grid): string {
  const cells = thingsOfCells(grid)
  const [first, ...rows] = grid.floor.map((symbols, row) =>
    Array.from(symbols, (symbol, column) => {
      const things = cells.get(cellName(column, row))
      return [describedGround(symbol, grid), things ? writeThings(things) : ''].filter(Boolean).join('; ')
    }),
  )
  return writeCsv(first, rows)
}

/** A ground with what it costs, so that a CSV of cells says all of it. */
function describedGround(symbol: string, grid: Grid): string {
  const ground = grid.grounds.find((each) => each.symbol === symbol)
  if (symbol === WALL || !ground) return groundWords(symbol, grid)
  const plain = ground.cost === 0 && ground.veer === null
  if (plain && ground === grid.grounds[0]) return ''
  return `ground ${ground.name}${plain ? '' : `, ${groundNumbers(ground)}`}`
}

function groundNumbers({ cost, veer }: Ground): string {
  return `cost ${cost}${veer === null ? '' : `, veer ${veer}`}`
}

function groundWords(symbol: string, grid: Grid): string {
  if (symbol === WALL) return 'wall'
  if (symbol === grid.grounds[0].symbol) return ''
  return `ground ${grid.grounds.find((ground) => ground.symbol === symbol)?.name ?? symbol}`
}
