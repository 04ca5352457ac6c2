import type { Actor } from './explore/actor'
import { GreedyTable, type Allocate } from './greedy-table'
import type { LearnSettings } from '../settings/settings'
import { TabularLearner } from './tabular-learner'
import type { World } from './world'

/** Learners that act by one table of action values. */
export abstract class ControlLearner extends TabularLearner {
  protected readonly greedy: GreedyTable
  protected readonly actor: Actor

  constructor(world: World, settings: LearnSettings, slotSize?: number, allocate?: Allocate) {
    super(world, settings, slotSize, allocate)
    this.greedy = new GreedyTable(world.tableStart, this.allocate)
    this.fillStart(this.greedy.values)
    this.greedy.refreshAll()
    this.actor = this.actorOn(this.greedy)
  }

  get table(): Float64Array {
    return this.greedy.values
  }

  protected override tableChanged(): void {
    this.greedy.refreshAll()
  }
}
