import { newHead } from '../../environment/head'
import type { DocumentOf } from '../kind'
import type { Grid } from './document'
import { emptyGrid } from './edit'

/** An empty grid to begin with: plain floor, a step costs 1, no start and no ending yet. */
export function newGrid(name: string, columns = 11, rows = 7): DocumentOf<'grid', Grid> {
  return { ...newHead(name, 'New grid'), kind: 'grid', grid: emptyGrid(columns, rows) }
}
