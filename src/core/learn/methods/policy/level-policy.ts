import { exponential } from '../../../random/exponential'
import type { PolicyShape } from '../../../settings/policy-settings'
import type { World } from '../../world'

/** A spread that is as good as none: nearly all levels are equally likely. */
const WIDEST = 3

/**
 * Normal distributions over levels, cut off at their ends (Williams 1992, section 6): of each observation all whose
 * actions are levels of one number, a mean and a spread in parts of the range of its levels, 0 to 1. The preference of a
 * level at u is −(u − mean)² / (2 × spread²), so that the softmax of preferences is the distribution.
 */
export class LevelPolicy {
  /** [observations] 1 where all actions are levels */
  readonly covers: Uint8Array
  /** [tableRows] the level of a row, from 0 at the lowest of its observation to 1 at the highest */
  readonly units: Float64Array
  /** [observations] 0 to 1 */
  readonly mean: Float64Array
  /** [observations] the standard deviation that is learned, and the one that counts: wider while little was tried */
  readonly spread: Float64Array
  readonly used: Float64Array
  /** [observations] before the last update */
  readonly beforeMean: Float64Array
  readonly beforeSpread: Float64Array
  /** [observations] the lowest level, and from there to the highest */
  private readonly lowest: Float64Array
  private readonly range: Float64Array

  /** @returns null where the actions are no levels, or a softmax is asked for */
  static of(world: World, shape: PolicyShape): LevelPolicy | null {
    const { actionLevels } = world.model
    return shape.kind === 'gaussian' && actionLevels ? new LevelPolicy(world, shape, actionLevels) : null
  }

  private constructor(
    private readonly world: World,
    private readonly shape: Extract<PolicyShape, { kind: 'gaussian' }>,
    levels: Float64Array,
  ) {
    const { observations } = world.model
    const { tableStart, tableAction } = world
    this.covers = new Uint8Array(observations)
    this.units = new Float64Array(world.tableRows)
    this.lowest = new Float64Array(observations)
    this.range = new Float64Array(observations)
    for (let o = 0; o < observations; o++) {
      const own = Array.from(tableAction.subarray(tableStart[o], tableStart[o + 1]), (a) => levels[a])
      const [low, high] = [Math.min(...own), Math.max(...own)]
      // Two levels at the least: else there is nothing to be learned.
      if (!(high > low)) continue
      this.covers[o] = 1
      this.lowest[o] = low
      this.range[o] = high - low
      own.forEach((level, k) => (this.units[tableStart[o] + k] = (level - low) / (high - low)))
    }
    this.mean = new Float64Array(observations).fill(0.5)
    this.spread = new Float64Array(observations).fill(Math.min(WIDEST, Math.max(shape.floor, shape.spread)))
    this.used = this.spread.map((spread) => spread * (1 + shape.wider))
    this.beforeMean = this.mean.slice()
    this.beforeSpread = this.spread.slice()
  }

  /** Writes the preferences of an observation, if they are its. @param preferences [tableRows] */
  fill(observation: number, preferences: Float64Array): void {
    if (!this.covers[observation]) return
    const { units, mean, used, world } = this
    const squares = 2 * used[observation] * used[observation]
    for (let r = world.tableStart[observation]; r < world.tableStart[observation + 1]; r++) {
      const off = units[r] - mean[observation]
      preferences[r] = -(off * off) / squares
    }
  }

  fillAll(preferences: Float64Array): void {
    for (let o = 0; o < this.covers.length; o++) this.fill(o, preferences)
  }

  /**
   * From the gradient of an observation's preferences, that of its mean and of the logarithm of its spread, times spread²
   * and 1/2: the natural gradient of a normal distribution, whose steps do not explode as the spread becomes small
   * (Williams 1992; Amari 1998).
   * @param gradient [tableRows] in; the mean's at the first row of the observation out, the spread's at the second
   */
  toParameters(observation: number, gradient: Float64Array): void {
    const { units, mean, used, world } = this
    const start = world.tableStart[observation]
    const variance = used[observation] * used[observation]
    let ofMean = 0
    let ofSpread = 0
    for (let r = start; r < world.tableStart[observation + 1]; r++) {
      const off = units[r] - mean[observation]
      ofMean += gradient[r] * off
      ofSpread += (gradient[r] * off * off) / variance
    }
    gradient[start] = ofMean
    gradient[start + 1] = ofSpread / 2
  }

  /** Takes a step; the mean stays in the range of the levels, the spread above its floor. @param visits [tableRows] */
  move(observation: number, byMean: number, byLogSpread: number, visits: Float64Array): void {
    const { mean, spread, beforeMean, beforeSpread } = this
    beforeMean[observation] = mean[observation]
    beforeSpread[observation] = spread[observation]
    mean[observation] = Math.min(1, Math.max(0, mean[observation] + byMean))
    this.setSpread(observation, spread[observation] * exponential(Math.min(1, byLogSpread)), visits)
  }

  /** Takes means and spreads from probabilities. @param probability, visits [tableRows] */
  fit(probability: Float64Array, visits: Float64Array): void {
    const { covers, units, mean, world } = this
    for (let o = 0; o < covers.length; o++) {
      if (!covers[o]) continue
      let sum = 0
      let squares = 0
      for (let r = world.tableStart[o]; r < world.tableStart[o + 1]; r++) {
        sum += probability[r] * units[r]
        squares += probability[r] * units[r] * units[r]
      }
      mean[o] = Math.min(1, Math.max(0, sum))
      const { wider } = this.shape
      this.setSpread(o, Math.sqrt(Math.max(0, squares - sum * sum)) / (1 + wider), visits)
    }
  }

  /** A part of the range of an observation as a level; a spread as a difference of levels. */
  levelAt(observation: number, unit: number): number {
    return this.lowest[observation] + unit * this.range[observation]
  }

  widthOf(observation: number, spread: number): number {
    return spread * this.range[observation]
  }

  /** All there is to it, for snapshots. */
  kept(): Record<string, Float64Array> {
    const { mean, spread, used, beforeMean, beforeSpread } = this
    return {
      levelMean: mean,
      levelSpread: spread,
      levelSpreadUsed: used,
      levelMeanBefore: beforeMean,
      levelSpreadBefore: beforeSpread,
    }
  }

  private setSpread(observation: number, spread: number, visits: Float64Array): void {
    const { floor, wider } = this.shape
    this.spread[observation] = Math.min(WIDEST, Math.max(floor, spread))
    const tried = visits[this.nearest(observation)]
    this.used[observation] = this.spread[observation] * (1 + wider / Math.sqrt(1 + tried))
  }

  /** The row whose level is nearest to the mean. */
  private nearest(observation: number): number {
    const { units, mean, world } = this
    let row = world.tableStart[observation]
    for (let r = row + 1; r < world.tableStart[observation + 1]; r++)
      if (Math.abs(units[r] - mean[observation]) < Math.abs(units[row] - mean[observation])) row = r
    return row
  }
}
