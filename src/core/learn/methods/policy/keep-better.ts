import { numbersOf, type KeptNumber } from '../../kept-number'
import { CandidateSearch } from './candidate-search'

/**
 * The barest search there is: change the policy a little, play, and keep the change if it paid better (random search,
 * Rastrigin 1963). What was once lucky stays the mark to beat: the mean of the policy that is kept is never measured
 * again.
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
    if (this.judged === 0) return 'The policy it begins with is being judged.'
    return this.wasKept
      ? `The candidate before paid ${this.say(this.lastMean)} on average, more than any before: it was kept.`
      : `The candidate before paid ${this.say(this.lastMean)} on average, no more than the ${this.say(this.best)} of the policy that is kept: it was forgotten.`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...numbersOf<KeepBetter>(this, ['best', 'wasKept']) }
  }
}
