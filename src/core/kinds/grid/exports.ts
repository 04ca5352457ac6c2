import type { ExportForm } from '../../formats/export-form'
import { headLosses, ownLosses } from '../../formats/losses'
import type { DocumentOf } from '../kind'
import { parseCellName } from './cells'
import type { Grid, ThingList } from './document'
import { ruleLines, writeGridCsv, writeGridMap } from './grid-text'

/** The forms that only a grid can be taken away in. */
export const GRID_EXPORTS = {
  map: {
    title: 'Grid (text map)',
    ending: '.txt',
    type: 'text/plain',
    needsModel: false,
    write: (document) => writeGridMap(document.grid, document),
    losses: (document) => [...orderLosses(document.grid), ...ownLosses(document)],
  },
  cells: {
    title: 'Grid (CSV)',
    ending: '-cells.csv',
    type: 'text/csv',
    needsModel: false,
    write: ({ grid }) => writeGridCsv(grid),
    losses: (document) => [
      ...ruleLosses(document.grid),
      ...orderLosses(document.grid),
      ...headLosses(document),
      ...ownLosses(document),
    ],
  },
} as const satisfies Readonly<Record<string, ExportForm<DocumentOf<'grid', Grid>, unknown>>>

/** Lists whose order names states, or says which start is drawn. */
const ORDERED = ['starts', 'bonuses', 'tokens'] as const satisfies readonly ThingList[]

/** Things of a grid that are in another order than that of their cells. */
function orderLosses(grid: Grid): string[] {
  const place = (at: string) => {
    const { column, row } = parseCellName(at)!
    return row * grid.floor[0].length + column
  }
  const mixed = ORDERED.filter((list) =>
    grid[list].some(({ at }, i, all) => i > 0 && place(all[i - 1].at) > place(at)),
  )
  return mixed.length
    ? [
        `Things are read in the order of their cells; ${mixed.join(', ')} were in another order, so that states may be named and numbered otherwise.`,
      ]
    : []
}

function ruleLosses(grid: Grid): string[] {
  const rules = ruleLines(grid)
  return rules.length ? [`Rules of moving are not in it (${rules.join(', ')}); a text map has them.`] : []
}
