/** The colours a picture is drawn in, by role; each is a custom property of the theme. */
export const INKS = [
  'paper',
  'sheet',
  'ink',
  'ink-soft',
  'rule',
  'rule-strong',
  'brass',
  'brass-bright',
  'spruce',
  'plum',
  'slate',
  'wall',
  'low',
  'high',
] as const
export type Ink = (typeof INKS)[number]

/** A colour: one of the theme, or two of them mixed; `part` is the share of the second, 0 to 1. */
export type Colour = Ink | { readonly from: Ink; readonly to: Ink; readonly part: number }

export interface Paint {
  readonly fill?: Colour
  readonly stroke?: Colour
  /** Width of the stroke in pixels. */
  readonly width?: number
  /** 0 to 1, for both. */
  readonly opacity?: number
}

export interface TextStyle {
  /** Height in pixels. */
  readonly size: number
  readonly colour: Colour
  readonly align?: 'left' | 'middle' | 'right'
  readonly bold?: boolean
  /** A rim around the letters, so that they stay readable on a pattern. */
  readonly rim?: Colour
  /** Turned to be read from below upwards. */
  readonly upwards?: boolean
}

/** Cells of one size and one colour each, in rows from the left top corner on. */
export interface Tiles {
  readonly x: number
  readonly y: number
  readonly cellWidth: number
  readonly cellHeight: number
  readonly columns: number
  readonly rows: number
  colour(cell: number): Colour
}

/**
 * What pictures are drawn with. The same drawing goes to a canvas on screen and to SVG in lists and files.
 * All lengths are pixels; angles are radians, clockwise from east.
 */
export interface Pen {
  rectangle(x: number, y: number, width: number, height: number, paint: Paint): void
  /** `points`: x, y, x, y … */
  polygon(points: readonly number[], paint: Paint): void
  line(x1: number, y1: number, x2: number, y2: number, paint: Paint): void
  circle(x: number, y: number, radius: number, paint: Paint): void
  arc(x: number, y: number, radius: number, from: number, to: number, paint: Paint): void
  /** Many cells of one size at once, row by row, from the left top corner on: for those too small for anything else. */
  mosaic(tiles: Tiles): void
  /** One line of text; y is its middle. */
  text(x: number, y: number, text: string, style: TextStyle): void
}
