import { emptyGrid } from './edit'
import { newHead, type GridEnvironment } from '../../environment/document'

/** An empty grid to begin with: plain floor, a step costs 1, no start and no ending yet. */
export function newGridEnvironment(name: string, columns: number, rows: number): GridEnvironment {
  return { ...newHead(name, 'New grid'), kind: 'grid', grid: emptyGrid(columns, rows) }
}
