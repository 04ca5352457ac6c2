/**
 * What expressions become: small functions over a frame of numbers. All knobs are numbers by then, so what is
 * constant is computed once. Truth is 1 or 0, a word its number, a list one value an item (lengths are constant).
 */
export type Run = (frame: Float64Array) => number

/** Every number that is not known to be an ending of an interval lies within these. */
export const HUGE = 1e15

export type ScalarType =
  /** `low` and `high` hold every value the expression can take, as far as that can be told without running it. */
  | { readonly kind: 'number'; readonly whole: boolean; readonly low: number; readonly high: number }
  | { readonly kind: 'truth' }
  | { readonly kind: 'word'; readonly words: readonly number[] }
  /** The rest of something faulty: fits everywhere, so that one mistake is told once. */
  | { readonly kind: 'unknown' }

/** How early a value is known: constant, by the state, by the action, or by the k-th chance from 1. */
export const CONSTANT = -2
export const BY_STATE = -1
export const BY_ACTION = 0

export interface Scalar {
  readonly type: ScalarType
  readonly run: Run
  readonly constant?: number
  /** Where it stands in the frame already: operators then read it there, which saves a call. */
  readonly slot?: number
  readonly depth: number
}

export interface ListValue {
  readonly items: readonly Scalar[]
  /** Of a table: the index of its first entry, or the words it is indexed by. */
  readonly first?: number
  readonly words?: readonly number[]
  /** Of a list with numbers as keys: those numbers. */
  readonly places?: readonly number[]
  /** Of a table of rows: the rows, all of one shape; `items` are then those of all rows. */
  readonly rows?: readonly ListValue[]
}

export type Value = Scalar | ListValue

export function isList(value: Value): value is ListValue {
  return 'items' in value
}

export function depthOf(value: Value): number {
  return isList(value)
    ? value.items.reduce((most, item) => Math.max(most, item.depth), CONSTANT)
    : value.depth
}

export const UNKNOWN: Scalar = { type: { kind: 'unknown' }, run: () => 0, depth: CONSTANT }

export function constantNumber(x: number): Scalar {
  return {
    type: { kind: 'number', whole: Number.isInteger(x), low: x, high: x },
    run: () => x,
    constant: x,
    depth: CONSTANT,
  }
}

export function constantTruth(x: boolean): Scalar {
  const value = x ? 1 : 0
  return { type: { kind: 'truth' }, run: () => value, constant: value, depth: CONSTANT }
}

export function constantWord(word: number): Scalar {
  return { type: { kind: 'word', words: [word] }, run: () => word, constant: word, depth: CONSTANT }
}

/** A value kept in the frame. */
export function slotValue(slot: number, type: ScalarType, depth: number): Scalar {
  return { type, run: (frame) => frame[slot], slot, depth }
}

/** A value computed from others: folded at once when they are all constant. */
export function derived(type: ScalarType, inputs: readonly Value[], run: Run): Scalar {
  let depth = CONSTANT
  let constant = true
  for (const input of inputs) {
    depth = Math.max(depth, depthOf(input))
    if (
      isList(input) ? input.items.some((item) => item.constant === undefined) : input.constant === undefined
    )
      constant = false
  }
  if (!constant) return { type, run, depth }
  const value = run(NO_FRAME)
  return {
    type: type.kind === 'number' ? { ...type, low: value, high: value } : type,
    run: () => value,
    constant: value,
    depth,
  }
}

const NO_FRAME = new Float64Array(0)

export function numberType(whole: boolean, low: number, high: number): ScalarType {
  return {
    kind: 'number',
    whole,
    low: Number.isNaN(low) ? -Infinity : low,
    high: Number.isNaN(high) ? Infinity : high,
  }
}

export const TRUTH: ScalarType = { kind: 'truth' }

/** The least and greatest of some numbers; those that are not numbers (0 x infinity) count as 0. */
export function hull(values: readonly number[]): [number, number] {
  let low = Infinity
  let high = -Infinity
  for (const value of values) {
    const x = Number.isNaN(value) ? 0 : value
    low = Math.min(low, x)
    high = Math.max(high, x)
  }
  return [low, high]
}

/** The type that holds the values of both; undefined when there is none. */
export function joinTypes(one: ScalarType, other: ScalarType): ScalarType | undefined {
  if (one.kind === 'unknown') return other
  if (other.kind === 'unknown') return one
  if (one.kind === 'number' && other.kind === 'number')
    return numberType(one.whole && other.whole, Math.min(one.low, other.low), Math.max(one.high, other.high))
  if (one.kind === 'word' && other.kind === 'word')
    return { kind: 'word', words: [...new Set([...one.words, ...other.words])] }
  return one.kind === other.kind ? one : undefined
}

/** What a type is called in messages. */
export function typeName(value: Value): string {
  if (isList(value)) return `a list of ${value.items.length}`
  switch (value.type.kind) {
    case 'number':
      return value.type.whole ? 'a whole number' : 'a number'
    case 'truth':
      return 'yes or no'
    case 'word':
      return 'a word'
    case 'unknown':
      return 'unknown'
  }
}

/** The words of a rulebook, each with a number. */
export class Words {
  readonly texts: string[] = []
  private readonly numbers = new Map<string, number>()

  /** The number of a word, made when new. */
  add(text: string): number {
    let number = this.numbers.get(text)
    if (number === undefined) {
      number = this.texts.push(text) - 1
      this.numbers.set(text, number)
    }
    return number
  }

  find(text: string): number | undefined {
    return this.numbers.get(text)
  }
}
