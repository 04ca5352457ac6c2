import { num, say, type Part, type WorkingLine } from '../../explain/working'
import { RandomStream } from '../../random/generator'
import type { Actor } from './actor'
import type { ActorParts } from './exploration'

/** Draws by which the chances of the actions are told: there is no formula for them. */
const TOLD = 500

/**
 * Posterior sampling (Thompson 1933): draws what each action may be worth from what is believed of it, and takes the one
 * whose draw is best, so that each is taken as often as it is believed to be the best.
 */
export abstract class Posterior implements Actor {
  explored = false
  level = 1
  protected readonly visits: Float64Array
  private readonly table: ActorParts['table']
  private readonly exploration: RandomStream
  /** [tableRows] the draws of the last choice in each observation; NaN before there was one */
  private readonly draws: Float64Array

  constructor({ table, visits, exploration }: ActorParts) {
    this.table = table
    this.visits = visits
    this.exploration = exploration
    this.draws = new Float64Array(visits.length).fill(NaN)
  }

  /** A draw of what a row is worth. */
  protected abstract sample(row: number, stream: RandomStream): number
  /** What is believed of it, in words and numbers. */
  protected abstract belief(row: number): Part[]
  /** A reward that was seen. */
  abstract hear(row: number, reward: number): void
  /** What is believed to be nearly the most it can be worth: about 98 parts of 100 lie below. */
  protected abstract high(row: number): number

  choose(observation: number): number {
    const { start, values } = this.table
    const best = this.table.best(observation)
    let row = start[observation]
    for (let r = start[observation]; r < start[observation + 1]; r++) {
      this.draws[r] = this.sample(r, this.exploration)
      if (this.draws[r] > this.draws[row]) row = r
    }
    this.explored = values[row] !== best
    return row
  }

  /** By many draws from a stream that belongs to nobody: being asked leaves no mark. */
  chances(observation: number, out: Float64Array): void {
    const { start } = this.table
    const from = start[observation]
    const size = start[observation + 1] - from
    const stream = new RandomStream(1, 'method', observation)
    out.fill(0, 0, size)
    for (let draw = 0; draw < TOLD; draw++) {
      let best = 0
      let most = -Infinity
      for (let k = 0; k < size; k++) {
        const worth = this.sample(from + k, stream)
        if (worth > most) {
          most = worth
          best = k
        }
      }
      out[best] += 1 / TOLD
    }
  }

  bound(_observation: number, row: number): number {
    return this.visits[row] === 0 ? Infinity : this.high(row)
  }

  explain(observation: number): Omit<WorkingLine, 'label'>[] {
    const { start } = this.table
    const rows = Array.from(
      { length: start[observation + 1] - start[observation] },
      (_, k) => start[observation] + k,
    )
    const most = Math.max(...rows.map((row) => this.draws[row]))
    return rows.map((row) => ({
      strong: this.draws[row] === most,
      parts: [
        ...this.belief(row),
        ...(Number.isNaN(this.draws[row]) ? [] : [say('; drew'), num('result', this.draws[row])]),
      ],
    }))
  }

  kept(): Record<string, Float64Array> {
    return { posteriorDraws: this.draws }
  }
}
