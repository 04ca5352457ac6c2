import { num, say, type Part } from '../../explain/working'
import { logarithm } from '../../random/logarithm'
import { Bounds } from './bounds'
import type { ActorParts, ExplorationKind } from './exploration'

export const ucbTuned: ExplorationKind = {
  title: 'upper confidence bound (UCB1-tuned)',
  level: 'Confidence width',
  hint: 'As UCB1, but with the variance of the rewards seen: value + width × √(ln t / n × min(1/4, variance + √(2 ln t / n))). For rewards from 0 to 1 (Auer, Cesa-Bianchi & Fischer 2002).',
  brief: 'UCB-tuned, width',
  range: { min: 0, max: 1e6, aboveMin: false },
  usual: 1,
  kernels: 'none',
  goesByVisits: true,
  forBandits: true,
  create: (parts) => new UcbTuned(parts),
}

/** Auer, Cesa-Bianchi & Fischer 2002, section 4 */
class UcbTuned extends Bounds {
  /** [tableRows] of the rewards seen: their mean and the sum of squares around it (Welford 1962) */
  private readonly means: Float64Array
  private readonly squares: Float64Array

  constructor(parts: ActorParts) {
    super(parts)
    this.means = new Float64Array(parts.visits.length)
    this.squares = new Float64Array(parts.visits.length)
  }

  hear(row: number, reward: number): void {
    const off = reward - this.means[row]
    this.means[row] += off / this.visits[row]
    this.squares[row] += off * (reward - this.means[row])
  }

  kept(): Record<string, Float64Array> {
    return { rewardMeans: this.means, rewardSquares: this.squares }
  }

  protected override bonus(row: number, total: number): number {
    const per = logarithm(total) / this.visits[row]
    return this.level * Math.sqrt(per * Math.min(0.25, this.spread(row, total)))
  }

  protected override bonusParts(row: number, total: number): Part[] {
    return [
      num('rate', this.level),
      say('× √(ln'),
      num('plain', total),
      say('/'),
      num('plain', this.visits[row]),
      say('× min(0.25,'),
      num('plain', this.spread(row, total)),
      say('))'),
    ]
  }

  /** The variance seen, and how much larger it may be. */
  private spread(row: number, total: number): number {
    const count = this.visits[row]
    return this.squares[row] / count + Math.sqrt((2 * logarithm(total)) / count)
  }
}
