import { drawNeedle, drawPivot, drawRing } from './glyphs'
import type { Pen } from './pen'
import { valueColour, type ValueScale } from './value-scale'

/** The numbers that lie over one place of a board: a state, or several states summed up. */
export interface PlaceNumbers {
  readonly value?: number
  /** Where each action points, radians clockwise from east; undefined for those that point nowhere. */
  readonly angles: readonly (number | undefined)[]
  readonly chances?: ArrayLike<number>
  readonly actionValues?: ArrayLike<number>
}

/** How the numbers of a whole board are drawn: the same for every place. */
export interface PlaceStyle {
  readonly scale?: ValueScale
  readonly ringScale?: ValueScale
  /** Writes a value; undefined where there is no room for numbers. */
  write?(value: number): string
}

/** Smallest sides, in pixels, at which a glyph can be read. */
export const READABLE = { needle: 9, ring: 20, number: 30 } as const
/** How much wider than high a place must be for its number to stand beside the needle. */
export const WIDE = 1.7

/** Draws ring, needles and number of one place; the tint under them is drawn before everything else. */
export function drawPlace(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  { value, angles, chances, actionValues }: PlaceNumbers,
  { scale, ringScale, write }: PlaceStyle,
  /** The width of the place, where it is wider than its side. */
  room = side,
): void {
  const rings = actionValues && ringScale && side >= READABLE.ring
  if (rings) {
    let best = -Infinity
    for (let k = 0; k < actionValues.length; k++) if (actionValues[k] > best) best = actionValues[k]
    drawRing(
      pen,
      x,
      y,
      side,
      angles.flatMap((angle, k) =>
        angle === undefined || Number.isNaN(actionValues[k])
          ? []
          : [
              {
                angle,
                colour: valueColour(ringScale, actionValues[k]),
                best: actionValues[k] >= best - 1e-9 * Math.max(1, Math.abs(best)),
              },
            ],
      ),
    )
  }
  const written = value !== undefined && write ? write(value) : undefined
  const needles = chances && side >= READABLE.needle
  // In a wide place the number stands beside the needle; else under it, and the needle moves up and shrinks a little.
  const beside = written !== undefined && needles && !rings && room >= WIDE * side
  const lift = written && !beside ? side * (rings ? 0.12 : 0.1) : 0
  const length = side * (rings ? 0.66 : written && !beside ? 0.82 : 1)
  const across = beside ? -room / 2 + side * 0.55 : 0
  if (needles) {
    // What points nowhere is staying put: the pivot fills up.
    let still = 0
    angles.forEach((angle, k) => {
      if (angle === undefined) still += chances[k]
      else drawNeedle(pen, x + across, y - lift, length, angle, chances[k])
    })
    drawPivot(pen, x + across, y - lift, length, still)
  }
  if (written) {
    const size = Math.min(side * 0.23, 15)
    const left = x + across + side * 0.5
    pen.text(
      beside ? (left + x + room / 2 - 2) / 2 : x,
      beside ? y : y + side * (rings ? 0.21 : needles ? 0.33 : 0.05),
      written,
      {
        size: beside
          ? Math.min(side * 0.42, 13, (room - side) / (written.length * 0.55))
          : needles
            ? size
            : size * 1.25,
        colour: 'ink',
        rim: scale && valueColour(scale, value!),
      },
    )
  }
}
