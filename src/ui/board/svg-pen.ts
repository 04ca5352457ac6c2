import type { Colour, Paint, Pen, TextStyle, Tiles } from './pen'

/** Gathers SVG elements as text; colours stay custom properties, so a picture follows the theme of its page. */
export class SvgPen implements Pen {
  private readonly elements: string[] = []

  /** @param css  how a colour is written; as a custom property of the page when left out */
  constructor(private readonly css: (colour: Colour) => string = colourAsProperty) {}

  /** The picture as one SVG element. */
  svg(width: number, height: number, label: string, font?: string): string {
    const family = font ? ` font-family="${escapeText(font)}"` : ''
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${round(width)} ${round(height)}" width="${round(width)}" height="${round(height)}" role="img"${family} aria-label="${escapeText(label)}">${this.elements.join('')}</svg>`
  }

  rectangle(x: number, y: number, width: number, height: number, paint: Paint): void {
    this.add(`<rect x="${round(x)}" y="${round(y)}" width="${round(width)}" height="${round(height)}"`, paint)
  }

  polygon(points: readonly number[], paint: Paint): void {
    this.add(`<polygon points="${points.map(round).join(' ')}"`, paint)
  }

  line(x1: number, y1: number, x2: number, y2: number, paint: Paint): void {
    this.add(`<line x1="${round(x1)}" y1="${round(y1)}" x2="${round(x2)}" y2="${round(y2)}"`, paint)
  }

  circle(x: number, y: number, radius: number, paint: Paint): void {
    this.add(`<circle cx="${round(x)}" cy="${round(y)}" r="${round(radius)}"`, paint)
  }

  arc(x: number, y: number, radius: number, from: number, to: number, paint: Paint): void {
    const at = (angle: number) =>
      `${round(x + radius * Math.cos(angle))} ${round(y + radius * Math.sin(angle))}`
    const large = to - from > Math.PI ? 1 : 0
    this.add(`<path d="M ${at(from)} A ${round(radius)} ${round(radius)} 0 ${large} 1 ${at(to)}"`, paint)
  }

  mosaic({ x, y, cellWidth, cellHeight, columns, rows, colour }: Tiles): void {
    // Neighbours of one colour are one rectangle.
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns;) {
        const fill = colour(row * columns + column)
        const written = this.css(fill)
        let end = column + 1
        while (end < columns && this.css(colour(row * columns + end)) === written) end++
        const width = (end - column) * cellWidth
        this.rectangle(x + column * cellWidth, y + row * cellHeight, width, cellHeight, { fill })
        column = end
      }
  }

  text(x: number, y: number, text: string, style: TextStyle): void {
    const { size, colour, align = 'middle', bold, rim, upwards } = style
    const anchor = { left: 'start', middle: 'middle', right: 'end' }[align]
    const weight = bold ? ' font-weight="650"' : ''
    const halo = rim
      ? ` stroke="${this.css(rim)}" stroke-width="${round(Math.max(2, size * 0.24))}" stroke-linejoin="round" paint-order="stroke"`
      : ''
    const turn = upwards ? ` transform="rotate(-90 ${round(x)} ${round(y)})"` : ''
    this.elements.push(
      `<text x="${round(x)}" y="${round(y)}" font-size="${round(size)}" text-anchor="${anchor}" dominant-baseline="central"${weight}${halo}${turn} fill="${this.css(colour)}">${escapeText(text)}</text>`,
    )
  }

  private add(start: string, { fill, stroke, width = 1, opacity = 1 }: Paint): void {
    const line = stroke
      ? ` stroke="${this.css(stroke)}" stroke-width="${round(width)}" stroke-linecap="round" stroke-linejoin="round"`
      : ''
    const faint = opacity === 1 ? '' : ` opacity="${opacity}"`
    this.elements.push(`${start} fill="${fill ? this.css(fill) : 'none'}"${line}${faint}/>`)
  }
}

/** A colour of the theme as CSS, by its custom properties. */
export function colourAsProperty(colour: Colour): string {
  if (typeof colour === 'string') return `var(--${colour})`
  return `color-mix(in srgb, var(--${colour.to}) ${Math.round(colour.part * 100)}%, var(--${colour.from}))`
}

function round(x: number): number {
  return Math.round(x * 100) / 100
}

function escapeText(text: string): string {
  return text.replace(/[&<>"]/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[char]!)
}
