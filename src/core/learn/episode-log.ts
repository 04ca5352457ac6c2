/** What came of each finished episode of a run. */
export class EpisodeLog {
  /** [capacity] the discounted return from the start */
  readonly returns: Float64Array
  /** [capacity + 1] returns summed up to each episode, for rolling means in constant time */
  private readonly sums: Float64Array
  count = 0

  constructor(readonly capacity: number) {
    this.returns = new Float64Array(capacity)
    this.sums = new Float64Array(capacity + 1)
  }

  add(episodeReturn: number): void {
    this.returns[this.count] = episodeReturn
    this.sums[this.count + 1] = this.sums[this.count] + episodeReturn
    this.count++
  }

  /** The mean return of the `window` episodes that end with `episode` (from 0); of fewer near the beginning. */
  rollingMean(episode: number, window: number): number {
    const from = Math.max(0, episode + 1 - window)
    return (this.sums[episode + 1] - this.sums[from]) / (episode + 1 - from)
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
