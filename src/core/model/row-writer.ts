import type { CompressedRows } from './builder'

/**
 * Writes compressed rows when states come in their order, each with all its rows at once: what is written is
 * what the model holds, so that a million rows cost little more than their numbers.
 *
 * Outcomes of a row that lead to the same state are added up: their probabilities sum, their rewards are averaged by
 * probability. Outcomes with probability 0 are dropped.
 */
export class RowWriter {
  states = 0
  rows = 0
  outcomes = 0
  private rowStart = new Int32Array(1024)
  private rowAction = new Int32Array(1024)
  private outcomeStart = new Int32Array(1024)
  private outcomeState = new Int32Array(4096)
  private probability = new Float64Array(4096)
  private reward = new Float64Array(4096)
  /** Where a next state stands already, valid when in the row at hand. */
  private placed = new Int32Array(1024).fill(-1)

  /** Begins the rows of the next state. */
  beginState(): void {
    if (this.states + 2 > this.rowStart.length) this.rowStart = twice(this.rowStart)
    this.rowStart[this.states++] = this.rows
    this.rowStart[this.states] = this.rows
  }

  beginRow(action: number): void {
    if (this.rows + 2 > this.rowAction.length) {
      this.rowAction = twice(this.rowAction)
      this.outcomeStart = twice(this.outcomeStart)
    }
    this.rowAction[this.rows] = action
    this.outcomeStart[this.rows++] = this.outcomes
    this.rowStart[this.states] = this.rows
  }

  outcome(next: number, probability: number, reward: number): void {
    if (probability === 0) return
    if (next >= this.placed.length) {
      const placed = new Int32Array(Math.max(next + 1, 2 * this.placed.length)).fill(-1)
      placed.set(this.placed)
      this.placed = placed
    }
    const at = this.placed[next]
    if (at >= this.outcomeStart[this.rows - 1]) {
      const sum = this.probability[at] + probability
      if (this.reward[at] !== reward)
        this.reward[at] = (this.reward[at] * this.probability[at] + reward * probability) / sum
      this.probability[at] = sum
      return
    }
    if (this.outcomes === this.outcomeState.length) {
      this.outcomeState = twice(this.outcomeState)
      this.probability = twice(this.probability)
      this.reward = twice(this.reward)
    }
    this.placed[next] = this.outcomes
    this.outcomeState[this.outcomes] = next
    this.probability[this.outcomes] = probability
    this.reward[this.outcomes++] = reward
  }

  /** The rows as they are now, in arrays of their own. */
  finish(): CompressedRows {
    const outcomeStart = this.outcomeStart.slice(0, this.rows + 1)
    outcomeStart[this.rows] = this.outcomes
    return {
      rowStart: this.rowStart.slice(0, this.states + 1),
      rowAction: this.rowAction.slice(0, this.rows),
      outcomeStart,
      outcomeState: this.outcomeState.slice(0, this.outcomes),
      outcomeProbability: this.probability.slice(0, this.outcomes),
      outcomeReward: this.reward.slice(0, this.outcomes),
    }
  }
}

function twice<T extends Int32Array | Float64Array>(from: T): T {
  const to = new (from.constructor as new (length: number) => T)(2 * from.length)
  to.set(from)
  return to
}
