import { describe, expect, it } from 'vitest'
import { RandomStream } from '../../core/random/generator'
import type { Colour, Paint, Pen, TextStyle, Tiles } from './pen'
import { changedBoxes, drawStroke, NotingPen, overlap, Patches, type Box, type Stroke } from './strokes'

const [WIDTH, HEIGHT, SIDE] = [90, 70, 16]

/** Draws on a few pixels, only within some boxes: enough to see whether two pictures are the same. */
class PixelPen implements Pen {
  constructor(
    readonly pixels: string[],
    private readonly clip: readonly Box[],
  ) {}

  rectangle(
    x: number,
    y: number,
    width: number,
    height: number,
    { fill, stroke, width: w = 1 }: Paint,
  ): void {
    this.fill(fill, (px, py) => px >= x && px <= x + width && py >= y && py <= y + height)
    if (stroke) this.fill(stroke, (px, py) => Math.abs(px - x) <= w / 2 && py >= y && py <= y + height)
  }

  polygon(points: readonly number[], { fill }: Paint): void {
    // Its first triangle is enough.
    const side = (i: number, px: number, py: number) => {
      const [x1, y1] = [points[2 * i], points[2 * i + 1]]
      const [x2, y2] = [points[(2 * i + 2) % 6], points[(2 * i + 3) % 6]]
      return Math.sign((x2 - x1) * (py - y1) - (y2 - y1) * (px - x1))
    }
    this.fill(fill, (px, py) => Math.abs(side(0, px, py) + side(1, px, py) + side(2, px, py)) === 3)
  }

  line(x1: number, y1: number, x2: number, y2: number, { stroke, width = 1 }: Paint): void {
    const length = Math.hypot(x2 - x1, y2 - y1) || 1
    this.fill(stroke, (px, py) => {
      const t = Math.max(0, Math.min(1, ((px - x1) * (x2 - x1) + (py - y1) * (y2 - y1)) / length ** 2))
      return Math.hypot(px - x1 - t * (x2 - x1), py - y1 - t * (y2 - y1)) <= width / 2
    })
  }

  circle(x: number, y: number, radius: number, { fill }: Paint): void {
    this.fill(fill, (px, py) => Math.hypot(px - x, py - y) <= radius)
  }

  arc(x: number, y: number, radius: number, _from: number, _to: number, paint: Paint): void {
    this.circle(x, y, radius, paint)
  }

  mosaic({ x, y, cellWidth, cellHeight, columns, rows, colour }: Tiles): void {
    for (let cell = 0; cell < columns * rows; cell++) {
      const [left, top] = [x + (cell % columns) * cellWidth, y + Math.floor(cell / columns) * cellHeight]
      this.fill(
        colour(cell),
        (px, py) => px > left && px < left + cellWidth && py > top && py < top + cellHeight,
      )
    }
  }

  text(x: number, y: number, text: string, { size, colour, align = 'middle', upwards }: TextStyle): void {
    const long = text.length * size
    const begin = align === 'left' ? 0 : align === 'right' ? -long : -long / 2
    this.fill(colour, (px, py) => {
      const [along, across] = upwards ? [y - py, px - x] : [px - x, py - y]
      return along >= begin && along <= begin + long && Math.abs(across) <= size / 2
    })
  }

  private fill(colour: Colour | undefined, covers: (x: number, y: number) => boolean): void {
    if (!colour) return
    for (let i = 0; i < this.pixels.length; i++) {
      const [x, y] = [(i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5]
      if (this.clip.some(({ left, top, right, bottom }) => x > left && x < right && y > top && y < bottom))
        if (covers(x, y))
          this.pixels[i] =
            typeof colour === 'string' ? colour : `${colour.from} ${Math.round(colour.part * 100)}`
    }
  }
}

const WHOLE: readonly Box[] = [{ left: 0, top: 0, right: WIDTH, bottom: HEIGHT }]
const blank = () => Array.from({ length: WIDTH * HEIGHT }, () => '')
const paintedWhole = (strokes: readonly Stroke[]) => {
  const pixels = blank()
  for (const stroke of strokes) drawStroke(new PixelPen(pixels, WHOLE), stroke)
  return pixels
}

type Draw = (pen: Pen) => void

/** Something somewhere, in some colour; partly beyond the picture, too. */
function anything(draws: RandomStream): Draw {
  const at = (size: number) => draws.below(size + 20) - 10
  const [x, y, a, b] = [at(WIDTH), at(HEIGHT), draws.below(30), draws.below(30)]
  const fill: Colour = { from: 'paper', to: 'high', part: draws.uniform() }
  const stroke = (['ink', 'brass', 'plum'] as const)[draws.below(3)]
  const align = (['left', 'middle', 'right'] as const)[draws.below(3)]
  const kinds: Draw[] = [
    (pen) => pen.rectangle(x, y, a, b, { fill, stroke, width: 4 }),
    (pen) => pen.polygon([x, y, x + a, y + 3, x + 5, y + b], { fill }),
    (pen) => pen.line(x, y, x + a, y - b, { stroke, width: 3 }),
    (pen) => pen.circle(x, y, a / 2, { fill }),
    (pen) => pen.arc(x, y, b / 2, 0, 2, { fill: stroke }),
    (pen) =>
      pen.text(x, y, 'word'.slice(0, 1 + (a % 4)), { size: 5, colour: stroke, align, upwards: b % 2 === 0 }),
  ]
  return kinds[draws.below(kinds.length)]
}

const noted = (draws: readonly Draw[]) => {
  const pen = new NotingPen()
  for (const draw of draws) draw(pen)
  return pen.strokes
}

/** How much of a picture is drawn again when only what differs is, and what it looks like then. */
function patched(before: readonly Stroke[], after: readonly Stroke[]) {
  const patches = new Patches(WIDTH, HEIGHT, SIDE)
  for (const box of changedBoxes(before, after)) patches.mark(box)
  const clip = patches.boxes()
  const pixels = paintedWhole(before).map((colour, i) => {
    const [x, y] = [(i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5]
    return clip.some(({ left, top, right, bottom }) => x > left && x < right && y > top && y < bottom)
      ? ''
      : colour
  })
  for (const box of clip)
    for (const stroke of after) if (overlap(stroke.box, box)) drawStroke(new PixelPen(pixels, [box]), stroke)
  return { pixels, share: patches.share }
}

describe('a picture of which only what changed is drawn again', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('looks as if all of it had been: %d', (seed) => {
    const draws = new RandomStream(seed, 'environment')
    const picture = Array.from({ length: 40 }, () => anything(draws))
    const changed = picture.flatMap((each) => {
      const fate = draws.below(20)
      return fate === 0 ? [] : fate === 1 ? [anything(draws)] : fate === 2 ? [each, anything(draws)] : [each]
    })
    if (seed === 8) [changed[3], changed[9]] = [changed[9], changed[3]]
    const [before, after] = [noted(picture), noted(changed)]
    expect(patched(before, after).pixels).toEqual(paintedWhole(after))
  })

  it('is left alone where nothing changed, and touched only where something did', () => {
    const cell = (i: number, part: number): Draw => {
      const [x, y] = [(i % 9) * 10, Math.floor(i / 9) * 10]
      return (pen) => pen.rectangle(x, y, 8, 8, { fill: { from: 'low', to: 'high', part } })
    }
    const board = (parts: readonly number[]) => noted(parts.map((part, i) => cell(i, part)))
    const parts = Array.from({ length: 63 }, (_, i) => i / 100)
    expect(patched(board(parts), board(parts)).share).toBe(0)
    // Less than a shade is no change.
    expect(patched(board(parts), board(parts.map((part) => part + 0.001))).share).toBe(0)
    const one = patched(board(parts), board(parts.with(0, 0.9)))
    expect(one.share).toBeCloseTo(1 / 30, 10)
    expect(one.pixels).toEqual(paintedWhole(board(parts.with(0, 0.9))))
  })

  it('has a mosaic drawn again always: what its cells are can be asked only once', () => {
    const tiles: Tiles = {
      x: 10,
      y: 10,
      cellWidth: 2,
      cellHeight: 2,
      columns: 5,
      rows: 5,
      colour: () => 'brass',
    }
    const picture = noted([(pen) => pen.mosaic(tiles)])
    expect(changedBoxes(picture, picture)).toContainEqual({ left: 10, top: 10, right: 20, bottom: 20 })
    expect(patched(picture, picture).pixels).toEqual(paintedWhole(picture))
  })
})
