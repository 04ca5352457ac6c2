import type { Model } from '../model/model'
import type { RandomStream } from '../random/generator'

/** 2^31: chances are compared as 31-bit whole numbers. */
const FULL = 2147483648
/** 2^-31 */
const HALF_UNIT = 1 / FULL

/**
 * A model as a learner meets it: something to step in, with no probabilities to read.
 *
 * Outcomes are drawn by 31-bit thresholds, so a chance is off by less than 5e-10. Learners index their tables by
 * table row: the rows of observation o are tableStart[o] … tableStart[o + 1] - 1, in the order of its actions.
 */
export class World {
  /** [observations + 1] */
  readonly tableStart: Int32Array
  /** [tableRows] index into `model.actions` */
  readonly tableAction: Int32Array
  readonly observation: Int32Array
  readonly ending: Uint8Array
  /** Where the last `step` led, and what it paid. */
  next = 0
  reward = 0
  /** What comes after the last step counts times this, besides the discount. */
  carried = 1
  readonly rowStart: Int32Array
  readonly outcomeStart: Int32Array
  readonly outcomeState: Int32Array
  readonly outcomeReward: Float64Array
  private readonly outcomeDiscount: Float64Array | null
  /** [outcomes] the last draw from 0 … 2^31 - 1 that falls on each outcome: a draw takes the first that is not below it */
  readonly threshold: Int32Array
  readonly startThreshold: Int32Array
  readonly startState: Int32Array
  /** [starts] where to begin looking for a draw in that part of the range, so that many starts cost no more than few */
  readonly startGuide: Int32Array
  /** The largest reward of a step, in size: for guards against numbers that run away, not for agents. */
  readonly rewardLimit: number
  private seesStates: boolean | undefined

  constructor(readonly model: Model) {
    this.observation = model.observation
    this.ending = model.ending
    this.rowStart = model.rowStart
    this.outcomeStart = model.outcomeStart
    this.outcomeState = model.outcomeState
    this.outcomeReward = model.outcomeReward
    this.outcomeDiscount = model.outcomeDiscount
    this.rewardLimit = model.outcomeReward.reduce((most, reward) => Math.max(most, Math.abs(reward)), 0)
    this.threshold = new Int32Array(model.outcomes)
    for (let r = 0; r < model.rows; r++)
      fillThresholds(
        this.threshold,
        model.outcomeProbability,
        model.outcomeStart[r],
        model.outcomeStart[r + 1],
      )
    this.startState = model.startState
    this.startThreshold = new Int32Array(model.startState.length)
    fillThresholds(this.startThreshold, model.startProbability, 0, model.startState.length)
    this.startGuide = new Int32Array(this.startThreshold.length)
    fillGuide(this.startGuide, this.startThreshold, 0, this.startThreshold.length)

    const tableStart = new Int32Array(model.observations + 1)
    for (let s = 0; s < model.states; s++)
      tableStart[model.observation[s] + 1] = model.rowStart[s + 1] - model.rowStart[s]
    for (let o = 0; o < model.observations; o++) tableStart[o + 1] += tableStart[o]
    this.tableStart = tableStart
    this.tableAction = new Int32Array(tableStart[model.observations])
    for (let s = 0; s < model.states; s++)
      this.tableAction.set(
        model.rowAction.subarray(model.rowStart[s], model.rowStart[s + 1]),
        tableStart[model.observation[s]],
      )
  }

  /** Whether an agent sees every state as itself: then the rows of the table are those of the model. */
  private get seesAll(): boolean {
    return (this.seesStates ??= this.observation.every((o, s) => o === s))
  }

  get tableRows(): number {
    return this.tableAction.length
  }

  /** A state to begin an episode in. */
  begin(stream: RandomStream): number {
    if (this.startState.length === 1) return this.startState[0]
    const draw = stream.next() >>> 1
    let i = this.startGuide[(draw * this.startState.length * HALF_UNIT) | 0]
    while (draw > this.startThreshold[i]) i++
    return this.startState[i]
  }

  /** Takes the `choice`-th action of `state`; the outcome is in `next`, `reward` and `carried`. */
  step(state: number, choice: number, stream: RandomStream): void {
    const row = this.rowStart[state] + choice
    let outcome = this.outcomeStart[row]
    // A row with one outcome draws nothing.
    if (this.outcomeStart[row + 1] - outcome > 1) {
      const draw = stream.next() >>> 1
      while (draw > this.threshold[outcome]) outcome++
    }
    this.next = this.outcomeState[outcome]
    this.reward = this.outcomeReward[outcome]
    if (this.outcomeDiscount) this.carried = this.outcomeDiscount[outcome]
  }

  /** [states] the largest number of each state's actions, of [tableRows]; 0 for endings */
  bestOfRows(table: Float64Array): Float64Array {
    const { tableStart } = this
    const best = new Float64Array(tableStart.length - 1)
    for (let o = 0; o < best.length; o++) {
      let most = tableStart[o] === tableStart[o + 1] ? 0 : -Infinity
      for (let row = tableStart[o]; row < tableStart[o + 1]; row++) if (table[row] > most) most = table[row]
      best[o] = most
    }
    return this.perState(best)
  }

  /** [states] from [observations] */
  perState(perObservation: Float64Array): Float64Array {
    if (this.seesAll) return perObservation.slice()
    const { observation } = this
    const values = new Float64Array(observation.length)
    for (let s = 0; s < values.length; s++) values[s] = perObservation[observation[s]]
    return values
  }

  /** [tableRows] the observation of each row */
  observationsOfRows(): Int32Array {
    const { tableStart } = this
    const observations = new Int32Array(this.tableRows)
    for (let o = 0; o < tableStart.length - 1; o++) observations.fill(o, tableStart[o], tableStart[o + 1])
    return observations
  }

  /** A state that looks like this. */
  someState(observation: number): number {
    return this.observation.indexOf(observation)
  }

  /**
   * A policy over the model's rows as one over table rows: [tableRows]. Of states that look alike, the first one
   * counts; null is every action equally often.
   */
  toTableRows(policy: Float64Array | null): Float64Array {
    const { tableStart, model } = this
    const table = new Float64Array(this.tableRows)
    for (let s = model.states - 1; s >= 0; s--) {
      const from = tableStart[model.observation[s]]
      const size = model.rowStart[s + 1] - model.rowStart[s]
      for (let k = 0; k < size; k++) table[from + k] = policy ? policy[model.rowStart[s] + k] : 1 / size
    }
    return table
  }

  /** A policy over table rows as one over the model's rows: [model.rows]. */
  toModelRows(toTableRows: Float64Array): Float64Array {
    const { model } = this
    if (this.seesAll) return toTableRows.slice()
    const policy = new Float64Array(model.rows)
    for (let s = 0; s < model.states; s++) {
      const shift = this.tableStart[model.observation[s]] - model.rowStart[s]
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) policy[r] = toTableRows[r + shift]
    }
    return policy
  }
}

/** The table row of a row of the model. */
export function tableRowOf({ model, tableStart }: World, row: number): number {
  let state = 0
  while (model.rowStart[state + 1] <= row) state++
  return tableStart[model.observation[state]] + row - model.rowStart[state]
}

/** The last draw that falls on each entry, by cumulated chances; the last entry catches what rounding leaves over. */
export function fillThresholds(
  out: Int32Array,
  probability: ArrayLike<number>,
  from: number,
  to: number,
): void {
  let sum = 0
  for (let i = from; i < to; i++) {
    sum += probability[i]
    out[i] = Math.min(FULL, Math.round(sum * FULL)) - 1
  }
  out[to - 1] = FULL - 1
}

/**
 * For each of n equal parts of the range, the first of the n entries from `from` to `to` that may catch a draw from it
 * (Chen & Asau 1974).
 */
export function fillGuide(out: Int32Array, threshold: Int32Array, from: number, to: number): void {
  const size = to - from
  let entry = from
  for (let part = 0; part < size; part++) {
    while (threshold[entry] < Math.floor((part * FULL) / size)) entry++
    out[from + part] = entry
  }
}

/** The observation that a row of the table belongs to. */
export function observationOfRow({ tableStart }: Pick<World, 'tableStart'>, tableRow: number): number {
  let observation = 0
  while (tableStart[observation + 1] <= tableRow) observation++
  return observation
}
