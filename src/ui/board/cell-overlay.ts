import { arcReach, drawMoved, drawNeedle, drawPivot, drawRing } from './glyphs'
import type { Overlay } from './overlay'
import type { Pen } from './pen'
import { valueColour, type ValueScale } from './value-scale'

/** The numbers that lie over one place of a board: a state, or several states summed up. */
export interface PlaceNumbers {
  readonly value?: number
  /** Where each action points, radians clockwise from east; undefined for those that point nowhere. */
  readonly angles: readonly (number | undefined)[]
  readonly chances?: ArrayLike<number>
  readonly actionValues?: ArrayLike<number>
  /** The chances that were: needles that turned leave their old place behind, in the colour of what was. */
  readonly was?: ArrayLike<number>
  /** By how much the value moved. */
  readonly moved?: number
  /** Whether the best actions are others than those compared with. */
  readonly turned?: boolean
}

/** How the numbers of a whole board are drawn: the same for every place. */
export interface PlaceStyle {
  readonly scale?: ValueScale
  readonly ringScale?: ValueScale
  /** Writes a value; undefined where there is no room for numbers. */
  write?(value: number): string
}

/** Smallest sides, in pixels, at which a glyph can be read. */
export const READABLE = { cell: 5, needle: 9, moved: 16, ring: 20, number: 30 } as const
/** How much wider than high a place must be for its number to stand beside the needle. */
export const WIDE = 1.7
/** How much higher than wide a place must be for its number to stand under a needle of full size. */
export const TALL = 1.5

/** Below this part of its size a value stands still: sweeps never quite stop. */
const STILL = 1e-9

/** Whether a value moved at all. */
export function movedBy(overlay: Overlay, state: number): number | undefined {
  const by = overlay.moved?.[state]
  if (by === undefined || !Number.isFinite(by)) return undefined
  return Math.abs(by) > STILL * Math.max(1, Math.abs(overlay.values?.[state] ?? 1)) ? by : undefined
}

function turns(chances: ArrayLike<number>, was: ArrayLike<number>): boolean {
  for (let k = 0; k < was.length; k++) if (Math.abs(was[k] - chances[k]) > 0.01) return true
  return false
}

/** Draws ring, needles and number of one place; the tint under them is drawn before everything else. */
export function drawPlace(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  { value, angles, chances, actionValues, was, moved, turned }: PlaceNumbers,
  { scale, ringScale, write }: PlaceStyle,
  /** The width of the place, where it is wider than its side, and its height, where it is higher. */
  room = side,
  height = side,
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
      arcReach(angles),
    )
  }
  const written = value !== undefined && write ? write(value) : undefined
  // A ring says which action is best by itself: there the needle steps back where a number has to be read.
  const needles = chances && side >= READABLE.needle && !(rings && written !== undefined)
  // In a wide place the number stands beside the needle; else under it, and the needle moves up and shrinks a little.
  const beside = written !== undefined && needles && !rings && room >= WIDE * side
  // The number stands clear of a needle that points down.
  // In a high place there is room for both, one above the other.
  const tall = height >= TALL * side
  const lift = written && !beside ? (tall ? height / 2 - side * 0.55 : side * 0.15) : 0
  const length = side * (rings ? 0.66 : written && !beside && !tall ? 0.72 : 1)
  const across = beside ? -room / 2 + side * 0.55 : 0
  if (turned)
    pen.rectangle(x - room / 2 + 1, y - side / 2 + 1, room - 2, side - 2, {
      stroke: 'plum',
      width: Math.max(1, Math.min(2.5, side * 0.06)),
    })
  if (needles && was && turns(chances, was))
    angles.forEach((angle, k) => {
      if (angle !== undefined) drawNeedle(pen, x + across, y - lift, length * 1.06, angle, was[k], 'plum')
    })
  if (moved !== undefined && side >= READABLE.moved)
    drawMoved(pen, x - room / 2 + side * 0.14, y - side / 2 + side * 0.14, side * 0.07, moved)
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
    // Never smaller than can be read from a seat.
    const size = Math.max(10, Math.min(side * 0.23, 15))
    const left = x + across + side * 0.5
    pen.text(
      beside ? (left + x + room / 2 - 2) / 2 : x,
      beside
        ? y
        : tall && needles
          ? y + height / 2 - side * 0.3
          : y + side * (rings ? 0.02 : needles ? 0.33 : 0.05),
      written,
      {
        size: beside
          ? Math.min(side * 0.42, 13, (room - side) / (written.length * 0.55))
          : tall
            ? Math.min(14, (room - 4) / (written.length * 0.52))
            : needles || rings
              ? size
              : size * 1.25,
        colour: 'ink',
        rim: scale && valueColour(scale, value!),
      },
    )
  }
}
