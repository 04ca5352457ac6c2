import type { Working } from '../../../explain/working'
import type { KeptNumber } from '../../kept-number'
import { formatCount } from '../../../formats/number'
import { RandomStream } from '../../../random/generator'
import type { Allocate } from '../../greedy-table'
import { LearnedModel } from './learned-model'
import { OneStep } from '../value/one-step'
import type { LearnSettings } from '../../../settings/settings'
import type { World } from '../../world'

/**
 * Dyna-Q (Sutton 1990; Sutton & Barto 2018, section 8.2): Q-learning that remembers what it saw, and after each step
 * updates as many actions again as `planning` says, picked at random among those it has tried. What follows one of them
 * is drawn by how often it was seen, so that the method holds in chancy worlds too.
 */
export class DynaQ extends OneStep {
  protected readonly model: LearnedModel
  protected readonly picks: RandomStream
  protected readonly observationOf: Int32Array
  /** [tableRows] updates so far, those from memory included */
  protected readonly updates: Float64Array

  constructor(world: World, settings: LearnSettings, allocate?: Allocate, keepsWorkings?: boolean) {
    super(world, settings, 'best', allocate, keepsWorkings)
    const { tableStart } = world
    this.model = new LearnedModel(world.tableRows, tableStart.length - 1, world.model.outcomes, this.allocate)
    this.picks = new RandomStream(settings.seed, 'method', settings.run, this.allocate.ints(4))
    this.observationOf = world.observationsOfRows()
    this.updates = this.allocate.floats(world.tableRows)
  }

  override working(observation: number): Working | undefined {
    const working = super.working(observation)
    const { planning } = this.settings
    return (
      working && {
        ...working,
        note: `${working.note} This update came from a step in the world; ${formatCount(planning)} from memory follow each, of actions picked at random.`,
      }
    )
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    super.learn(observation, row, reward, next, ended)
    if (this.status.outcome === 'diverged') return
    const { model, picks, greedy, observationOf, settings } = this
    model.add(row, reward, next, this.world.carried)
    for (let i = 0; i < settings.planning; i++) {
      const again = model.seen[picks.below(model.seenCount)]
      const entry = model.draw(again, picks)
      const discount = settings.discount * model.carriedOf(entry)
      const target = model.rewardOf(entry) + discount * greedy.best(model.observationOf(entry))
      const old = greedy.values[again]
      const value = old + this.rateAt(this.countUpdate(again)) * (target - old)
      if (!this.sound(value, observationOf[again])) return
      this.noteChange(again, old)
      greedy.write(observationOf[again], again, value)
    }
  }

  protected override countUpdate(row: number): number {
    return ++this.updates[row]
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...this.model.keptNumbers() }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), picks: this.picks.words, updates: this.updates, ...this.model.kept() }
  }
}
