import { numbersOf, type KeptNumber } from '../../kept-number'
import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'
import { CandidateSearch } from './candidate-search'
import { SharedChance } from './shared-chance'

/** The radius halves after a success and doubles after a failure, between these parts of the one it begins with. */
const SMALLEST = 1 / 64
const LARGEST = 2

/**
 * Stochastic hill climbing with random restarts (Russell & Norvig 2021, section 4.1; the radius adapts as in Rechenberg
 * 1973): the current policy and a neighbour play the same episodes, with the same random numbers; the better one
 * stays. When too many neighbours in a row were no better, it begins again at a random place. The table is the best place
 * found so far.
 */
export class HillClimbing extends CandidateSearch {
  /** How far neighbours are away now. */
  reach = 0
  failures = 0
  restarts = 0
  /** The mean return of the current policy in the pair at hand, and of the best one when it was measured last. */
  here = 0
  best = -Infinity
  /** 1 while the neighbour plays, 0 while the current policy does. */
  neighbours = 0
  private readonly place: Float64Array
  private readonly neighbour: Float64Array
  private readonly chance: SharedChance

  constructor(world: World, settings: LearnSettings) {
    super(world, settings)
    this.place = new Float64Array(this.table.length)
    this.neighbour = new Float64Array(this.table.length)
    this.chance = new SharedChance(this.environment, this.exploration)
  }

  protected override propose(): void {
    this.place.set(this.table)
    this.reach = this.settings.radius
    this.beginPair()
  }

  protected override judge(mean: number): void {
    if (this.neighbours === 0) {
      this.here = mean
      if (mean > this.best) this.take(mean)
      this.neighbours = 1
      this.scatter(this.place, this.reach)
      this.neighbour.set(this.candidate.preferences)
      this.chance.again()
      return
    }
    const { radius, patience } = this.settings
    if (mean > this.here) {
      this.place.set(this.neighbour)
      this.reach = Math.max(this.reach / 2, radius * SMALLEST)
      this.failures = 0
      if (mean > this.best) this.take(mean)
    } else {
      this.reach = Math.min(this.reach * 2, radius * LARGEST)
      if (++this.failures >= patience) {
        this.failures = 0
        this.restarts++
        this.reach = radius
        this.place.fill(0)
        this.scatter(this.place, radius)
        this.place.set(this.candidate.preferences)
      }
    }
    this.beginPair()
  }

  /** The current policy plays first. */
  private beginPair(): void {
    this.neighbours = 0
    this.candidate.preferences.set(this.place)
    this.candidate.refreshAll()
    this.chance.keep()
  }

  private take(mean: number): void {
    this.best = mean
    this.adopt(this.neighbours === 1 ? this.neighbour : this.place)
  }

  protected override verdict(): string {
    const at = `${this.restarts === 0 ? 'No restart yet' : this.restarts === 1 ? 'One restart' : `${this.restarts} restarts`}; the radius is ${this.say(this.reach)}.`
    return this.neighbours === 1
      ? `${at} The current policy had a mean return of ${this.say(this.here)}; a neighbour plays the same episodes now.`
      : `${at} ${this.failures === 0 ? 'The last neighbour was better, or the search has just begun.' : `${this.failures} neighbours in a row were no better.`}`
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return {
      ...super.keptNumbers(),
      ...numbersOf<HillClimbing>(this, ['reach', 'failures', 'restarts', 'here', 'best', 'neighbours']),
    }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), place: this.place, neighbour: this.neighbour, ...this.chance.kept() }
  }
}
