import { startValue } from '../model/model'
import { evaluatePolicy } from '../plan/evaluate'
import { exponential } from '../random/exponential'
import { logarithm } from '../random/logarithm'
import type { World } from './world'

/** What an axis of a landscape is, each once: its name, its ends, and what probability a value stands for. */
export const LANDSCAPE_SCALES = {
  probability: {
    title: 'probabilities',
    name: 'probability of',
    min: 0,
    max: 1,
    toProbability: (value: number) => value,
    fromProbability: (probability: number) => probability,
  },
  /** By how much it exceeds what the other actions of the observation weigh together: the log-odds. */
  preference: {
    title: 'preferences',
    name: 'preference (log-odds) of',
    min: -6,
    max: 6,
    toProbability: (value: number) => 1 / (1 + exponential(-value)),
    fromProbability: (probability: number) =>
      Math.min(6, Math.max(-6, logarithm(Math.max(1e-12, probability) / Math.max(1e-12, 1 - probability)))),
  },
} as const
export type LandscapeScale = keyof typeof LANDSCAPE_SCALES

/** The probability at a part of an axis, from 0 to 1. */
export function probabilityAlong(scale: LandscapeScale, part: number): number {
  const { min, max, toProbability } = LANDSCAPE_SCALES[scale]
  return toProbability(min + part * (max - min))
}

/**
 * The exact value of a policy at the start, over one or two of its probabilities: what policy search climbs. Along an axis
 * the probability of one action goes from 0 to 1, or its preference from one end of the scale to the other, and the other actions of the same observation share the rest in the
 * proportions they have.
 */
export class Landscape {
  /** [size], or [size x size] with the first axis running fastest: NaN where the policy may never end, undiscounted */
  readonly values: Float64Array
  /** How many of them are known. */
  done = 0

  /**
   * @param policy [tableRows] the one that all others are made from
   * @param axes  one or two table rows, of different observations
   * @param size  points along an axis, at least 2
   */
  constructor(
    private readonly world: World,
    private readonly policy: Float64Array,
    readonly axes: readonly number[],
    readonly size: number,
    private readonly discount: number,
    private readonly scale: LandscapeScale = 'probability',
  ) {
    this.values = new Float64Array(size ** axes.length).fill(NaN)
  }

  get finished(): boolean {
    return this.done === this.values.length
  }

  /** Works out so many points more. */
  advance(points: number): void {
    const { world, size, axes, values, discount, scale } = this
    for (let k = 0; k < points && !this.finished; k++) {
      const at = this.done++
      const places = [at % size, Math.floor(at / size)]
      let policy = this.policy
      axes.forEach(
        (row, i) =>
          (policy = withProbability(world, policy, row, probabilityAlong(scale, places[i] / (size - 1)))),
      )
      const result = evaluatePolicy(world.model, world.toModelRows(policy), discount)
      values[at] = result.outcome === 'solved' ? startValue(world.model, result.values) : NaN
    }
  }
}

/** The observation of a table row. */
export function observationOfRow({ tableStart }: World, row: number): number {
  let low = 0
  let high = tableStart.length - 2
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (tableStart[middle] <= row) low = middle
    else high = middle - 1
  }
  return low
}

/** [tableRows] the policy with another probability of one action; the others of its observation share what is left. */
export function withProbability(
  world: World,
  policy: Float64Array,
  row: number,
  probability: number,
): Float64Array {
  const { tableStart } = world
  const observation = observationOfRow(world, row)
  const [from, end] = [tableStart[observation], tableStart[observation + 1]]
  const others = end - from - 1
  const moved = policy.slice()
  let rest = 0
  for (let r = from; r < end; r++) if (r !== row) rest += policy[r]
  for (let r = from; r < end; r++)
    if (r !== row) moved[r] = (1 - probability) * (rest > 0 ? policy[r] / rest : 1 / others)
  moved[row] = others === 0 ? 1 : probability
  return moved
}

/** Preferences are not set for probabilities smaller than this: they would be endless. */
const SMALLEST = 1e-6

/** [tableRows] preferences whose softmax has another probability of one action, as near as preferences come. */
export function preferencesWith(
  world: World,
  preferences: Float64Array,
  policy: Float64Array,
  temperature: number,
  row: number,
  probability: number,
): Float64Array {
  const { tableStart } = world
  const observation = observationOfRow(world, row)
  const [from, end] = [tableStart[observation], tableStart[observation + 1]]
  const moved = withProbability(world, policy, row, probability)
  const set = preferences.slice()
  let mean = 0
  for (let r = from; r < end; r++) {
    set[r] = temperature * logarithm(Math.max(SMALLEST, moved[r]))
    mean += set[r] / (end - from)
  }
  // Only differences matter.
  for (let r = from; r < end; r++) set[r] -= mean
  return set
}
