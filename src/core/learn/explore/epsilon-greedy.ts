import type { RandomStream } from '../../random/generator'
import type { GreedyTable } from '../greedy-table'
import type { Actor } from './actor'
import type { ExplorationKind } from './exploration'

export const epsilonGreedy: ExplorationKind = {
  title: 'ε-greedy',
  level: 'Exploration',
  hint: 'With this chance a step is a random action, all equally likely; otherwise the best one.',
  brief: 'ε',
  range: { min: 0, max: 1, aboveMin: false },
  usual: 0.1,
  kernels: 'all',
  goesByVisits: false,
  forBandits: false,
  create: ({ table, exploration, ties }) => new EpsilonGreedy(table, exploration, ties),
}

/** A random action with a chance of `level`, all equally likely; else the best one. */
class EpsilonGreedy implements Actor {
  explored = false
  level = 0

  constructor(
    private readonly table: GreedyTable,
    private readonly exploration: RandomStream,
    /** Null: the first of several best actions is taken. */
    private readonly ties: RandomStream | null,
  ) {}

  choose(observation: number): number {
    const { start } = this.table
    this.explored = this.exploration.uniform() < this.level
    return this.explored
      ? start[observation] + this.exploration.below(start[observation + 1] - start[observation])
      : this.table.pick(observation, this.ties)
  }

  chances(observation: number, out: Float64Array): void {
    const { table } = this
    const { start, values } = table
    const [best, first, count] = [table.best(observation), table.first(observation), table.count(observation)]
    const from = start[observation]
    const size = start[observation + 1] - from
    const greedy = this.ties ? (1 - this.level) / count : 1 - this.level
    for (let k = 0; k < size; k++) {
      const chosen = this.ties ? values[from + k] === best : from + k === first
      out[k] = this.level / size + (chosen ? greedy : 0)
    }
  }
}
