import { formatCount } from '../../formats/number'
import { listNames } from '../../problem'
import type { KindFinding } from '../inspection'
import { cellName, parseCellName } from './cells'
import type { GridLayout } from './compile'
import { WALL, type Grid } from './document'

/** What of a grid no episode comes to: endings, and open floor. */
export function gridFindings(grid: Grid, { columns, rows, slices }: GridLayout): KindFinding[] {
  const isReached = (cell: number) => slices.some(({ stateOfCell }) => stateOfCell[cell] >= 0)
  const cellAt = (at: string) => {
    const { column, row } = parseCellName(at)!
    return row * columns + column
  }
  // Nobody stays on a jump or a send-back: no state is there, however often it is entered.
  const passedThrough = new Set([...grid.jumps, ...grid.sendBacks].map(({ at }) => cellAt(at)))
  const endings = new Set(grid.endings.map(({ at }) => cellAt(at)))
  const lost: string[] = []
  for (let cell = 0; cell < columns * rows; cell++) {
    const [column, row] = [cell % columns, Math.floor(cell / columns)]
    if (grid.floor[row][column] === WALL || isReached(cell)) continue
    if (!passedThrough.has(cell) && !endings.has(cell)) lost.push(cellName(column, row))
  }
  return [
    ...grid.endings
      .filter(({ at }) => !isReached(cellAt(at)))
      .map(({ at, name }): KindFinding => ({
        rule: 'never-ends',
        where: at,
        cause: `No episode can come to the ending ${name ? `${name} in ${at}` : `in ${at}`}.`,
        remedy: 'Open a way to it, or take it away.',
        path: [],
        cells: [at],
      })),
    ...(lost.length
      ? [
          {
            rule: 'unreached',
            where: lost[0],
            cause: `No episode can come to ${lost.length === 1 ? `the cell ${lost[0]}` : `${formatCount(lost.length)} open cells: ${listNames(lost)}`}.`,
            remedy: 'Open a way there, or make them walls.',
            path: [],
            cells: lost,
          } as const,
        ]
      : []),
  ]
}

/** How the states of a grid come about. */
export function gridSizeStory({ slices }: GridLayout): string {
  const cells = slices[0].stateOfCell.reduce((sum, state) => sum + (state >= 0 ? 1 : 0), 0)
  if (slices.length === 1) return `one for each of ${formatCount(cells)} cells that an episode can come to`
  return `the cells that an episode can come to, for each of ${formatCount(slices.length)} combinations of what is held and spent`
}
