import { numbersOf, type KeptNumber } from '../../kept-number'
import type { LearnSettings } from '../../../settings/settings'
import { gaussian } from '../../../random/gaussian'
import type { World } from '../../world'
import { CandidateSearch } from './candidate-search'

/** The part of the radius that is added to each spread, so that no preference is settled too early (Szita & Lőrincz 2006). */
const EXTRA = 0.05

/**
 * The cross-entropy method (Rubinstein 1999; de Boer, Kroese, Mannor & Rubinstein 2005): candidates are drawn from a normal
 * distribution of each preference; the best part of them says where the next ones are drawn, by its mean and spread. The
 * table is the mean.
 */
export class CrossEntropy extends CandidateSearch {
  generations = 0
  protected override readonly noiseIs = 'spread(a) × Gaussian noise'
  /** Candidates of this generation judged so far. */
  drawn = 0
  /** The lowest mean return among those kept of the generation before. */
  mark = NaN
  /** [tableRows] */
  private readonly spread: Float64Array
  /** [candidates][tableRows], and their mean returns */
  private readonly tried: Float64Array
  private readonly means: Float64Array

  constructor(world: World, settings: LearnSettings) {
    super(world, settings)
    this.spread = new Float64Array(this.table.length).fill(settings.radius)
    this.tried = new Float64Array(settings.candidates * this.table.length)
    this.means = new Float64Array(settings.candidates)
  }

  protected override propose(): void {
    const { candidate, table, spread, noise } = this
    for (let r = 0; r < table.length; r++) candidate.preferences[r] = table[r] + spread[r] * gaussian(noise)
    candidate.refreshAll()
    this.tried.set(candidate.preferences, this.drawn * table.length)
  }

  protected override judge(mean: number): void {
    this.means[this.drawn] = mean
    if (++this.drawn === this.settings.candidates) this.refit()
    this.propose()
  }

  /** Mean and spread of the best part. */
  private refit(): void {
    const { means, tried, spread, settings, table } = this
    const size = table.length
    const kept = Math.max(1, Math.round(settings.elite * settings.candidates))
    // Of equal ones the first counts.
    const order = [...means.keys()].sort((x, y) => means[y] - means[x] || x - y).slice(0, kept)
    this.mark = means[order[kept - 1]]
    const centre = new Float64Array(size)
    for (const k of order) for (let r = 0; r < size; r++) centre[r] += tried[k * size + r] / kept
    for (let r = 0; r < size; r++) {
      let squares = 0
      for (const k of order) squares += (tried[k * size + r] - centre[r]) ** 2
      spread[r] = Math.sqrt(squares / kept) + EXTRA * settings.radius
    }
    this.adopt(centre)
    this.drawn = 0
    this.generations++
  }

  protected override verdict(): string {
    const before = Number.isNaN(this.mark)
      ? ''
      : ` Of the generation before, those with a mean return of at least ${this.say(this.mark)} were kept.`
    return `Candidate ${this.drawn + 1} of ${this.settings.candidates} in generation ${this.generations + 1}.${before}`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...numbersOf<CrossEntropy>(this, ['generations', 'drawn', 'mark']) }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { spread, tried, means } = this
    return { ...super.keptArrays(), spread, tried, means }
  }
}
