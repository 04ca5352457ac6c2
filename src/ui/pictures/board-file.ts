import { formatCount, formatNumber } from '../../core/formats/number'
import { CanvasPen, cssColour, type Palette } from '../board/canvas-pen'
import { dialAngles, drawNeedle, drawPivot } from '../board/glyphs'
import type { BoardLegend } from '../board/legends'
import type { Colour, Pen } from '../board/pen'
import { ShiftedPen } from '../board/shifted-pen'
import { SvgPen } from '../board/svg-pen'
import { countTint } from '../board/scales'
import { valueColour } from '../board/value-scale'
import type { TakeablePicture } from './picture-shelf'

/** What a picture says below itself. */
export type PictureLegend =
  | BoardLegend
  /** Which way a needle points for which action. */
  | { readonly title: string; readonly actions: readonly string[] }

export interface BoardFile {
  readonly title: string
  readonly width: number
  readonly height: number
  readonly legends: readonly PictureLegend[]
  draw(pen: Pen): void
}

const MARGIN = 12
const HEAD = 30
const LEGEND = 26
/** Pixels of a PNG for each of the board's: sharp on paper. */
const SHARP = 2
const FONT = '"Source Sans 3 Variable", "Source Sans 3", "Arial Narrow", Arial, sans-serif'

/** A board as a file of its own: its name above, the picture, its legends below, on paper. */
export function boardFile(file: BoardFile, palette: Palette): TakeablePicture {
  const width = Math.max(file.width, 360) + 2 * MARGIN
  const height = file.height + HEAD + file.legends.length * LEGEND + 2 * MARGIN
  const draw = (pen: Pen) => {
    pen.rectangle(0, 0, width, height, { fill: 'paper' })
    pen.text(MARGIN, MARGIN + 10, file.title, { size: 17, colour: 'ink', align: 'left', bold: true })
    file.draw(new ShiftedPen(pen, MARGIN, MARGIN + HEAD))
    file.legends.forEach((legend, i) =>
      drawLegend(new ShiftedPen(pen, MARGIN, MARGIN + HEAD + file.height + 8 + i * LEGEND), legend),
    )
  }
  return {
    svg() {
      const pen = new SvgPen((colour) => cssColour(palette, colour))
      draw(pen)
      return pen.svg(width, height, file.title, FONT)
    },
    async png() {
      const canvas = document.createElement('canvas')
      canvas.width = Math.round(width * SHARP)
      canvas.height = Math.round(height * SHARP)
      const context = canvas.getContext('2d')!
      context.scale(SHARP, SHARP)
      draw(new CanvasPen(context, palette, FONT))
      return pngOf(canvas)
    },
  }
}

export function pngOf(canvas: HTMLCanvasElement): Promise<Blob> {
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture is too large.')))),
  )
}

function drawLegend(pen: Pen, legend: PictureLegend): void {
  const words = { size: 13, colour: 'ink-soft', align: 'left' } as const
  const y = 9
  let x = 0
  const say = (text: string) => {
    pen.text(x, y, text, words)
    x += text.length * 6.6 + 10
  }
  say(legend.title)
  if ('actions' in legend) {
    const angles = dialAngles(legend.actions)
    legend.actions.slice(0, 8).forEach((action, k) => {
      drawNeedle(pen, x + 8, y, 20, angles[k], 1)
      drawPivot(pen, x + 8, y, 20)
      x += 22
      say(action)
    })
    if (legend.actions.length > 8) say(`… of ${legend.actions.length}`)
    return
  }
  const [steps, width] = [48, 3]
  const band = (colour: (part: number) => Colour) => {
    for (let i = 0; i < steps; i++)
      pen.rectangle(x + i * width, y - 6, width + 0.5, 12, { fill: colour((i + 0.5) / steps) })
    pen.rectangle(x, y - 6, steps * width, 12, { stroke: 'rule-strong', width: 1 })
  }
  if ('most' in legend) {
    say('0')
    band(countTint)
    x += steps * width + 8
    return say(formatCount(legend.most))
  }
  const { scale } = legend
  if (scale.high === scale.low) return say(`${formatNumber(scale.low)} everywhere`)
  say(formatNumber(scale.low))
  band((part) => valueColour(scale, scale.low + part * (scale.high - scale.low)))
  const middle = x + (steps * width * (scale.middle - scale.low)) / (scale.high - scale.low)
  pen.line(middle, y - 9, middle, y + 9, { stroke: 'ink', width: 1 })
  x += steps * width + 8
  say(formatNumber(scale.high))
  say(`midpoint ${formatNumber(scale.middle)}`)
}
