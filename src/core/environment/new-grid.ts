import { emptyGrid } from '../grid/edit'
import { FORMAT, VERSION, type GridEnvironment } from './document'

/** An empty grid to begin with: plain floor, a step costs 1, no start and no ending yet. */
export function newGridEnvironment(name: string, columns: number, rows: number): GridEnvironment {
  return {
    format: FORMAT,
    version: VERSION,
    kind: 'grid',
    name,
    note: '',
    discount: 0.95,
    cap: 200,
    grid: emptyGrid(columns, rows),
  }
}
