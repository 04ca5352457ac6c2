import { numbersOf, type KeptNumber } from '../../kept-number'
import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { Ascent } from './ascent'
import { CandidateSearch } from './candidate-search'
import { shorten } from './preference-learner'
import { SharedChance } from './shared-chance'

/**
 * Ascent along a gradient that is measured by differences (Kiefer & Wolfowitz 1952): in each of some random directions a
 * policy a radius ahead and one a radius back play the same episodes, with the same random numbers (Glasserman & Yao
 * 1992); the difference of their mean returns over 2 × radius, times the direction, is the gradient on average.
 */
export class FiniteDifferences extends CandidateSearch {
  protected override readonly noiseIs = '± radius × direction(a)'
  /** Directions measured of those that are wanted. */
  measured = 0
  /** 1 while the policy a radius back plays. */
  back = 0
  /** The mean return of the policy ahead. */
  ahead = 0
  /** Steps along the gradient so far. */
  updates = 0
  /** The last difference. */
  slope = 0
  private readonly direction: Float64Array
  private readonly gradient: Float64Array
  private readonly ascent: Ascent
  private readonly chance: SharedChance

  constructor(world: World, settings: LearnSettings) {
    super(world, settings)
    this.direction = new Float64Array(this.table.length)
    this.gradient = new Float64Array(this.table.length)
    this.ascent = new Ascent(settings.stepRule, this.table.length)
    this.chance = new SharedChance(this.environment, this.exploration)
  }

  protected override propose(): void {
    const { direction, table, settings } = this
    this.scatter(table, settings.radius)
    for (let r = 0; r < table.length; r++)
      direction[r] = (this.candidate.preferences[r] - table[r]) / settings.radius
    this.back = 0
    this.chance.keep()
  }

  protected override judge(mean: number): void {
    const { direction, gradient, table, settings, candidate } = this
    if (this.back === 0) {
      this.ahead = mean
      this.back = 1
      for (let r = 0; r < table.length; r++)
        candidate.preferences[r] = table[r] - settings.radius * direction[r]
      candidate.refreshAll()
      this.chance.again()
      return
    }
    this.slope = (this.ahead - mean) / (2 * settings.radius)
    for (let r = 0; r < table.length; r++) gradient[r] += (this.slope * direction[r]) / settings.candidates
    if (++this.measured === settings.candidates) this.climb()
    if (this.status.outcome === 'learning') this.propose()
  }

  private climb(): void {
    const { gradient, table, settings, world } = this
    shorten(gradient, 0, gradient.length, settings.normLimit)
    this.updates++
    const rate = this.rateAt(this.updates)
    const moved = table.map((value, r) => value + this.ascent.step(r, gradient[r], rate))
    for (let o = 0; o < world.model.observations; o++)
      for (let r = world.tableStart[o]; r < world.tableStart[o + 1]; r++) if (!this.sound(moved[r], o)) return
    this.adopt(moved)
    gradient.fill(0)
    this.measured = 0
  }
  protected override verdict(): string {
    return `${this.updates === 1 ? 'One step' : `${this.updates} steps`} along the gradient so far; ${this.measured} of ${this.settings.candidates} directions of the next one are measured, the last with a slope of ${this.say(this.slope)}. The policy ${this.back ? 'a radius back' : 'a radius ahead'} plays now.`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return {
      ...super.keptNumbers(),
      ...numbersOf<FiniteDifferences>(this, ['measured', 'back', 'ahead', 'slope', 'updates']),
    }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { direction, gradient } = this
    return { ...super.keptArrays(), direction, gradient, ...this.ascent.kept(), ...this.chance.kept() }
  }
}
