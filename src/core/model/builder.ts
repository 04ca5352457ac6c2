import type { Model } from './model'
import { listNames, ProblemError, refuse, type Problem } from '../problem'

/** How far the probabilities of a row may be from 1 in sum. */
export const PROBABILITY_SLACK = 1e-9
/** Rows (state-action pairs) a model may have. */
const ROW_BUDGET = 2_000_000

interface Row {
  state: number
  action: number
  place: string
  outcomes: Map<number, { probability: number; reward: number }>
}

/**
 * Gathers states, rows and outcomes in any order and compresses them into a {@link Model}.
 *
 * Outcomes of a row that lead to the same state are added up: their probabilities sum, their rewards are
 * averaged by probability. Outcomes with probability 0 are dropped.
 */
export class ModelBuilder {
  private readonly labels: string[] = []
  private readonly stateOf = new Map<string, number>()
  private readonly actions: string[] = []
  private readonly actionOf = new Map<string, number>()
  private readonly rows: Row[] = []
  private readonly rowOf = new Map<number, Map<number, Row>>()

  /** The number of the state with this label, made when new. */
  state(label: string): number {
    let state = this.stateOf.get(label)
    if (state === undefined) {
      state = this.labels.push(label) - 1
      this.stateOf.set(label, state)
    }
    return state
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

  /**
   * Adds one outcome. `place` names the row in messages.
   * @throws ProblemError for a probability outside 0 … 1 or a reward that is not finite
   */
  outcome(
    state: number,
    action: number,
    next: number,
    probability: number,
    reward: number,
    place: string,
  ): void {
    if (!(probability >= 0 && probability <= 1 + PROBABILITY_SLACK))
      refuse(place, `The probability is ${probability}.`, 'Write a number from 0 to 1.')
    if (!Number.isFinite(reward)) refuse(place, `The reward is ${reward}.`, 'Write a finite number.')
    const row = this.row(state, action, place)
    const known = row.outcomes.get(next)
    if (known) {
      const sum = known.probability + probability
      if (sum > 0 && known.reward !== reward)
        known.reward = (known.reward * known.probability + reward * probability) / sum
      known.probability = sum
    } else row.outcomes.set(next, { probability, reward })
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
    this.rows.sort((x, y) => x.state - y.state || x.action - y.action)
    this.refuseBadRows()
    const states = this.labels.length
    const rows = this.rows.length
    const rowStart = new Int32Array(states + 1)
    const rowAction = new Int32Array(rows)
    const outcomeStart = new Int32Array(rows + 1)
    const next: number[] = []
    const probability: number[] = []
    const reward: number[] = []
    this.rows.forEach((row, r) => {
      rowStart[row.state + 1]++
      rowAction[r] = row.action
      for (const [target, outcome] of row.outcomes) {
        if (outcome.probability === 0) continue
        next.push(target)
        probability.push(outcome.probability)
        reward.push(outcome.reward)
      }
      outcomeStart[r + 1] = next.length
    })
    for (let s = 0; s < states; s++) rowStart[s + 1] += rowStart[s]
    const ending = Uint8Array.from({ length: states }, (_, s) => (rowStart[s] === rowStart[s + 1] ? 1 : 0))
    const model: Model = {
      states,
      rows,
      outcomes: next.length,
      actions: this.actions,
      rowStart,
      rowAction,
      outcomeStart,
      outcomeState: Int32Array.from(next),
      outcomeProbability: Float64Array.from(probability),
      outcomeReward: Float64Array.from(reward),
      ending,
      ...startDistribution(options.starts, ending, this.labels),
      cap: options.cap,
      observation: options.observation ?? Int32Array.from({ length: states }, (_, s) => s),
      observations: options.observation ? Math.max(...options.observation) + 1 : states,
      labels: this.labels,
    }
    refuseMixedObservations(model)
    return model
  }

  private row(state: number, action: number, place: string): Row {
    let rowsOfState = this.rowOf.get(state)
    if (!rowsOfState) this.rowOf.set(state, (rowsOfState = new Map()))
    let row = rowsOfState.get(action)
    if (!row) {
      if (this.rows.length === ROW_BUDGET)
        refuse(
          place,
          `The environment has more than ${ROW_BUDGET} pairs of a state and an action.`,
          'Make it smaller.',
        )
      row = { state, action, place, outcomes: new Map() }
      rowsOfState.set(action, row)
      this.rows.push(row)
    }
    return row
  }

  private refuseBadRows(): void {
    if (this.rows.length === 0)
      refuse('environment', 'No state has an action.', 'Give at least one state an action with an outcome.')
    const problems: Problem[] = []
    for (const row of this.rows) {
      let sum = 0
      for (const outcome of row.outcomes.values()) sum += outcome.probability
      if (Math.abs(sum - 1) <= PROBABILITY_SLACK) continue
      problems.push({
        place: row.place,
        cause: `The probabilities of action "${this.actions[row.action]}" in state "${this.labels[row.state]}" sum to ${Number(sum.toPrecision(12))}.`,
        remedy: 'Make them sum to 1.',
      })
      if (problems.length === 20) break
    }
    if (problems.length) throw new ProblemError(problems)
  }
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
  return {
    startState: Int32Array.from(starts, (start) => start.state),
    startProbability: Float64Array.from(starts, (start) => start.weight / total),
  }
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
