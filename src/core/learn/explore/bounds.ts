import type { Part, WorkingLine } from '../../explain/working'
import { num, say } from '../../explain/working'
import type { RandomStream } from '../../random/generator'
import type { Actor } from './actor'
import type { ActorParts } from './exploration'

/**
 * Acts by upper bounds: the action whose value and bonus come to most, as if everything were as good as it may still be
 * (optimism in the face of uncertainty; Lai & Robbins 1985). What was never tried comes first.
 */
export abstract class Bounds implements Actor {
  explored = false
  /** How much the bonus counts. */
  level = 1
  protected readonly table: ActorParts['table']
  protected readonly visits: Float64Array
  private readonly ties: RandomStream | null

  constructor({ table, visits, ties }: ActorParts) {
    this.table = table
    this.visits = visits
    this.ties = ties
  }

  /** What a row that was tried is given besides its value. @param total  how often any of its observation was tried */
  protected abstract bonus(row: number, total: number): number
  /** The bonus with its numbers. */
  protected abstract bonusParts(row: number, total: number): Part[]

  choose(observation: number): number {
    const { start, values } = this.table
    const best = this.table.best(observation)
    const total = this.total(observation)
    let most = -Infinity
    let count = 0
    for (let r = start[observation]; r < start[observation + 1]; r++) {
      const bound = this.boundOf(r, total)
      if (bound > most) {
        most = bound
        count = 1
      } else if (bound === most) count++
    }
    let skip = this.ties && count > 1 ? this.ties.below(count) : 0
    let row = start[observation]
    while (this.boundOf(row, total) !== most || skip-- > 0) row++
    this.explored = values[row] !== best
    return row
  }

  chances(observation: number, out: Float64Array): void {
    const { start } = this.table
    const total = this.total(observation)
    const size = start[observation + 1] - start[observation]
    let most = -Infinity
    for (let k = 0; k < size; k++)
      most = Math.max(most, (out[k] = this.boundOf(start[observation] + k, total)))
    let count = 0
    for (let k = 0; k < size; k++) if (out[k] === most) count++
    let first = true
    for (let k = 0; k < size; k++) {
      const chosen = out[k] === most
      out[k] = !chosen ? 0 : this.ties ? 1 / count : first ? 1 : 0
      if (chosen) first = false
    }
  }

  bound(observation: number, row: number): number {
    return this.boundOf(row, this.total(observation))
  }

  explain(observation: number): Omit<WorkingLine, 'label'>[] {
    const { start, values } = this.table
    const total = this.total(observation)
    const rows = Array.from(
      { length: start[observation + 1] - start[observation] },
      (_, k) => start[observation] + k,
    )
    const most = Math.max(...rows.map((row) => this.boundOf(row, total)))
    return rows.map((row) => ({
      strong: this.boundOf(row, total) === most,
      parts:
        this.visits[row] === 0
          ? [say('never taken: comes first')]
          : [
              num('old', values[row]),
              say('+'),
              ...this.bonusParts(row, total),
              say('='),
              num('result', this.boundOf(row, total)),
            ],
    }))
  }

  private boundOf(row: number, total: number): number {
    return this.visits[row] === 0 ? Infinity : this.table.values[row] + this.bonus(row, total)
  }

  private total(observation: number): number {
    let total = 0
    for (let r = this.table.start[observation]; r < this.table.start[observation + 1]; r++)
      total += this.visits[r]
    return total
  }
}
