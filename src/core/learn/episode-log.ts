/** What came of each finished episode of a run. */
export class EpisodeLog {
  /** [capacity] the discounted return from the start */
  readonly returns: Float64Array
  /** Returns summed up to each episode, for rolling means in constant time; made when first asked for. */
  private sums: Float64Array | undefined
  private summed = 0
  count = 0

  constructor(readonly capacity: number) {
    this.returns = new Float64Array(capacity)
  }

  add(episodeReturn: number): void {
    this.returns[this.count++] = episodeReturn
  }

  /** The mean return of the `window` episodes that end with `episode` (from 0); of fewer near the beginning. */
  rollingMean(episode: number, window: number): number {
    const sums = this.sumsTo(episode + 1)
    const from = Math.max(0, episode + 1 - window)
    return (sums[episode + 1] - sums[from]) / (episode + 1 - from)
  }

  private sumsTo(count: number): Float64Array {
    const sums = (this.sums ??= new Float64Array(this.capacity + 1))
    for (; this.summed < count; this.summed++)
      sums[this.summed + 1] = sums[this.summed] + this.returns[this.summed]
    return sums
  }

  /**
   * A curve of at most `points` episodes, evenly spread and always with the last one.
   * Episodes count from 1, as people do.
   */
  curve(points: number, window: number): ReturnCurve {
    const length = Math.min(points, this.count)
    const episode = new Float64Array(length)
    const mean = new Float64Array(length)
    const single = new Float64Array(length)
    for (let i = 0; i < length; i++) {
      const at = length === this.count ? i : Math.round((i * (this.count - 1)) / (length - 1))
      episode[i] = at + 1
      mean[i] = this.rollingMean(at, window)
      single[i] = this.returns[at]
    }
    return { episode, mean, single, window }
  }
}

/** A thinned learning curve: the rolling mean, and the single returns it was thinned to. */
export interface ReturnCurve {
  readonly episode: Float64Array
  readonly mean: Float64Array
  readonly single: Float64Array
  readonly window: number
}
