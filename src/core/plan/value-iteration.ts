import type { Model } from '../model/model'
import { listNames } from '../problem'
import { actionValues, backupForm, greedyPolicy, optimalSweep, type BackupForm } from './backup'
import { evaluatePolicy } from './evaluate'
import { statesWithoutEnding, stepsToEnding } from './reach'

/** Where a plan stands. Only `running` goes on. */
export type PlanStatus =
  | { readonly outcome: 'running' }
  | { readonly outcome: 'converged' }
  /** Discount 1, and from these states no action ever leads to an ending. */
  | { readonly outcome: 'never-ends'; readonly states: readonly string[] }
  /** Discount 1, and among these states a policy collects reward for ever. */
  | { readonly outcome: 'gains-for-ever'; readonly states: readonly string[] }
  | { readonly outcome: 'budget-spent' }

export interface PlanSettings {
  /** 0 to 1 */
  readonly discount: number
  /** The error, in units of reward, that every value is guaranteed to be within at the end. */
  readonly tolerance: number
  readonly sweeps: number
}

export const PLAN_DEFAULTS = {
  discount: 0.95,
  tolerance: 1e-9,
  sweeps: 1_000_000,
} as const satisfies PlanSettings

/** Sweeps between looks for a policy that gains for ever; a power of two apart, so that looking stays cheap. */
const FIRST_LOOK = 64

/**
 * Synchronous value iteration, one sweep at a time, from all zeros.
 *
 * Stops by a bound on the error: with discount < 1 the largest change times discount / (1 - discount)
 * (Puterman 1994, theorem 6.3.1); with discount 1 the largest change times the expected number of steps to an
 * ending under the greedy policy.
 */
export class ValueIteration {
  readonly form: BackupForm
  /** [states] after the last sweep */
  values: Float64Array
  /** [states] before the last sweep: what the last backups were computed from */
  before: Float64Array
  sweeps = 0
  /** The largest change of the last sweep. */
  change = Infinity
  /** No value is further than this from the optimum; infinity while unknown. */
  bound = Infinity
  status: PlanStatus = { outcome: 'running' }
  private nextLook = FIRST_LOOK
  /** Expected steps to an ending under the greedy policy when last looked at; for the bound at discount 1. */
  private stepsLeft = 1

  constructor(
    readonly model: Model,
    readonly settings: PlanSettings,
  ) {
    this.form = backupForm(model, settings.discount)
    this.values = new Float64Array(model.states)
    this.before = new Float64Array(model.states)
    if (settings.discount === 1) {
      const lost = statesWithoutEnding(model, stepsToEnding(model))
      if (lost.length) this.status = { outcome: 'never-ends', states: lost }
    }
  }

  /** One sweep; does nothing once the status is no longer `running`. */
  sweep(): void {
    if (this.status.outcome !== 'running') return
    const before = this.values
    this.values = this.before
    this.before = before
    this.change = optimalSweep(this.form, this.before, this.values)
    this.sweeps++
    this.judge()
  }

  /** Sets values by hand, as if `sweeps` sweeps had led there; used to go back in time. */
  restore(values: Float64Array, sweeps: number): void {
    this.values = values.slice()
    this.before = values.slice()
    this.sweeps = sweeps
    this.change = Infinity
    this.bound = Infinity
    if (this.status.outcome !== 'never-ends') this.status = { outcome: 'running' }
    this.nextLook = FIRST_LOOK
    while (this.nextLook <= sweeps) this.nextLook *= 2
  }

  private judge(): void {
    const { discount, tolerance, sweeps } = this.settings
    if (discount < 1) this.bound = (this.change * discount) / (1 - discount)
    else if (this.change === 0) this.bound = 0
    else if (this.change * this.stepsLeft <= tolerance) {
      this.stepsLeft = this.greedySteps()
      this.bound = this.change * this.stepsLeft
    }
    if (this.bound <= tolerance || this.atRoundingFloor()) this.status = { outcome: 'converged' }
    else if (discount === 1 && this.sweeps === this.nextLook) {
      this.nextLook *= 2
      const states = this.gainingStates()
      if (states.length) this.status = { outcome: 'gains-for-ever', states }
    }
    if (this.status.outcome === 'running' && this.sweeps >= sweeps) this.status = { outcome: 'budget-spent' }
  }

  /** True when the last sweep changed nothing but the last bit: more sweeps cannot help, `bound` says how good it is. */
  private atRoundingFloor(): boolean {
    if (this.change > 1e-6) return false
    let size = 0
    for (const value of this.values) if (Math.abs(value) > size) size = Math.abs(value)
    return this.change <= 4e-16 * size
  }

  /** The largest expected number of steps under the greedy policy, ties going towards an ending. */
  private greedySteps(): number {
    const policy = greedyPolicy(this.model.rowStart, actionValues(this.form, this.values))
    const counted = { ...this.model, outcomeReward: new Float64Array(this.model.outcomes).fill(1) }
    const steps = evaluatePolicy(counted, policy, 1, { tolerance: 1e-3 })
    return steps.outcome === 'solved'
      ? steps.values.reduce((most, value) => Math.max(most, value), 1)
      : Infinity
  }

  /**
   * States the greedy policy never leaves while every one of them gained in the last sweep: there T v >= v + g
   * with g > 0 under that policy, so its reward per step is at least g and no value is finite.
   */
  private gainingStates(): string[] {
    const { model } = this
    const policy = greedyPolicy(model.rowStart, actionValues(this.form, this.before), 0)
    const steps = stepsToEnding(model, policy)
    const gains = Uint8Array.from(steps, (step, s) =>
      step < 0 && this.values[s] - this.before[s] > 1e-9 ? 1 : 0,
    )
    const leaves = (s: number) => {
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] > 0)
          for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
            if (!gains[model.outcomeState[o]]) return true
      return false
    }
    for (let shrunk = true; shrunk;) {
      shrunk = false
      for (let s = 0; s < model.states; s++)
        if (gains[s] && leaves(s)) {
          gains[s] = 0
          shrunk = true
        }
    }
    return model.labels.filter((_, s) => gains[s])
  }
}

/** A sentence for a person about a plan that has no answer, or undefined when it has one. */
export function planProblem(status: PlanStatus): string | undefined {
  switch (status.outcome) {
    case 'never-ends':
      return `At discount 1 no value is finite: no action leads from ${listNames(status.states)} to an ending. Open a way, add an ending, or use a discount below 1.`
    case 'gains-for-ever':
      return `At discount 1 no value is finite: among ${listNames(status.states)} reward can be collected for ever without ending. Make a step cost something, or use a discount below 1.`
    case 'budget-spent':
      return 'The limit on sweeps was reached before the values were within the tolerance. Raise the tolerance or the limit.'
    default:
      return undefined
  }
}

/**
 * The best that can be had in exactly `horizon` steps (or fewer, where an ending comes first), by backward
 * induction (Puterman 1994, section 4.5): values and best rows at the first step.
 */
export function planHorizon(
  model: Model,
  discount: number,
  horizon: number,
): { values: Float64Array; rowValues: Float64Array } {
  const form = backupForm(model, discount)
  let later = new Float64Array(model.states)
  let values = new Float64Array(model.states)
  for (let step = 0; step < horizon; step++) {
    const held = later
    later = values
    values = held
    optimalSweep(form, later, values)
  }
  return { values, rowValues: actionValues(form, later) }
}
