import type { Span } from './place'
import { numberType, TRUTH, type ScalarType } from './values'

/**
 * One number that a state is made of: a variable, or one item of a list. Its values are counted from 0, and a state
 * is the code that they make together.
 */
export interface Dimension {
  /** `left`, or `orders[2]` */
  readonly name: string
  readonly kind: 'whole' | 'set' | 'words' | 'truth' | 'buckets'
  readonly size: number
  /** The slot of its value in the frame, and of what it will be. */
  readonly slot: number
  readonly nextSlot: number
  readonly type: ScalarType
  /** The lowest value of `whole`; the lower end of `buckets`. */
  readonly low: number
  /** The highest value of `whole`; the upper end of `buckets`. */
  readonly high: number
  /** The values of `set` (numbers) and of `words` (their numbers), in the order in which they were written. */
  readonly values: readonly number[]
  /** How each value is written. */
  readonly texts: readonly string[]
  /** Of `buckets`: all of a value goes to the bucket it lies in, instead of being shared by two. */
  readonly nearest: boolean
}

/** A state variable as it was declared. */
export interface Variable extends Span {
  readonly name: string
  readonly isList: boolean
  readonly dimensions: readonly Dimension[]
}

/** The value of a dimension with this number. */
export function valueAt(dimension: Dimension, index: number): number {
  switch (dimension.kind) {
    case 'whole':
      return dimension.low + index
    case 'truth':
      return index
    case 'buckets':
      return dimension.low + (index + 0.5) * bucketWidth(dimension)
    default:
      return dimension.values[index]
  }
}

export function bucketWidth({ low, high, size }: Pick<Dimension, 'low' | 'high' | 'size'>): number {
  return (high - low) / size
}

/** The number of a value, or -1 when the dimension does not have it. Not for buckets. */
export function indexOfValue(dimension: Dimension, value: number): number {
  if (dimension.kind === 'whole') {
    const index = value - dimension.low
    return index >= 0 && index < dimension.size && Number.isInteger(index) ? index : -1
  }
  if (dimension.kind === 'truth') return value === 0 || value === 1 ? value : -1
  return dimension.values.indexOf(value)
}

/** Where a real value between two bucket centres goes: to `index` and, with chance `share`, to the bucket after it. */
export interface BucketShare {
  index: number
  share: number
}

/**
 * Shares a value between the two buckets whose centres it lies between, in proportion, so that its mean is kept;
 * beyond the outer centres all goes to the outer bucket. With `nearest` all goes to the bucket that holds it.
 * (Linear interpolation on a grid: Munos & Moore 2002, section 3.)
 * @returns false when the value lies outside the range
 */
export function shareBuckets(dimension: Dimension, value: number, into: BucketShare): boolean {
  const width = bucketWidth(dimension)
  // A range's end may be missed by a rounding.
  const slack = 1e-9 * (dimension.high - dimension.low)
  if (!(value >= dimension.low - slack && value <= dimension.high + slack)) return false
  const place = (value - dimension.low) / width
  if (dimension.nearest) {
    into.index = Math.min(dimension.size - 1, Math.max(0, Math.floor(place)))
    into.share = 0
    return true
  }
  const centred = Math.min(dimension.size - 1, Math.max(0, place - 0.5))
  into.index = Math.floor(centred)
  into.share = centred - into.index
  // A value that is a centre but for a rounding stays one.
  if (into.share < 1e-12) into.share = 0
  else if (into.share > 1 - 1e-12) {
    into.index++
    into.share = 0
  }
  return true
}

/** The type of a dimension's value as expressions see it. */
export function dimensionType(dimension: Omit<Dimension, 'type'>): ScalarType {
  switch (dimension.kind) {
    case 'whole':
      return numberType(true, dimension.low, dimension.high)
    case 'set':
      return numberType(
        dimension.values.every(Number.isInteger),
        Math.min(...dimension.values),
        Math.max(...dimension.values),
      )
    case 'words':
      return { kind: 'word', words: dimension.values }
    case 'truth':
      return TRUTH
    case 'buckets':
      return numberType(false, dimension.low, dimension.high)
  }
}
