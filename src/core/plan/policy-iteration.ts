import type { Model, RowPolicy } from '../model/model'
import { actionValues, backupRow, greedyPolicy } from './backup'
import { randomPolicy } from './evaluate'
import { Planner, type PlanSettings } from './planner'
import { statesWithoutEnding, stepsToEnding } from './reach'

/** A policy is followed by sweeps: what evaluation and policy iteration share. */
abstract class PolicyPlanner extends Planner {
  override policy: RowPolicy

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.policy = randomPolicy(model)
    this.phase = 'evaluate'
  }

  /** One synchronous sweep under the policy (Sutton & Barto 2018, equation 4.5). */
  protected follow(): void {
    const { form, model, policy, before, values } = this
    this.phase = 'evaluate'
    let largest = 0
    for (let s = 0; s < model.states; s++) {
      let value = 0
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] > 0) {
          value += policy[r] * backupRow(form, r, before)
          this.backups++
        }
      values[s] = value
      const change = Math.abs(value - before[s])
      if (change > largest) largest = change
    }
    this.change = largest
  }

  /** At discount 1, a policy that never ends from some state has no value there. */
  protected refuseImproper(): boolean {
    if (this.settings.discount < 1) return false
    const lost = statesWithoutEnding(this.model, stepsToEnding(this.model, this.policy))
    if (lost.length === 0) return false
    this.status = { outcome: 'improper', states: lost }
    this.values.set(this.before)
    return true
  }
}

/** Iterative evaluation of the policy that takes every action equally often. */
export class PolicyEvaluation extends PolicyPlanner {
  protected advance(): void {
    if (this.sweeps === 1 && this.refuseImproper()) return
    this.follow()
    if (this.isWithin(this.policy)) this.status = { outcome: 'converged' }
  }
}

/**
 * Policy iteration (Howard 1960; Sutton & Barto 2018, section 4.3) from the policy that takes every action equally
 * often: sweeps of evaluation until the values of the policy are within the tolerance, then an improvement of every
 * state at once. An improvement is a sweep of its own, and leaves the values as they are. Ties stay ties.
 *
 * With `rounds` it is modified policy iteration (Puterman & Shin 1978): so many sweeps of evaluation, whatever they
 * have reached, and the improvement takes the best backup as well.
 */
export class PolicyIteration extends PolicyPlanner {
  constructor(
    model: Model,
    settings: PlanSettings,
    private readonly rounds: number | null = null,
  ) {
    super(model, settings)
  }

  /** `memory` counts the sweeps of evaluation since the last improvement, -1 when the policy is evaluated. */
  protected advance(): void {
    if (this.memory < 0 || (this.rounds !== null && this.memory >= this.rounds)) return this.improve()
    if (this.memory === 0 && this.rounds === null && this.refuseImproper()) return
    this.follow()
    this.memory++
    if (this.isWithin(this.policy)) this.memory = -1
  }

  private improve(): void {
    const { form, model, before, values } = this
    const rowValues = actionValues(form, before)
    this.backups += model.rows
    const improved = greedyPolicy(model.rowStart, rowValues)
    const { policy } = this
    const same = improved.every((chance, r) => chance > 0 === policy[r] > 0)
    let gain = 0
    for (let s = 0; s < model.states; s++) {
      let best = model.ending[s] ? 0 : -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (rowValues[r] > best) best = rowValues[r]
      gain = Math.max(gain, Math.abs(best - before[s]))
      values[s] = this.rounds === null ? before[s] : best
    }
    this.policy = improved
    this.phase = this.rounds === null ? 'improve' : 'optimise'
    this.memory = 0
    this.change = gain
    const within = this.isWithin()
    // The values are those the improvement was made from, not its backups: one more factor of the discount.
    if (this.rounds === null && this.settings.discount < 1) this.bound = gain / (1 - this.settings.discount)
    if (this.rounds === null ? same : within) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}
