import { refuse } from '../problem'

/** Values of a list at the most. */
const MOST = 200
const NUMBER = String.raw`[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?`
const VALUE = new RegExp(`^(${NUMBER})(?:/(${NUMBER}))?$`, 'i')
const RANGE = new RegExp(`^(${NUMBER}(?:/${NUMBER})?)\\.\\.(${NUMBER})([/*])(${NUMBER})$`, 'i')

/** How lists of values are written, for hints. */
export const VALUES_HINT =
  'A list: 0.1, 0.2, 0.5. Evenly spaced: 0.1..1/10 (ten values). By a factor: 1/64..1*2 (doubling).'

/**
 * The values of a list such as `0, 0.1, 1/4`, `0.05..1/8` (eight values, evenly spaced, both ends among them) or
 * `1/64..1*2` (each twice the one before), ranges and single values mixed; in increasing order, each once.
 * @param place  for messages
 * @throws ProblemError naming the part that cannot be read
 */
export function readValues(text: string, place = 'values'): number[] {
  const values = text
    .split(',')
    .map((part) => part.replaceAll(' ', ''))
    .flatMap((part) => partOf(part, place))
  const sorted = [...new Set(values)].sort((a, b) => a - b)
  if (sorted.length > MOST)
    refuse(place, `These are ${sorted.length} values.`, `Ask for ${MOST} at the most.`)
  return sorted
}

function partOf(part: string, place: string): number[] {
  const range = RANGE.exec(part)
  if (!range) return [valueOf(part, place)]
  const [from, to, by] = [valueOf(range[1], place), Number(range[2]), Number(range[4])]
  if (!(to > from))
    refuse(
      place,
      `In "${part}" the second number is not larger than the first.`,
      'Write the smaller one first.',
    )
  if (range[3] === '/') {
    if (!Number.isInteger(by) || by < 2 || by > MOST)
      refuse(
        place,
        `"${part}" asks for ${by} values.`,
        `After the stroke stands how many, from 2 to ${MOST}: 0.1..1/10.`,
      )
    // Rounded, so that 0.1..1/10 has 0.3 in it and not 0.30000000000000004.
    return Array.from({ length: by }, (_, i) =>
      i === by - 1 ? to : Number((from + ((to - from) * i) / (by - 1)).toPrecision(12)),
    )
  }
  if (!(from > 0 && by > 1))
    refuse(
      place,
      `"${part}" never comes to its end.`,
      'A range by a factor begins above 0, and its factor is above 1: 0.01..1*2.',
    )
  const count = Math.floor(Math.log(to / from) / Math.log(by) + 1e-9) + 1
  if (count > MOST) refuse(place, `"${part}" has ${count} values.`, `Ask for ${MOST} at the most.`)
  return Array.from({ length: count }, (_, i) => Number((from * by ** i).toPrecision(12)))
}

function valueOf(part: string, place: string): number {
  const found = VALUE.exec(part)
  const value = found ? Number(found[1]) / Number(found[2] ?? 1) : NaN
  if (!Number.isFinite(value))
    refuse(place, part ? `"${part}" is not a number or a range.` : 'A value is missing.', VALUES_HINT)
  return value
}
