import { plainArrays, type Allocate, type GreedyTable } from '../../greedy-table'
import { numbersOf, type KeptNumber } from '../../kept-number'
import type { RandomStream } from '../../../random/generator'

/**
 * What an agent has seen of the world: for each row of its table how often it led where, and the mean reward on that
 * way. Entries of a row, and of what leads to a observation, are chained.
 */
export class LearnedModel {
  /** Rows that were taken at least once, in the order of the first time. */
  readonly seen: Int32Array
  seenCount = 0
  /** [rows] how often each was taken */
  readonly total: Float64Array
  private count = 0
  /** [rows] the first entry, -1 for none; [observations] the first entry that leads there */
  readonly firstOfRow: Int32Array
  readonly firstInto: Int32Array
  /** [entries] */
  readonly rowOf: Int32Array
  readonly nextGroup: Int32Array
  readonly times: Float64Array
  readonly reward: Float64Array
  readonly carried: Float64Array
  readonly nextOfRow: Int32Array
  readonly nextInto: Int32Array

  /** @param capacity  the most pairs of a row and what follows it that there can be */
  constructor(rows: number, observations: number, capacity: number, allocate: Allocate = plainArrays) {
    this.seen = allocate.ints(rows)
    this.total = allocate.floats(rows)
    this.firstOfRow = allocate.ints(rows).fill(-1)
    this.firstInto = allocate.ints(observations).fill(-1)
    this.rowOf = allocate.ints(capacity)
    this.nextGroup = allocate.ints(capacity)
    this.times = allocate.floats(capacity)
    this.reward = allocate.floats(capacity)
    this.carried = allocate.floats(capacity)
    this.nextOfRow = allocate.ints(capacity)
    this.nextInto = allocate.ints(capacity)
  }

  /** How many pairs of a row and what follows it there are; with fewer, the later ones are forgotten. */
  get entries(): number {
    return this.count
  }

  set entries(entries: number) {
    this.count = entries
    this.times.fill(0, entries)
    this.reward.fill(0, entries)
    this.carried.fill(0, entries)
  }

  /** A kernel has written to the arrays: so many rows and pairs there are now. */
  grown(seenCount: number, entries: number): void {
    this.seenCount = seenCount
    this.count = entries
  }

  /** @param carried  what came after counted times this, besides the discount */
  add(row: number, reward: number, observation: number, carried: number): void {
    if (this.total[row]++ === 0) this.seen[this.seenCount++] = row
    let entry = this.firstOfRow[row]
    while (entry >= 0 && this.nextGroup[entry] !== observation) entry = this.nextOfRow[entry]
    if (entry < 0) {
      entry = this.count++
      this.rowOf[entry] = row
      this.nextGroup[entry] = observation
      this.nextOfRow[entry] = this.firstOfRow[row]
      this.firstOfRow[row] = entry
      this.nextInto[entry] = this.firstInto[observation]
      this.firstInto[observation] = entry
    }
    this.times[entry]++
    this.reward[entry] += (reward - this.reward[entry]) / this.times[entry]
    this.carried[entry] += (carried - this.carried[entry]) / this.times[entry]
  }

  /** The backup of a row by what was seen: mean reward + discount x mean of the largest value of what followed. */
  backup(row: number, discount: number, greedy: GreedyTable): number {
    let sum = 0
    for (let entry = this.firstOfRow[row]; entry >= 0; entry = this.nextOfRow[entry])
      sum +=
        this.times[entry] *
        (this.reward[entry] + discount * this.carried[entry] * greedy.best(this.nextGroup[entry]))
    return sum / this.total[row]
  }

  /** An entry of the row, as likely as it was seen often. */
  draw(row: number, stream: RandomStream): number {
    let entry = this.firstOfRow[row]
    if (this.nextOfRow[entry] < 0) return entry
    for (
      let left = stream.uniform() * this.total[row] - this.times[entry];
      left >= 0 && this.nextOfRow[entry] >= 0;
      left -= this.times[entry]
    )
      entry = this.nextOfRow[entry]
    return entry
  }

  carriedOf(entry: number): number {
    return this.carried[entry]
  }

  rewardOf(entry: number): number {
    return this.reward[entry]
  }

  observationOf(entry: number): number {
    return this.nextGroup[entry]
  }

  /** Calls with every row that was seen to lead to a observation. */
  eachInto(observation: number, call: (row: number) => void): void {
    for (let entry = this.firstInto[observation]; entry >= 0; entry = this.nextInto[entry])
      call(this.rowOf[entry])
  }

  /** Its numbers and arrays, for snapshots. */
  keptNumbers(): Record<string, KeptNumber> {
    return numbersOf<LearnedModel>(this, ['seenCount', 'entries'], 'model.')
  }

  kept(): Record<string, Float64Array | Int32Array> {
    const { entries } = this
    return {
      modelSeen: this.seen.subarray(0, this.seenCount),
      modelTotal: this.total,
      modelFirst: this.firstOfRow,
      modelInto: this.firstInto,
      modelRow: this.rowOf.subarray(0, entries),
      modelNext: this.nextGroup.subarray(0, entries),
      modelTimes: this.times.subarray(0, entries),
      modelReward: this.reward.subarray(0, entries),
      modelCarried: this.carried.subarray(0, entries),
      modelChain: this.nextOfRow.subarray(0, entries),
      modelChainInto: this.nextInto.subarray(0, entries),
    }
  }
}
