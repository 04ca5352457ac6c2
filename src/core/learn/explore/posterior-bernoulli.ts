import { num, say, type Part } from '../../explain/working'
import { beta } from '../../random/beta'
import type { RandomStream } from '../../random/generator'
import type { ActorParts, ExplorationKind } from './exploration'
import { Posterior } from './posterior'

export const posteriorBernoulli: ExplorationKind = {
  title: 'posterior sampling (Bernoulli)',
  level: 'Prior count',
  hint: 'For arms that pay or do not: draws each arm’s chance from a beta distribution with its successes and failures, and the prior count added to both, and pulls the arm whose draw is best (Thompson 1933). A reward above 0 is a success.',
  brief: 'posterior sampling, prior',
  range: { min: 0, max: 1e6, aboveMin: true },
  usual: 1,
  kernels: 'none',
  goesByVisits: true,
  forBandits: true,
  create: (parts) => new BernoulliPosterior(parts),
}

class BernoulliPosterior extends Posterior {
  /** [tableRows] */
  private readonly successes: Float64Array
  /** What a success paid last: draws are in units of rewards, so that arms that pay differently can be compared. */
  private readonly prizes: Float64Array

  constructor(parts: ActorParts) {
    super(parts)
    this.successes = new Float64Array(parts.visits.length)
    this.prizes = new Float64Array(parts.visits.length).fill(1)
  }

  override hear(row: number, reward: number): void {
    if (!(reward > 0)) return
    this.successes[row]++
    this.prizes[row] = reward
  }

  protected override sample(row: number, stream: RandomStream): number {
    const [a, b] = this.counts(row)
    return this.prizes[row] * beta(stream, a, b)
  }

  protected override belief(row: number): Part[] {
    const [a, b] = this.counts(row)
    return [say('beta('), num('plain', a), say(','), num('plain', b), say('), mean'), num('old', a / (a + b))]
  }

  protected override high(row: number): number {
    const [a, b] = this.counts(row)
    const deviation = Math.sqrt((a * b) / ((a + b) * (a + b) * (a + b + 1)))
    return this.prizes[row] * Math.min(1, a / (a + b) + 2 * deviation)
  }

  override kept(): Record<string, Float64Array> {
    return { ...super.kept(), successes: this.successes, prizes: this.prizes }
  }

  /** The conjugate posterior of a Bernoulli arm. */
  private counts(row: number): [number, number] {
    return [this.level + this.successes[row], this.level + this.visits[row] - this.successes[row]]
  }
}
