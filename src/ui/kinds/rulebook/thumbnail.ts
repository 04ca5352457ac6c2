import type { DrawThumbnail } from '../thumbnail'

/** Lines shown, and letters of a line. */
const LINES = 15
const LINE = 40

export const rulebookThumbnail: DrawThumbnail<'rulebook'> = (pen, { rulebook: { text }, name }) => {
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  const lines = text.split('\n').filter((line) => line.trim() !== '' && !line.trim().startsWith('#'))
  lines.slice(0, LINES).forEach((line, i) => {
    const shown = line.length > LINE ? `${line.slice(0, LINE - 1)}…` : line
    pen.text(12, 17 + i * 15, shown, { size: 11.5, colour: 'ink', align: 'left' })
  })
  return { width: 240, height: 240, title: `The first lines of ${name}` }
}
