import type { Head } from './head'
import type { NamedNumber } from './named-number'

/** A number of a document that a knob can turn. */
export interface DocumentNumber<D = Head> {
  /** Names it inside the document, whatever else changes: `endings[J4].reward`. */
  readonly key: string
  readonly title: string
  readonly value: number
  /** What the document allows. */
  readonly low: number
  readonly high: number
  put(value: number): D
}

/** A knob, whichever kind of environment it belongs to. */
export interface Knob<D = Head> {
  readonly name: string
  /** What it turns, in words. */
  readonly title: string
  readonly value: number
  /** What it is when it is left alone; null where the document knows only one value. */
  readonly standard: number | null
  readonly low: number
  readonly high: number
  readonly step: number
  /** The document with the knob turned; null puts it back to the standard. */
  turned(value: number | null): D
}

/** A knob of the head with the number it turns, or null where what it turned is gone. */
export interface SetKnob<D = Head> extends NamedNumber {
  readonly number: DocumentNumber<D> | null
}

export const REWARD_RANGE = { low: -1e9, high: 1e9 }
export const CHANCE_RANGE = { low: 0, high: 1 }

export function setKnobs<D>({ knobs }: Head, numbers: () => readonly DocumentNumber<D>[]): SetKnob<D>[] {
  if (knobs.length === 0) return []
  const known = new Map(numbers().map((number) => [number.key, number]))
  return knobs.map((knob) => ({ ...knob, number: known.get(knob.sets) ?? null }))
}

/** The knobs of the head that can be turned: those whose number is still there. */
export function headKnobs<D>(head: Head, numbers: () => readonly DocumentNumber<D>[]): Knob<D>[] {
  return setKnobs(head, numbers).flatMap(({ name, low, high, step, number }): Knob<D>[] => {
    if (!number) return []
    const { title, value } = number
    return [{ name, title, value, standard: null, low, high, step, turned: (to) => number.put(to ?? value) }]
  })
}
