import { numbersOf, type KeptNumber } from '../../kept-number'
import { CandidateSearch } from './candidate-search'

/**
 * The barest search there is: change the policy a little, play, and keep the change if it paid better (random search,
 * Rastrigin 1963). The mean return of the policy that is kept is never measured again, so that a lucky one is hard to beat.
 */
export class KeepBetter extends CandidateSearch {
  /** The mean return of the policy that is kept; −∞ before any was judged. */
  best = -Infinity
  /** 1 when the candidate judged last was kept. */
  wasKept = 0

  protected override propose(): void {
    // The policy it begins with is judged first.
    this.candidate.preferences.set(this.table)
    this.candidate.refreshAll()
  }

  protected override judge(mean: number): void {
    this.wasKept = mean > this.best ? 1 : 0
    if (this.wasKept) {
      this.best = mean
      this.adopt(this.candidate.preferences)
    }
    this.scatter(this.table, this.settings.radius)
  }

  protected override verdict(): string {
    if (this.judged === 0) return 'The initial policy is being evaluated.'
    return this.wasKept
      ? `The last candidate had a mean return of ${this.say(this.lastMean)}, more than any before: it was kept.`
      : `The last candidate had a mean return of ${this.say(this.lastMean)}, no more than the ${this.say(this.best)} of the policy that is kept: it was discarded.`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...numbersOf<KeepBetter>(this, ['best', 'wasKept']) }
  }
}
