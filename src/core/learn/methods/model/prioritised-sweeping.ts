import type { Working } from '../../../explain/working'
import type { KeptNumber } from '../../kept-number'
import { ControlLearner } from '../../control-learner'
import { StateQueue } from '../../../plan/state-queue'
import { LearnedModel } from './learned-model'
import type { LearnSettings } from '../../../settings/settings'
import { sweepingWorking } from '../monte-carlo/return-working'
import type { World } from '../../world'

/**
 * Prioritised sweeping (Moore & Atkeson 1993; Peng & Williams 1993; Sutton & Barto 2018, section 8.4): remembers what it
 * saw, and after each step backs up the actions whose backup differs most from their value, by what was seen, up to
 * `planning` of them and none whose difference is at most `threshold`. A backup takes the whole of what was seen into
 * account, so there is no learning rate.
 */
export class PrioritisedSweeping extends ControlLearner {
  private readonly model: LearnedModel
  private readonly observationOf: Int32Array
  /** [tableRows] how far each is from its backup, 0 where it does not matter */
  private readonly debt: Float64Array
  private readonly queue: StateQueue

  constructor(world: World, settings: LearnSettings) {
    super(world, settings)
    const { tableStart, tableRows } = world
    this.model = new LearnedModel(tableRows, tableStart.length - 1, world.model.outcomes)
    this.observationOf = world.observationsOfRows()
    this.debt = new Float64Array(tableRows)
    const all = Int32Array.from({ length: tableRows }, (_, row) => row)
    this.queue = new StateQueue(this.debt, all, all)
  }

  working(observation: number): Working | undefined {
    const at = observation * this.slotSize
    return sweepingWorking(this.world, this.settings, this.slots.subarray(at, at + this.slotSize))
  }

  protected override learn(_group: number, row: number, reward: number, next: number): void {
    const { model, greedy, observationOf, debt, queue, settings } = this
    model.add(row, reward, next, this.world.carried)
    this.consider(row)
    for (let i = 0; i < settings.planning; i++) {
      const top = queue.top()
      if (debt[top] <= settings.threshold) return
      debt[top] = 0
      queue.moved(top)
      const observation = observationOf[top]
      const old = greedy.values[top]
      const best = greedy.best(observation)
      const value = model.backup(top, settings.discount, greedy)
      if (!this.sound(value, observation)) return
      this.noteChange(top, old)
      greedy.write(observation, top, value)
      this.noteUpdate(observation, top, old, value, value, model.total[top], i)
      if (greedy.best(observation) !== best) model.eachInto(observation, (each) => this.consider(each))
    }
  }

  /** Puts a row where its difference from its backup belongs. */
  private consider(row: number): void {
    const { model, greedy, settings, debt, queue } = this
    debt[row] = Math.abs(model.backup(row, settings.discount, greedy) - greedy.values[row])
    queue.moved(row)
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return { ...super.keptNumbers(), ...this.model.keptNumbers() }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), debt: this.debt, ...this.model.kept() }
  }

  protected override tableChanged(): void {
    super.tableChanged()
    // What is on top follows from debts and numbers alone, so the queue itself need not be kept.
    this.queue.rebuild()
  }
}
