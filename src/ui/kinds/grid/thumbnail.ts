import { drawGrid } from './grid-picture'
import type { DrawThumbnail } from '../thumbnail'

export const gridThumbnail: DrawThumbnail<'grid'> = (pen, { grid, name }) => {
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const side = 240 / Math.max(columns * 0.75, rows)
  drawGrid(pen, { grid }, side)
  return { width: columns * side, height: rows * side, title: `The board of ${name}` }
}
