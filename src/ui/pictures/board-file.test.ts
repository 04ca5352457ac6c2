import { expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { gridDocument } from '../../core/testing/models'
import type { Palette } from '../board/canvas-pen'
import { drawGrid } from '../kinds/grid/grid-picture'
import { INKS } from '../board/pen'
import { boardFile } from './board-file'

const palette = Object.fromEntries(INKS.map((ink, i) => [ink, [i, 100, 200]])) as unknown as Palette

it('is a picture of its own: title, board, legend, colours that need no page', () => {
  const document = gridDocument(['..', '.#'], { endings: [{ at: 'B1', reward: 1, name: '' }] })
  const { model, layout } = compileEnvironment(document)
  const overlay = { values: Float64Array.of(0.5, 0, -0.25) }
  const layers = new Set(['values'] as const)
  const svg = boardFile(
    {
      title: 'Rooms <1> & "2"',
      width: 100,
      height: 100,
      legends: [
        { title: 'value', scale: { low: -0.25, middle: 0, high: 0.5 } },
        { title: 'policy', actions: ['north', 'east'] },
      ],
      draw: (pen) =>
        drawGrid(pen, { grid: document.grid, compiled: { model, layout: layout! }, overlay, layers }, 50),
    },
    palette,
  ).svg()
  expect(svg).toMatch(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" viewBox="0 0 384 206"/)
  expect(svg).toContain('Rooms &lt;1&gt; &amp; &quot;2&quot;')
  expect(svg).not.toContain('var(')
  for (const words of ['value', '−0.25', '0.5', 'midpoint 0', 'policy', 'north', 'east'])
    expect(svg).toContain(`>${words}</text>`)
  // The board lies below the title and inside the margin: its first cell's number is at the cell's centre.
  expect(svg).toMatch(/<text x="37" y="69\.5"[^>]*>0\.50<\/text>/)
})
