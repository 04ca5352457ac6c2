import { plainArrays, type Allocate } from './greedy-table'

/** What came of each finished episode of a run. */
export class EpisodeLog {
  /** [capacity] the discounted return from the start */
  readonly returns: Float64Array
  /** [capacity] steps taken, negative when the cap cut the episode off */
  readonly lengths: Int32Array
  count = 0
  /** Returns and steps summed up to each episode, for means and places in constant time; made when first asked for. */
  private sums: Float64Array | undefined
  private ends: Float64Array | undefined
  private summed = 0
  private ended = 0

  constructor(
    readonly capacity: number,
    allocate: Allocate = plainArrays,
  ) {
    this.returns = allocate.floats(capacity)
    this.lengths = allocate.ints(capacity)
  }

  add(episodeReturn: number, length: number, cut: boolean): void {
    this.returns[this.count] = episodeReturn
    this.lengths[this.count++] = cut ? -length : length
  }

  /** The mean return of the `window` episodes that end with `episode` (from 0); of fewer near the beginning. */
  rollingMean(episode: number, window: number): number {
    this.sumTo(episode + 1)
    const sums = this.sums!
    const from = Math.max(0, episode + 1 - window)
    return (sums[episode + 1] - sums[from]) / (episode + 1 - from)
  }

  /** How many steps the run had taken when so many episodes were finished. */
  stepsAfter(episodes: number): number {
    this.sumTo(episodes)
    return this.ends![episodes]
  }

  /** How many episodes were finished after so many steps. */
  episodesWithin(steps: number): number {
    this.sumTo(this.count)
    let low = 0
    let high = this.count
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.ends![middle] <= steps) low = middle
      else high = middle - 1
    }
    return low
  }

  /** The first of `count` episodes that ended by itself, from 1; 0 for none. */
  firstEnded(count: number): number {
    this.sumTo(count)
    return this.ended <= count ? this.ended : 0
  }

  private sumTo(count: number): void {
    const sums = (this.sums ??= new Float64Array(this.capacity + 1))
    const ends = (this.ends ??= new Float64Array(this.capacity + 1))
    for (; this.summed < count; this.summed++) {
      sums[this.summed + 1] = sums[this.summed] + this.returns[this.summed]
      ends[this.summed + 1] = ends[this.summed] + Math.abs(this.lengths[this.summed])
      if (this.ended === 0 && this.lengths[this.summed] > 0) this.ended = this.summed + 1
    }
  }

  /**
   * A curve of at most `points` episodes of the first `count`, evenly spread and always with the last one.
   * Episodes count from 1, as people do.
   */
  curve(points: number, window: number, count = this.count): ReturnCurve {
    const length = Math.min(points, count)
    const curve: ReturnCurve = {
      episode: new Float64Array(length),
      mean: new Float64Array(length),
      single: new Float64Array(length),
      steps: new Float64Array(length),
      window,
    }
    for (let i = 0; i < length; i++) {
      const at = length === count ? i : Math.round((i * (count - 1)) / (length - 1))
      curve.episode[i] = at + 1
      curve.mean[i] = this.rollingMean(at, window)
      curve.single[i] = this.returns[at]
      curve.steps[i] = this.stepsAfter(at + 1)
    }
    return curve
  }
}

/** A thinned learning curve: the rolling mean, and the single returns it was thinned to. */
export interface ReturnCurve {
  readonly episode: Float64Array
  readonly mean: Float64Array
  readonly single: Float64Array
  /** Steps taken by the end of the episode. */
  readonly steps: Float64Array
  readonly window: number
}
