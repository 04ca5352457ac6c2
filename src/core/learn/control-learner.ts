import type { Actor } from './explore/actor'
import { GreedyTable, type Allocate } from './greedy-table'
import type { LearnSettings } from '../settings/settings'
import { mostRows, TabularLearner } from './tabular-learner'
import type { World } from './world'

/** Learners that act by one table of action values. */
export abstract class ControlLearner extends TabularLearner {
  protected readonly greedy: GreedyTable
  protected readonly actor: Actor
  private readonly weights: Float64Array

  constructor(world: World, settings: LearnSettings, slotSize?: number, allocate?: Allocate) {
    super(world, settings, slotSize, allocate)
    this.greedy = new GreedyTable(world.tableStart, this.allocate)
    this.fillStart(this.greedy.values)
    this.greedy.refreshAll()
    this.actor = this.actorOn(this.greedy)
    this.weights = new Float64Array(mostRows(world.tableStart))
  }

  get table(): Float64Array {
    return this.greedy.values
  }

  /** The mean of the action values of an observation, weighted as the agent would choose now. */
  protected expected(observation: number): number {
    const { weights, greedy } = this
    const from = greedy.start[observation]
    const size = greedy.start[observation + 1] - from
    this.actor.chances(observation, weights)
    let sum = 0
    for (let k = 0; k < size; k++) sum += weights[k] * greedy.values[from + k]
    return sum
  }

  protected override tableChanged(): void {
    this.greedy.refreshAll()
  }
}
