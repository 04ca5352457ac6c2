import type { Colour, Paint, Pen, TextStyle, Tiles } from './pen'

/** The edges of a rectangle, in pixels. */
export interface Box {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/** One call of a pen: which it is, with what numbers and words, and the box that all it draws lies in. */
export interface Stroke {
  readonly kind: keyof Pen
  readonly numbers: readonly number[]
  readonly style: Paint | TextStyle | Tiles
  readonly text: string
  readonly box: Box
}

/** After a stroke that is new or gone the same strokes are looked for so far ahead. */
const AHEAD = 12
/** Letters are no wider than this, in heights. */
const WIDEST = 1.1

/** A pen that draws nothing but notes what is to be drawn. */
export class NotingPen implements Pen {
  readonly strokes: Stroke[] = []

  rectangle(x: number, y: number, width: number, height: number, paint: Paint): void {
    const box = { left: x, top: y, right: x + width, bottom: y + height }
    this.note('rectangle', [x, y, width, height], paint, around(box, paint))
  }

  polygon(points: readonly number[], paint: Paint): void {
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let i = 0; i < points.length; i += 2) {
      left = Math.min(left, points[i])
      right = Math.max(right, points[i])
      top = Math.min(top, points[i + 1])
      bottom = Math.max(bottom, points[i + 1])
    }
    this.note('polygon', points, paint, around({ left, top, right, bottom }, paint))
  }

  line(x1: number, y1: number, x2: number, y2: number, paint: Paint): void {
    const box = {
      left: Math.min(x1, x2),
      top: Math.min(y1, y2),
      right: Math.max(x1, x2),
      bottom: Math.max(y1, y2),
    }
    this.note('line', [x1, y1, x2, y2], paint, around(box, paint))
  }

  circle(x: number, y: number, radius: number, paint: Paint): void {
    this.note('circle', [x, y, radius], paint, around(square(x, y, radius), paint))
  }

  arc(x: number, y: number, radius: number, from: number, to: number, paint: Paint): void {
    this.note('arc', [x, y, radius, from, to], paint, around(square(x, y, radius), paint))
  }

  mosaic(tiles: Tiles): void {
    const { x, y, cellWidth, cellHeight, columns, rows } = tiles
    const box = { left: x, top: y, right: x + columns * cellWidth, bottom: y + rows * cellHeight }
    this.note('mosaic', [], tiles, box)
  }

  text(x: number, y: number, text: string, style: TextStyle): void {
    const { size, align = 'middle', upwards } = style
    const long = text.length * size * WIDEST + size
    const [before, after] =
      align === 'left' ? [size, long] : align === 'right' ? [long, size] : [long / 2, long / 2]
    const box = upwards
      ? { left: x - size, top: y - after, right: x + size, bottom: y + before }
      : { left: x - before, top: y - size, right: x + after, bottom: y + size }
    this.note('text', [x, y], style, box, text)
  }

  private note(
    kind: Stroke['kind'],
    numbers: readonly number[],
    style: Stroke['style'],
    box: Box,
    text = '',
  ): void {
    this.strokes.push({ kind, numbers, style, text, box })
  }
}

/** Draws a stroke that was noted. */
export function drawStroke(pen: Pen, { kind, numbers: [a, b, c, d, e], numbers, style, text }: Stroke): void {
  switch (kind) {
    case 'rectangle':
      return pen.rectangle(a, b, c, d, style as Paint)
    case 'polygon':
      return pen.polygon(numbers, style as Paint)
    case 'line':
      return pen.line(a, b, c, d, style as Paint)
    case 'circle':
      return pen.circle(a, b, c, style as Paint)
    case 'arc':
      return pen.arc(a, b, c, d, e, style as Paint)
    case 'mosaic':
      return pen.mosaic(style as Tiles)
    case 'text':
      return pen.text(a, b, text, style as TextStyle)
    default:
      kind satisfies never
  }
}

/** Where two pictures differ: the boxes of all strokes that only one of them has, or has in another order. */
export function changedBoxes(before: readonly Stroke[], after: readonly Stroke[]): Box[] {
  const boxes: Box[] = []
  let [i, j] = [0, 0]
  while (i < before.length && j < after.length) {
    if (same(before[i], after[j])) {
      i++
      j++
      continue
    }
    const [gone, come] = skip(before, i, after, j)
    for (let k = 0; k < gone; k++) boxes.push(before[i++].box)
    for (let k = 0; k < come; k++) boxes.push(after[j++].box)
  }
  for (; i < before.length; i++) boxes.push(before[i].box)
  for (; j < after.length; j++) boxes.push(after[j].box)
  return boxes
}

/** How many strokes of each are passed over to come to the same stroke again: as few as can be, or one of each. */
function skip(before: readonly Stroke[], i: number, after: readonly Stroke[], j: number): [number, number] {
  for (let ahead = 1; ahead <= AHEAD; ahead++) {
    if (j + ahead < after.length && same(before[i], after[j + ahead])) return [0, ahead]
    if (i + ahead < before.length && same(before[i + ahead], after[j])) return [ahead, 0]
    if (i + ahead < before.length && j + ahead < after.length && same(before[i + ahead], after[j + ahead]))
      return [ahead, ahead]
  }
  return [1, 1]
}

function same(one: Stroke, other: Stroke): boolean {
  if (one.kind !== other.kind || one.kind === 'mosaic' || one.text !== other.text) return false
  if (one.numbers.length !== other.numbers.length) return false
  for (let i = 0; i < one.numbers.length; i++) if (one.numbers[i] !== other.numbers[i]) return false
  return one.style === other.style || sameStyle(one.style as Style, other.style as Style)
}

type Style = Paint & Partial<TextStyle>

function sameStyle(one: Style, other: Style): boolean {
  return (
    sameColour(one.fill, other.fill) &&
    sameColour(one.stroke, other.stroke) &&
    sameColour(one.colour, other.colour) &&
    sameColour(one.rim, other.rim) &&
    one.width === other.width &&
    one.opacity === other.opacity &&
    one.size === other.size &&
    one.align === other.align &&
    one.bold === other.bold &&
    one.upwards === other.upwards
  )
}

function sameColour(one: Colour | undefined, other: Colour | undefined): boolean {
  if (one === other) return true
  if (!one || !other || typeof one === 'string' || typeof other === 'string') return false
  return one.from === other.from && one.to === other.to && shadeOf(one.part) === shadeOf(other.part)
}

/** Mixed colours are drawn in a hundred shades. */
export function shadeOf(part: number): number {
  return Math.round(part * 100)
}

function square(x: number, y: number, radius: number): Box {
  return { left: x - radius, top: y - radius, right: x + radius, bottom: y + radius }
}

/** A box with room for the stroke around it, and for what is drawn of a pixel. */
function around({ left, top, right, bottom }: Box, { stroke, width = 1 }: Paint): Box {
  const rim = 1 + (stroke ? width / 2 : 0)
  return { left: left - rim, top: top - rim, right: right + rim, bottom: bottom + rim }
}

/** A picture cut into squares, some of which are to be drawn again. */
export class Patches {
  private readonly columns: number
  private readonly rows: number
  private readonly marked: Uint8Array
  private count = 0

  /** @param side  of a square, in pixels: its edges should lie between pixels of the screen */
  constructor(
    width: number,
    height: number,
    private readonly side: number,
  ) {
    this.columns = Math.ceil(width / side)
    this.rows = Math.ceil(height / side)
    this.marked = new Uint8Array(this.columns * this.rows)
  }

  /** The share of the picture that is to be drawn again. */
  get share(): number {
    return this.count / this.marked.length
  }

  /** Has what lies in a box drawn again. */
  mark({ left, top, right, bottom }: Box): void {
    const { columns, rows, side, marked } = this
    const [first, last] = [
      Math.max(0, Math.floor(left / side)),
      Math.min(columns - 1, Math.floor(right / side)),
    ]
    const until = Math.min(rows - 1, Math.floor(bottom / side))
    for (let row = Math.max(0, Math.floor(top / side)); row <= until; row++)
      for (let at = row * columns + first; at <= row * columns + last; at++) {
        if (!marked[at]) this.count++
        marked[at] = 1
      }
  }

  /** What is to be drawn again, as boxes that do not overlap. */
  boxes(): Box[] {
    const { columns, rows, side, marked } = this
    const boxes: Box[] = []
    for (let row = 0; row < rows; row++)
      for (let from = 0, to; from < columns; from = to + 1) {
        for (to = from; to < columns && marked[row * columns + to]; to++);
        if (to === from) continue
        const [left, right, top, bottom] = [from * side, to * side, row * side, (row + 1) * side]
        // As wide as the one above it: then both are one.
        const above = boxes.findIndex((box) => box.bottom === top && box.left === left && box.right === right)
        if (above < 0) boxes.push({ left, top, right, bottom })
        else boxes[above] = { ...boxes[above], bottom }
      }
    return boxes
  }
}

/** Whether two boxes have more than an edge in common. */
export function overlap(one: Box, other: Box): boolean {
  return one.left < other.right && other.left < one.right && one.top < other.bottom && other.top < one.bottom
}
