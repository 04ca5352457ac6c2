import type { CompressedRows } from './builder'

/** Outcomes of a chunk: large arrays are never grown, which would touch all their memory again. */
const CHUNK = 1 << 18

interface Chunk {
  readonly state: Int32Array
  readonly probability: Float64Array
  readonly reward: Float64Array
  /** Null where it is 1 everywhere. */
  discount: Float64Array | null
  used: number
}

/**
 * Writes compressed rows when states come in their order, each with all its rows at once: what is written is
 * what the model holds, so that a million rows cost little more than their numbers.
 *
 * Outcomes of a row that lead to the same state are added up: their probabilities sum, rewards and discounts are averaged by
 * probability. Outcomes with probability 0 are dropped.
 */
export class RowWriter {
  states = 0
  rows = 0
  /** Outcomes of finished rows. */
  outcomes = 0
  private rowStart = new Int32Array(1024)
  private rowAction = new Int32Array(1024)
  private outcomeStart = new Int32Array(1024)
  private readonly chunks: Chunk[] = []
  /** The outcomes of the row at hand, … */
  private state = new Int32Array(64)
  private probability = new Float64Array(64)
  private reward = new Float64Array(64)
  private discount = new Float64Array(64)
  private count = 0
  /** Whether some discount of the row at hand, and of any row, is not 1. */
  private rowDiscounts = false
  private discounts = false
  /** … and for each next state where it stands among them, and in which row that was noted. */
  private place = new Int32Array(1024)
  private noted = new Int32Array(1024).fill(-1)

  /** Begins the rows of the next state. */
  beginState(): void {
    if (this.states + 2 > this.rowStart.length) this.rowStart = twice(this.rowStart)
    this.rowStart[this.states++] = this.rows
    this.rowStart[this.states] = this.rows
  }

  beginRow(action: number): void {
    this.flush()
    if (this.rows + 2 > this.rowAction.length) {
      this.rowAction = twice(this.rowAction)
      this.outcomeStart = twice(this.outcomeStart)
    }
    this.rowAction[this.rows] = action
    this.outcomeStart[this.rows++] = this.outcomes
    this.rowStart[this.states] = this.rows
  }

  /** @param discount  what follows counts times this, besides the discount; 0 to 1 */
  outcome(next: number, probability: number, reward: number, discount = 1): void {
    if (probability === 0) return
    if (next >= this.noted.length) this.makeRoom(next)
    const at = this.place[next]
    if (this.noted[next] === this.rows) {
      const sum = this.probability[at] + probability
      if (this.reward[at] !== reward)
        this.reward[at] = (this.reward[at] * this.probability[at] + reward * probability) / sum
      if (this.discount[at] !== discount) {
        this.rowDiscounts = true
        this.discount[at] = (this.discount[at] * this.probability[at] + discount * probability) / sum
      }
      this.probability[at] = sum
      return
    }
    if (this.count === this.state.length) {
      this.state = twice(this.state)
      this.probability = twice(this.probability)
      this.reward = twice(this.reward)
      this.discount = twice(this.discount)
    }
    this.noted[next] = this.rows
    this.place[next] = this.count
    this.state[this.count] = next
    this.probability[this.count] = probability
    if (discount !== 1) this.rowDiscounts = true
    this.discount[this.count] = discount
    this.reward[this.count++] = reward
  }

  /** The rows as they are now, in arrays of their own. */
  finish(): CompressedRows {
    this.flush()
    const outcomeStart = this.outcomeStart.slice(0, this.rows + 1)
    outcomeStart[this.rows] = this.outcomes
    const outcomeState = new Int32Array(this.outcomes)
    const outcomeProbability = new Float64Array(this.outcomes)
    const outcomeReward = new Float64Array(this.outcomes)
    const outcomeDiscount = this.discounts ? new Float64Array(this.outcomes).fill(1) : null
    let at = 0
    for (const { state, probability, reward, discount, used } of this.chunks) {
      outcomeState.set(state.subarray(0, used), at)
      outcomeProbability.set(probability.subarray(0, used), at)
      outcomeReward.set(reward.subarray(0, used), at)
      if (discount) outcomeDiscount!.set(discount.subarray(0, used), at)
      at += used
    }
    return {
      rowStart: this.rowStart.slice(0, this.states + 1),
      rowAction: this.rowAction.slice(0, this.rows),
      outcomeStart,
      outcomeState,
      outcomeProbability,
      outcomeReward,
      outcomeDiscount,
    }
  }

  /** Puts the row at hand to the others. */
  private flush(): void {
    const { count, state, probability, reward, discount } = this
    if (count === 0) return
    let chunk = this.chunks.at(-1)
    if (!chunk || chunk.used + count > chunk.state.length) {
      const size = Math.max(count, this.chunks.length ? CHUNK : 4096)
      chunk = {
        state: new Int32Array(size),
        probability: new Float64Array(size),
        reward: new Float64Array(size),
        discount: null,
        used: 0,
      }
      this.chunks.push(chunk)
    }
    for (let i = 0, at = chunk.used; i < count; i++, at++) {
      chunk.state[at] = state[i]
      chunk.probability[at] = probability[i]
      chunk.reward[at] = reward[i]
    }
    if (this.rowDiscounts) {
      this.discounts = true
      chunk.discount ??= new Float64Array(chunk.state.length).fill(1)
      chunk.discount.set(discount.subarray(0, count), chunk.used)
      this.rowDiscounts = false
    }
    chunk.used += count
    this.outcomes += count
    this.count = 0
  }

  private makeRoom(next: number): void {
    const length = Math.max(next + 1, 2 * this.noted.length)
    const place = new Int32Array(length)
    const noted = new Int32Array(length).fill(-1)
    place.set(this.place)
    noted.set(this.noted)
    this.place = place
    this.noted = noted
  }
}

function twice<T extends Int32Array | Float64Array>(from: T): T {
  const to = new (from.constructor as new (length: number) => T)(2 * from.length)
  to.set(from)
  return to
}
