import type { Model, RowPolicy } from '../model/model'
import { actionValues, backupRow, greedyPolicy, optimalSweep, TIE } from './backup'
import { evaluatePolicy, randomPolicy } from './evaluate'
import { Planner, type PlanSnapshot } from './planner'
import type { PlanSettings } from './plan-settings'
import { endlessUnder, statesWithoutEnding, stepsToEnding } from './reach'
import { sweepSequence } from './sweep-order'

/** Sweeps for one policy, as long chains may need millions: beyond, its equations are solved at once if they can be. */
const MOST_SWEEPS = 10_000

/** What `evaluations` says once the policy does not change any more. */
const SETTLING = -2

/** A policy is followed: what evaluation and policy iteration share. */
abstract class PolicyPlanner extends Planner {
  protected order: Int32Array

  /** @param inPlace  whether sweeps are made in place, in the order of the settings */
  constructor(model: Model, settings: PlanSettings, inPlace = false) {
    super(model, settings)
    this.policy = settings.policy?.slice() ?? randomPolicy(model)
    this.phase = 'evaluate'
    this.inPlace = inPlace
    this.order = sweepSequence(model, inPlace ? settings.order : 'forward')
  }

  override get policy(): RowPolicy {
    return super.policy!
  }

  override set policy(policy: RowPolicy) {
    super.policy = policy
  }

  /** One sweep under the policy (Sutton & Barto 2018, equation 4.5). */
  protected follow(): void {
    const { form, model, policy, before, values, order } = this
    this.phase = 'evaluate'
    if (this.inPlace) values.set(before)
    const from = this.inPlace ? values : before
    let largest = 0
    for (const s of order) {
      let value = 0
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] > 0) {
          value += policy[r] * backupRow(form, r, from)
          this.backups++
        }
      values[s] = value
      const change = Math.abs(value - before[s])
      if (change > largest) largest = change
    }
    this.change = largest
    this.sequence = order
  }

  /** The exact value of the policy in one go. */
  protected solve(): void {
    const { model, before, values } = this
    this.phase = 'solve'
    const exact = evaluatePolicy(model, this.policy, this.settings.discount, { direct: true })
    if (this.refuseImproper()) return
    if (exact.outcome === 'too-large') {
      this.status = { outcome: 'too-large' }
      values.set(before)
      return
    }
    values.set(exact.values)
    this.change = values.reduce(
      (most, value, s) => (Number.isNaN(value) ? most : Math.max(most, Math.abs(value - before[s]))),
      0,
    )
    this.bound = exact.bound
    // Nothing was backed up one by one.
    this.sequence = new Int32Array(0)
  }

  /** At discount 1, a policy that never ends from some state has no value there: to improve it, all must have one. */
  protected refuseImproper(): boolean {
    if (this.settings.discount < 1) return false
    const lost = statesWithoutEnding(this.model, stepsToEnding(this.model, this.policy, true))
    if (lost.length === 0) return false
    this.status = { outcome: 'improper', states: lost }
    this.values.set(this.before)
    return true
  }
}

/**
 * Evaluation of one policy, which is content with the states that have a value: at discount 1 those from which an ending
 * comes with certainty, as long as an episode starts in such ones only. The others have no number, and are not swept.
 */
abstract class GivenPolicy extends PolicyPlanner {
  /** [states] 1 for those without a finite value. */
  private readonly apart: Uint8Array

  constructor(model: Model, settings: PlanSettings, inPlace = false) {
    super(model, settings, inPlace)
    this.apart = endlessUnder(model, this.policy, settings.discount).endless
    if (this.startsApart()) return
    this.apart.forEach((apart, s) => {
      if (apart) this.values[s] = this.before[s] = NaN
    })
    this.order = this.order.filter((s) => !this.apart[s])
  }

  protected override controls(): boolean {
    return false
  }

  protected override needsEnding(): boolean {
    return false
  }

  protected override refuseImproper(): boolean {
    return this.startsApart() && super.refuseImproper()
  }

  private startsApart(): boolean {
    return this.model.startState.some((s) => this.apart[s] === 1)
  }
}

/** Iterative evaluation of a policy: that of the settings, or all actions equally often. */
export class PolicyEvaluation extends GivenPolicy {
  protected advance(): void {
    if (this.sweeps === 1 && this.refuseImproper()) return
    this.follow()
    if (this.isWithin(this.policy)) this.status = { outcome: 'converged' }
  }
}

/** Evaluation of a policy by solving its linear equations v = r + discount P v, in one step. */
export class LinearEvaluation extends GivenPolicy {
  protected advance(): void {
    this.solve()
    if (this.status.outcome === 'running') this.status = { outcome: 'converged' }
  }
}

interface PolicySnapshot extends PlanSnapshot {
  readonly evaluations: number
}

/**
 * Policy iteration (Howard 1960; Sutton & Barto 2018, section 4.3), from the policy of the settings or the one that
 * takes every action equally often: evaluation until the values of the policy are within the tolerance, by sweeps or
 * by a linear solve, then an improvement of every state at once. An improvement is a sweep of its own, and leaves the
 * values as they are. Ties stay ties.
 *
 * With `rounds` it is modified policy iteration (Puterman & Shin 1978): so many sweeps of evaluation, whatever they
 * have reached, and the improvement takes the best backup as well.
 */
export class PolicyIteration extends PolicyPlanner {
  /** Sweeps of evaluation since the last improvement, -1 when the policy is evaluated, or `SETTLING`. */
  private evaluations = 0

  constructor(
    model: Model,
    settings: PlanSettings,
    private readonly rounds: number | null = null,
  ) {
    super(model, settings)
  }

  override get evaluated(): boolean {
    return this.evaluations < 0 || (this.rounds !== null && this.evaluations >= this.rounds)
  }

  protected advance(): void {
    if (this.evaluations === SETTLING) return this.settle()
    if (this.evaluated) return this.improve()
    if (this.rounds === null && (this.settings.evaluation === 'solve' || this.evaluations >= MOST_SWEEPS)) {
      this.solve()
      if (this.status.outcome === 'too-large' && this.settings.evaluation !== 'solve')
        this.status = { outcome: 'running' }
      else {
        this.evaluations = -1
        return
      }
    }
    if (this.evaluations === 0 && this.rounds === null && this.refuseImproper()) return
    this.follow()
    this.evaluations++
    if (this.isWithin(this.policy)) this.evaluations = -1
  }

  override snapshot(): PolicySnapshot {
    return { ...super.snapshot(), evaluations: this.evaluations }
  }

  override restore(snapshot: PolicySnapshot): void {
    super.restore(snapshot)
    this.evaluations = snapshot.evaluations
  }

  private improve(): void {
    const { form, model, before, values, policy } = this
    const rowValues = actionValues(form, before)
    this.backups += model.rows
    let gain = 0
    let size = 1
    for (let s = 0; s < model.states; s++) {
      let best = model.ending[s] ? 0 : -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (rowValues[r] > best) best = rowValues[r]
      gain = Math.max(gain, Math.abs(best - before[s]))
      size = Math.max(size, Math.abs(best))
      values[s] = this.rounds === null ? before[s] : best
    }
    this.phase = this.rounds === null ? 'improve' : 'optimise'
    this.sequence = this.order
    this.evaluations = 0
    this.change = gain
    // The values of policy iteration are those the improvement was made from, not its backups.
    const within = this.isWithin(undefined, this.rounds === null ? 'left' : 'made')
    // Following what only nearly is a tie costs a little in every sweep: that must not undo what was gained.
    const tie = this.rounds === null ? TIE : Math.min(TIE, (0.01 * gain) / size / this.rounds)
    this.policy = greedyPolicy(model.rowStart, rowValues, tie)
    const same = this.policy.every((chance, r) => chance > 0 === policy[r] > 0)
    if (this.rounds !== null ? within : same && within) this.status = { outcome: 'converged' }
    else if (this.rounds === null && same) this.evaluations = SETTLING
    else this.lookForGains()
  }

  /**
   * The policy stays, but it takes actions that are a tie only nearly, so that its values are not the best within the
   * tolerance: sweeps of best backups take that away.
   */
  private settle(): void {
    this.phase = 'optimise'
    this.sequence = this.order
    this.backups += this.model.rows
    this.change = optimalSweep(this.form, this.before, this.values)
    if (this.isWithin()) this.status = { outcome: 'converged' }
  }
}
