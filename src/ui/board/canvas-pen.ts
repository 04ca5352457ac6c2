import { INKS, type Colour, type Ink, type Paint, type Pen, type TextStyle, type Tiles } from './pen'
import { shadeOf } from './strokes'

/** The theme's colours as red, green, blue. */
export type Palette = Readonly<Record<Ink, readonly [number, number, number]>>

/** How things are drawn in a place of the page. */
export interface Look {
  readonly palette: Palette
  /** The family of letters. */
  readonly font: string
}

/** What was read from elements, and in which theme. */
const looks = new WeakMap<Element, Look & { readonly theme: string | undefined }>()

/** Reads the theme in force from the page: once for each element, as that has the browser work out styles anew. */
export function readLook(element: Element): Look {
  const { theme } = document.documentElement.dataset
  const known = looks.get(element)
  if (known && known.theme === theme) return known
  const style = getComputedStyle(element)
  const palette = Object.fromEntries(
    INKS.map((ink) => {
      const hex = parseInt(style.getPropertyValue(`--${ink}`).trim().slice(1), 16)
      return [ink, [hex >> 16, (hex >> 8) & 255, hex & 255]]
    }),
  ) as unknown as Palette
  const look = { theme, palette, font: style.fontFamily }
  looks.set(element, look)
  return look
}

/** A colour of the theme for things that take CSS text, such as charts. */
export function cssColour(palette: Palette, colour: Colour): string {
  if (typeof colour === 'string') return `rgb(${palette[colour].join(',')})`
  const from = palette[colour.from]
  const to = palette[colour.to]
  return `rgb(${from.map((x, i) => Math.round(x + (to[i] - x) * colour.part)).join(',')})`
}

/** Draws on a canvas whose context is already scaled to the screen's pixels. */
export class CanvasPen implements Pen {
  private readonly colours = new Map<string, string>()

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly palette: Palette,
    private readonly font: string,
  ) {}

  rectangle(x: number, y: number, width: number, height: number, paint: Paint): void {
    this.context.beginPath()
    this.context.rect(x, y, width, height)
    this.finish(paint)
  }

  polygon(points: readonly number[], paint: Paint): void {
    this.context.beginPath()
    for (let i = 0; i < points.length; i += 2) this.context.lineTo(points[i], points[i + 1])
    this.context.closePath()
    this.finish(paint)
  }

  line(x1: number, y1: number, x2: number, y2: number, paint: Paint): void {
    this.context.beginPath()
    this.context.moveTo(x1, y1)
    this.context.lineTo(x2, y2)
    this.finish(paint)
  }

  circle(x: number, y: number, radius: number, paint: Paint): void {
    this.arc(x, y, radius, 0, 2 * Math.PI, paint)
  }

  arc(x: number, y: number, radius: number, from: number, to: number, paint: Paint): void {
    this.context.beginPath()
    this.context.arc(x, y, radius, from, to)
    this.finish(paint)
  }

  mosaic({ x, y, cellWidth, cellHeight, columns, rows, colour }: Tiles): void {
    // A pixel a cell, then made as large as wanted in one go.
    const tiles = document.createElement('canvas')
    tiles.width = columns
    tiles.height = rows
    const context = tiles.getContext('2d')!
    const image = context.createImageData(columns, rows)
    const { data } = image
    for (let cell = 0; cell < columns * rows; cell++) {
      const fill = colour(cell)
      const from = this.palette[typeof fill === 'string' ? fill : fill.from]
      const to = typeof fill === 'string' ? from : this.palette[fill.to]
      const part = typeof fill === 'string' ? 0 : fill.part
      for (let i = 0; i < 3; i++) data[4 * cell + i] = from[i] + (to[i] - from[i]) * part
      data[4 * cell + 3] = 255
    }
    context.putImageData(image, 0, 0)
    this.context.imageSmoothingEnabled = false
    this.context.drawImage(tiles, x, y, columns * cellWidth, rows * cellHeight)
  }

  text(x: number, y: number, text: string, style: TextStyle): void {
    const { context } = this
    if (style.upwards) {
      context.save()
      context.translate(x, y)
      context.rotate(-Math.PI / 2)
      this.text(0, 0, text, { ...style, upwards: false })
      context.restore()
      return
    }
    const { size, colour, align = 'middle', bold, rim } = style
    context.font = `${bold ? 650 : 430} ${size}px ${this.font}`
    context.textAlign = align === 'middle' ? 'center' : align
    context.textBaseline = 'middle'
    if (rim) {
      context.strokeStyle = this.css(rim)
      context.lineWidth = Math.max(2, size * 0.24)
      context.lineJoin = 'round'
      context.strokeText(text, x, y + size * 0.06)
    }
    context.fillStyle = this.css(colour)
    context.fillText(text, x, y + size * 0.06)
  }

  private finish({ fill, stroke, width = 1, opacity = 1 }: Paint): void {
    const { context } = this
    context.globalAlpha = opacity
    if (fill) {
      context.fillStyle = this.css(fill)
      context.fill()
    }
    if (stroke) {
      context.strokeStyle = this.css(stroke)
      context.lineWidth = width
      context.lineCap = 'round'
      context.lineJoin = 'round'
      context.stroke()
    }
    context.globalAlpha = 1
  }

  private css(colour: Colour): string {
    if (typeof colour === 'string') return this.known(colour, colour)
    const shade = shadeOf(colour.part)
    return this.known(`${colour.from} ${colour.to} ${shade}`, { ...colour, part: shade / 100 })
  }

  private known(key: string, colour: Colour): string {
    let css = this.colours.get(key)
    if (!css) this.colours.set(key, (css = cssColour(this.palette, colour)))
    return css
  }
}
