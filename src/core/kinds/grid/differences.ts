import type { Split, Change, ChangeLine, Tree } from '../../environment/tree'
import { listNames } from '../../problem'
import type { DocumentOf } from '../kind'
import { cellName, parseCellName } from './cells'
import { WALL, type Grid } from './document'

/** The floor cell by cell, so that two changes of different cells do not touch each other. */
export const FLOOR: Split = {
  items: false,
  split(tree, field) {
    const floor = field as Grid['floor']
    tree.set('columns', floor[0].length)
    tree.set('rows', floor.length)
    const cells: Tree = new Map()
    floor.forEach((symbols, row) => {
      for (let column = 0; column < symbols.length; column++)
        cells.set(cellName(column, row), symbols[column])
    })
    tree.set('floor', cells)
  },
  // Cells that nobody names, in a grid that has grown, are of its first ground; those beyond its edges are gone.
  join(tree) {
    const cells = tree.get('floor') as Tree
    const [first] = (tree.get('grounds') as Tree).values()
    const plain = String((first as Tree).get('symbol'))
    return Array.from({ length: tree.get('rows') as number }, (_, row) =>
      Array.from({ length: tree.get('columns') as number }, (_, column) =>
        String(cells.get(cellName(column, row)) ?? plain),
      ).join(''),
    )
  },
}

/** Changes of the floor, those of many cells from one ground to another together. */
export function describeFloor(
  changes: readonly Change[],
  { grid }: DocumentOf<'grid', Grid>,
): { lines: ChangeLine[]; others: Change[] } {
  const groups = new Map<string, Change[]>()
  const others: Change[] = []
  for (const change of changes) {
    const { path, before, after } = change
    if (path[0] !== 'grid' || path[1] !== 'floor') {
      others.push(change)
      continue
    }
    const key = `${String(before)} ${String(after)}`
    groups.set(key, [...(groups.get(key) ?? []), change])
  }
  const groundName = (symbol: unknown) =>
    symbol === undefined
      ? null
      : symbol === WALL
        ? 'wall'
        : (grid.grounds.find((ground) => ground.symbol === symbol)?.name ?? String(symbol))
  const lines = [...groups.values()].map((cells) => {
    const names = cells.map(({ path }) => path[2]).sort(byPlace)
    return {
      what: `${names.length === 1 ? 'Cell' : `${names.length} cells,`} ${listNames(names, 6)}`,
      before: groundName(cells[0].before),
      after: groundName(cells[0].after),
      changes: cells,
    }
  })
  return { lines, others }
}

function byPlace(x: string, y: string): number {
  const [one, other] = [parseCellName(x)!, parseCellName(y)!]
  return one.row - other.row || one.column - other.column
}
