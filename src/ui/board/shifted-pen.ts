import type { Paint, Pen, TextStyle, Tiles } from './pen'

/** Draws with another pen, everything moved by so many pixels. */
export class ShiftedPen implements Pen {
  constructor(
    private readonly pen: Pen,
    private readonly right: number,
    private readonly down: number,
  ) {}

  rectangle(x: number, y: number, width: number, height: number, paint: Paint): void {
    this.pen.rectangle(x + this.right, y + this.down, width, height, paint)
  }

  polygon(points: readonly number[], paint: Paint): void {
    this.pen.polygon(
      points.map((value, i) => value + (i % 2 ? this.down : this.right)),
      paint,
    )
  }

  line(x1: number, y1: number, x2: number, y2: number, paint: Paint): void {
    this.pen.line(x1 + this.right, y1 + this.down, x2 + this.right, y2 + this.down, paint)
  }

  circle(x: number, y: number, radius: number, paint: Paint): void {
    this.pen.circle(x + this.right, y + this.down, radius, paint)
  }

  arc(x: number, y: number, radius: number, from: number, to: number, paint: Paint): void {
    this.pen.arc(x + this.right, y + this.down, radius, from, to, paint)
  }

  mosaic(tiles: Tiles): void {
    this.pen.mosaic({ ...tiles, x: tiles.x + this.right, y: tiles.y + this.down })
  }

  text(x: number, y: number, text: string, style: TextStyle): void {
    this.pen.text(x + this.right, y + this.down, text, style)
  }
}
