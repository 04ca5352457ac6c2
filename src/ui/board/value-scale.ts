import { formatNumber } from '../../core/formats/number'
import type { Colour } from './pen'

/** How values turn into colours: plum below the midpoint, paper at it, spruce above. */
export interface ValueScale {
  readonly low: number
  readonly middle: number
  readonly high: number
}

/** How much of the full colour the far ends get: numbers must stay readable on them. */
const STRENGTH = 0.8

/**
 * The scale of some lists of values; the midpoint is 0 where values lie on both sides of it, else half-way.
 * Numbers that are not finite do not count. Undefined when there is nothing to scale.
 */
export function valueScale(lists: readonly ArrayLike<number>[]): ValueScale | undefined {
  let low = Infinity
  let high = -Infinity
  for (const values of lists)
    for (let i = 0; i < values.length; i++) {
      const value = values[i]
      if (!Number.isFinite(value)) continue
      if (value < low) low = value
      if (value > high) high = value
    }
  if (low > high) return undefined
  return { low, high, middle: low < 0 && high > 0 ? 0 : (low + high) / 2 }
}

export function valueColour({ low, middle, high }: ValueScale, value: number): Colour {
  if (value >= middle)
    return {
      from: 'sheet',
      to: 'high',
      part: high > middle ? (STRENGTH * (value - middle)) / (high - middle) : 0,
    }
  return { from: 'sheet', to: 'low', part: (STRENGTH * (middle - value)) / (middle - low) }
}

/**
 * Values short enough for a cell, all with the same places after the point: as many, up to `most`, as leave at most
 * `room` characters.
 */
export function cellNumbers(values: ArrayLike<number>, room: number, most = 2): (value: number) => string {
  let longest = 1
  for (let i = 0; i < values.length; i++) {
    const value = values[i]
    if (!Number.isFinite(value)) continue
    longest = Math.max(longest, Math.trunc(Math.abs(value)).toString().length + (value < 0 ? 1 : 0))
  }
  const digits = Math.max(0, Math.min(most, room - longest - 1))
  return (value) => {
    if (!Number.isFinite(value)) return formatNumber(value)
    const text = value.toFixed(digits)
    return (Number(text) === 0 ? text.replace('-', '') : text).replace('-', '−')
  }
}
