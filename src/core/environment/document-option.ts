import type { Head } from './head'

/** Something in which documents of a kind differ that is no number, with its values in words. */
export interface DocumentOption<D = Head> {
  readonly name: string
  /** What it is now. */
  readonly value: string
  /** What it usually can be. */
  readonly values: readonly string[]
  /** Which other values there are, in words. */
  readonly more?: string
  /** The document with another value of it; null where there is no such value. */
  taken(value: string): D | null
}

/** An option that has just these values. */
export function fixedOption<D, V>(
  name: string,
  now: V,
  values: Readonly<Record<string, V>>,
  put: (value: V) => D,
): DocumentOption<D> {
  const names = Object.keys(values)
  return {
    name,
    value: names.find((each) => values[each] === now) ?? names[0],
    values: names,
    taken: (value) => (Object.hasOwn(values, value) ? put(values[value]) : null),
  }
}
