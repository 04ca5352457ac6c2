import type { Model } from './model'
import { listNames, ProblemError, refuse, type Problem, type StoryStep } from '../problem'

/** How far the probabilities of a row may be from 1 in sum. */
export const PROBABILITY_SLACK = 1e-9
/** Rows (state-action pairs) a model may have. */
export const ROW_BUDGET = 2_000_000

/** (action, state) pairs as one number: states stay below 2^31. */
const STATE_SPAN = 2 ** 31

/**
 * Gathers states, rows and outcomes in any order and compresses them into a {@link Model}, in time linear in what
 * was gathered.
 *
 * Outcomes of a row that lead to the same state are added up: their probabilities sum, their rewards are
 * averaged by probability. Outcomes with probability 0 are dropped.
 */
export class ModelBuilder {
  private readonly labels: string[] = []
  private readonly stateOf = new Map<string, number>()
  private readonly actions: string[] = []
  private readonly actionOf = new Map<string, number>()
  private readonly rowOf = new Map<number, number>()
  private readonly rowState: number[] = []
  private readonly rowAction: number[] = []
  private readonly outcomeRow: number[] = []
  private readonly next: number[] = []
  private readonly probability: number[] = []
  private readonly reward: number[] = []
  private readonly discount: number[] = []
  private discounts = false

  /** The number of the state with this label, made when new. */
  state(label: string): number {
    let state = this.stateOf.get(label)
    if (state === undefined) {
      state = this.newState(label)
      this.stateOf.set(label, state)
    }
    return state
  }

  /** A state known to be new, which is not looked up by its label later: quicker where there are many. */
  newState(label: string): number {
    return this.labels.push(label) - 1
  }

  /** The names of all states so far. */
  get names(): readonly string[] {
    return this.labels
  }

  /** The number of a state that must exist already, or undefined. */
  find(label: string): number | undefined {
    return this.stateOf.get(label)
  }

  action(name: string): number {
    let action = this.actionOf.get(name)
    if (action === undefined) {
      action = this.actions.push(name) - 1
      this.actionOf.set(name, action)
    }
    return action
  }

  /** The row of an action in a state, made when new. */
  row(state: number, action: number): number {
    const key = action * STATE_SPAN + state
    let row = this.rowOf.get(key)
    if (row === undefined) {
      row = this.newRow(state, action)
      this.rowOf.set(key, row)
    }
    return row
  }

  /** A row known to be new; see {@link newState}. @throws ProblemError when there are too many */
  newRow(state: number, action: number): number {
    if (this.rowState.length === ROW_BUDGET)
      refuse(
        'environment',
        `It has more than ${ROW_BUDGET} pairs of a state and an action.`,
        'Make it smaller.',
      )
    this.rowAction.push(action)
    return this.rowState.push(state) - 1
  }

  /**
   * Adds one outcome to a row.
   * @param discount  what follows counts times this, besides the discount; 0 to 1
   * @throws ProblemError for a probability or a discount outside 0 … 1 or a reward that is not finite
   */
  outcome(row: number, next: number, probability: number, reward: number, discount = 1): void {
    if (!(probability >= 0 && probability <= 1 + PROBABILITY_SLACK))
      refuse(this.placeOf(row), `The probability is ${probability}.`, 'Write a number from 0 to 1.')
    if (!Number.isFinite(reward))
      refuse(this.placeOf(row), `The reward is ${reward}.`, 'Write a finite number.')
    if (!(discount >= 0 && discount <= 1))
      refuse(this.placeOf(row), `The discount is ${discount}.`, 'Write a number from 0 to 1.')
    this.discounts ||= discount !== 1
    this.discount.push(discount)
    this.outcomeRow.push(row)
    this.next.push(next)
    this.probability.push(probability)
    this.reward.push(reward)
  }

  /**
   * The compressed model.
   *
   * @param starts  states with weights above 0; the weights are scaled to sum to 1
   * @param observation  what each state looks like to a learner; each state itself when left out
   * @throws ProblemError naming every row whose probabilities do not sum to 1, and what else is missing
   */
  build(options: {
    starts: readonly { state: number; weight: number }[]
    cap: number
    observation?: Int32Array
  }): Model {
    if (this.rowState.length === 0)
      refuse('environment', 'No state has an action.', 'Give at least one state an action with an outcome.')
    this.refuseBadRows(options.starts)
    return finishModel(this.compress(), { ...options, labels: this.labels, actions: this.actions })
  }

  /** Rows in the order of states and actions, each with its outcomes in the order they came, equal ones added up. */
  private compress(): CompressedRows {
    const rows = this.rowState.length
    const byAction = sortedBy(
      this.rowAction,
      this.actions.length,
      Int32Array.from({ length: rows }, (_, r) => r),
    )
    const order = sortedBy(this.rowState, this.labels.length, byAction.order)
    const outcomes = sortedBy(
      this.outcomeRow,
      rows,
      Int32Array.from({ length: this.next.length }, (_, o) => o),
    )
    const outcomeStart = new Int32Array(rows + 1)
    const outcomeState = new Int32Array(this.next.length)
    const outcomeProbability = new Float64Array(this.next.length)
    const outcomeReward = new Float64Array(this.next.length)
    const outcomeDiscount = this.discounts ? new Float64Array(this.next.length) : null
    // Where a next state stands already: valid when not before the beginning of the row at hand.
    const placed = new Int32Array(this.labels.length).fill(-1)
    let filled = 0
    for (let r = 0; r < rows; r++) {
      const row = order.order[r]
      const begin = filled
      for (let k = outcomes.start[row]; k < outcomes.start[row + 1]; k++) {
        const o = outcomes.order[k]
        const probability = this.probability[o]
        if (probability === 0) continue
        const at = placed[this.next[o]]
        if (at >= begin) {
          const sum = outcomeProbability[at] + probability
          if (outcomeReward[at] !== this.reward[o])
            outcomeReward[at] =
              (outcomeReward[at] * outcomeProbability[at] + this.reward[o] * probability) / sum
          if (outcomeDiscount && outcomeDiscount[at] !== this.discount[o])
            outcomeDiscount[at] =
              (outcomeDiscount[at] * outcomeProbability[at] + this.discount[o] * probability) / sum
          outcomeProbability[at] = sum
          continue
        }
        placed[this.next[o]] = filled
        outcomeState[filled] = this.next[o]
        outcomeProbability[filled] = probability
        if (outcomeDiscount) outcomeDiscount[filled] = this.discount[o]
        outcomeReward[filled++] = this.reward[o]
      }
      outcomeStart[r + 1] = filled
    }
    return {
      rowStart: order.start,
      rowAction: order.order.map((row) => this.rowAction[row]),
      outcomeStart,
      outcomeState: outcomeState.slice(0, filled),
      outcomeProbability: outcomeProbability.slice(0, filled),
      outcomeReward: outcomeReward.slice(0, filled),
      outcomeDiscount: outcomeDiscount?.slice(0, filled) ?? null,
    }
  }

  private refuseBadRows(starts: readonly { state: number }[]): void {
    const sums = new Float64Array(this.rowState.length)
    this.outcomeRow.forEach((row, o) => (sums[row] += this.probability[o]))
    const problems: Problem[] = []
    for (let row = 0; row < sums.length && problems.length < 20; row++) {
      if (Math.abs(sums[row] - 1) <= PROBABILITY_SLACK) continue
      problems.push({
        place: this.placeOf(row),
        path: this.wayTo(row, starts),
        breaks: 'probabilities',
        cause: `The probabilities sum to ${Number(sums[row].toPrecision(12))}.`,
        remedy: 'Make them sum to 1.',
      })
    }
    if (problems.length) throw new ProblemError(problems)
  }

  /** The shortest way from a start to a row, with the step of that row; empty where no episode comes there. */
  private wayTo(row: number, starts: readonly { state: number }[]): StoryStep[] {
    const { rowStart, rowAction, outcomeStart, outcomeState } = this.compress()
    /** The state and the action by which each state was met first. */
    const from = new Map<number, { state: number; action: number } | null>(
      starts.map(({ state }) => [state, null]),
    )
    // A map keeps the order in which it is filled, and goes on with what is added meanwhile.
    for (const state of from.keys())
      for (let r = rowStart[state]; r < rowStart[state + 1]; r++)
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
          if (!from.has(outcomeState[o])) from.set(outcomeState[o], { state, action: rowAction[r] })
    const last = { state: this.rowState[row], action: this.rowAction[row] }
    if (!from.has(last.state)) return []
    const path: StoryStep[] = []
    for (let step: typeof last | null | undefined = last; step; step = from.get(step.state))
      path.push({ state: this.labels[step.state], action: this.actions[step.action], chances: '' })
    return path.reverse()
  }

  private placeOf(row: number): string {
    return `state "${this.labels[this.rowState[row]]}", action "${this.actions[this.rowAction[row]]}"`
  }
}

/** Rows and outcomes in the layout of a {@link Model}. */
export type CompressedRows = Pick<
  Model,
  'rowStart' | 'rowAction' | 'outcomeStart' | 'outcomeState' | 'outcomeProbability' | 'outcomeReward'
> &
  Partial<Pick<Model, 'outcomeDiscount'>>

/**
 * A model from its rows: states without rows are endings.
 * @throws ProblemError for starts that are none, and for states that look the same but offer different actions
 */
export function finishModel(
  rows: CompressedRows,
  options: {
    labels: readonly string[]
    actions: readonly string[]
    starts: readonly { state: number; weight: number }[]
    cap: number
    observation?: Int32Array
    actionLevels?: Float64Array | null
    /** No two states can have the same name: nobody looks. */
    distinct?: boolean
  },
): Model {
  const { labels, actions, cap } = options
  if (!options.distinct) refuseSameNames(labels)
  const { rowStart } = rows
  const states = labels.length
  const ending = new Uint8Array(states)
  for (let s = 0; s < states; s++) if (rowStart[s] === rowStart[s + 1]) ending[s] = 1
  const model: Model = {
    states,
    rows: rows.rowAction.length,
    outcomes: rows.outcomeState.length,
    actions,
    actionLevels: options.actionLevels ?? null,
    ...rows,
    outcomeDiscount: rows.outcomeDiscount ?? null,
    ending,
    ...startDistribution(options.starts, ending, labels),
    cap,
    observation: options.observation ?? new Int32Array(states).map((_, s) => s),
    observations: options.observation ? options.observation.reduce((x, y) => Math.max(x, y), 0) + 1 : states,
    labels,
  }
  if (options.observation) refuseMixedObservations(model)
  return model
}

/**
 * Items sorted by a small whole number, keeping their order among equals.
 * @returns the items, and where those of each key begin: [keys + 1]
 */
function sortedBy(
  key: readonly number[],
  keys: number,
  items: Int32Array,
): { order: Int32Array; start: Int32Array } {
  const start = new Int32Array(keys + 1)
  for (const item of items) start[key[item] + 1]++
  for (let k = 0; k < keys; k++) start[k + 1] += start[k]
  const fill = start.slice()
  const order = new Int32Array(items.length)
  for (const item of items) order[fill[key[item]]++] = item
  return { order, start }
}

function startDistribution(
  starts: readonly { state: number; weight: number }[],
  ending: Uint8Array,
  labels: readonly string[],
): Pick<Model, 'startState' | 'startProbability'> {
  if (starts.length === 0) refuse('start', 'There is no state to start in.', 'Name at least one start.')
  let total = 0
  for (const { state, weight } of starts) {
    if (ending[state])
      refuse(
        `state "${labels[state]}"`,
        'An episode cannot start where it ends.',
        'Start in a state with an action.',
      )
    if (!(weight > 0 && Number.isFinite(weight)))
      refuse(`state "${labels[state]}"`, `The weight of the start is ${weight}.`, 'Write a number above 0.')
    total += weight
  }
  // In the order of the states, however they were given: which one is drawn depends on it.
  const isSorted = starts.every(({ state }, i) => i === 0 || starts[i - 1].state < state)
  const sorted = isSorted ? starts : [...starts].sort((x, y) => x.state - y.state)
  const startState = new Int32Array(sorted.length)
  const startProbability = new Float64Array(sorted.length)
  // Chances stay the bits they are; dividing by a sum that rounding made a little less than 1 would change them.
  const sum = Math.abs(total - 1) <= 1e-12 ? 1 : total
  sorted.forEach(({ state, weight }, i) => {
    startState[i] = state
    startProbability[i] = weight / sum
  })
  return { startState, startProbability }
}

/** States are known by their names, in files as in plans: none may have that of another one. */
function refuseSameNames(labels: readonly string[]): void {
  if (new Set(labels).size === labels.length) return
  const seen = new Set<string>()
  const same = labels.find((label) => seen.size === seen.add(label).size)!
  refuse(`state "${same}"`, 'Two states have this name.', 'Give each state a name of its own.')
}

/** States that look the same must offer the same actions, or a learner would see the difference. */
function refuseMixedObservations(model: Model): void {
  const first = new Int32Array(model.observations).fill(-1)
  for (let s = 0; s < model.states; s++) {
    const other = first[model.observation[s]]
    if (other < 0) first[model.observation[s]] = s
    else if (actionsOf(model, s).join() !== actionsOf(model, other).join())
      refuse(
        `states "${model.labels[other]}" and "${model.labels[s]}"`,
        `They look the same to the agent but offer different actions (${listNames(actionNames(model, other)) || 'none'}; ${listNames(actionNames(model, s)) || 'none'}).`,
        'Give them the same actions or different observations.',
      )
  }
}

function actionsOf(model: Model, state: number): Int32Array {
  return model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1])
}

function actionNames(model: Model, state: number): string[] {
  return Array.from(actionsOf(model, state), (action) => model.actions[action])
}
