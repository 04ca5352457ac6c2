import { num, say, type Part } from '../../explain/working'
import { gaussian } from '../../random/gaussian'
import type { RandomStream } from '../../random/generator'
import type { ActorParts, ExplorationKind } from './exploration'
import { Posterior } from './posterior'

/** The prior of a mean is normal around 0 and so many times as wide as a pay-off: it says next to nothing. */
const WIDE = 100

export const posteriorGaussian: ExplorationKind = {
  title: 'posterior sampling (Gaussian)',
  level: 'Standard deviation of a reward',
  hint: 'For arms with Gaussian rewards of this standard deviation: draws each arm’s mean from a Gaussian around the mean reward seen, with the deviation divided by √n, and pulls the arm whose draw is best (Thompson 1933).',
  brief: 'posterior sampling, σ',
  range: { min: 0, max: 1e9, aboveMin: true },
  usual: 1,
  kernels: 'none',
  goesByVisits: true,
  forBandits: true,
  create: (parts) => new GaussianPosterior(parts),
}

class GaussianPosterior extends Posterior {
  /** [tableRows] */
  private readonly sums: Float64Array

  constructor(parts: ActorParts) {
    super(parts)
    this.sums = new Float64Array(parts.visits.length)
  }

  override hear(row: number, reward: number): void {
    this.sums[row] += reward
  }

  protected override sample(row: number, stream: RandomStream): number {
    return this.mean(row) + this.deviation(row) * gaussian(stream)
  }

  protected override belief(row: number): Part[] {
    return [say('normal, mean'), num('old', this.mean(row)), say('± '), num('rate', this.deviation(row))]
  }

  protected override high(row: number): number {
    return this.mean(row) + 2 * this.deviation(row)
  }

  override kept(): Record<string, Float64Array> {
    return { ...super.kept(), rewardSums: this.sums }
  }

  /** The conjugate posterior of a mean with known variance: precisions add up. */
  private mean(row: number): number {
    return this.sums[row] / (this.visits[row] + 1 / (WIDE * WIDE))
  }

  private deviation(row: number): number {
    return this.level / Math.sqrt(this.visits[row] + 1 / (WIDE * WIDE))
  }
}
