import dynamic from 'next/dynamic'
import { drawGrid } from './grid-picture'
import type { KindCover } from '../cover'

export const gridCover: KindCover<'grid'> = {
  what: 'cells to draw on',
  Dialog: dynamic(() => import('./NewGridDialog').then((module) => module.NewGridDialog)),
  draw(pen, { grid, name }) {
    const columns = grid.floor[0].length
    const rows = grid.floor.length
    const side = 240 / Math.max(columns * 0.75, rows)
    drawGrid(pen, { grid }, side)
    return { width: columns * side, height: rows * side, title: `The board of ${name}` }
  },
}
