import { num, say, type WorkingLine } from '../../explain/working'
import type { Actor } from './actor'
import type { ActorParts, ExplorationKind } from './exploration'

export const exploreThenCommit: ExplorationKind = {
  title: 'explore, then commit',
  level: 'Pulls of each action',
  hint: 'Every action is tried so often first, one after the other; from then on the best one is taken (Robbins 1952).',
  brief: 'commits after',
  range: { min: 1, max: 1e6, aboveMin: false },
  usual: 20,
  kernels: 'none',
  goesByVisits: true,
  forBandits: false,
  create: (parts) => new ExploreThenCommit(parts),
}

class ExploreThenCommit implements Actor {
  explored = false
  level = 1

  constructor(private readonly parts: ActorParts) {}

  choose(observation: number): number {
    const { table, ties } = this.parts
    const row = this.seldom(observation)
    this.explored = row >= 0
    return row >= 0 ? row : table.pick(observation, ties)
  }

  chances(observation: number, out: Float64Array): void {
    const { table, ties } = this.parts
    const from = table.start[observation]
    const size = table.start[observation + 1] - from
    const row = this.seldom(observation)
    if (row >= 0) {
      out.fill(0, 0, size)
      out[row - from] = 1
      return
    }
    for (let k = 0; k < size; k++) {
      const isBest = table.values[from + k] === table.best(observation)
      if (ties) out[k] = isBest ? 1 / table.count(observation) : 0
      else out[k] = from + k === table.first(observation) ? 1 : 0
    }
  }

  explain(observation: number): Omit<WorkingLine, 'label'>[] {
    const { table, visits } = this.parts
    const row = this.seldom(observation)
    return Array.from({ length: table.start[observation + 1] - table.start[observation] }, (_, k) => {
      const r = table.start[observation] + k
      return {
        strong: row >= 0 ? r === row : table.values[r] === table.best(observation),
        parts: [
          num('plain', visits[r]),
          say('of'),
          num('rate', this.level),
          say('pulls; value'),
          num('result', table.values[r]),
        ],
      }
    })
  }

  /** The first action that was tried least, as long as that is too seldom; −1 after that. */
  private seldom(observation: number): number {
    const { table, visits } = this.parts
    let row = -1
    let least = this.level
    for (let r = table.start[observation]; r < table.start[observation + 1]; r++)
      if (visits[r] < least) {
        least = visits[r]
        row = r
      }
    return row
  }
}
