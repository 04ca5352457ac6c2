import type { Model } from '../model/model'
import { backupRow, optimalSweep } from './backup'
import { Planner, type PlanSettings } from './planner'
import { ranksOf, sweepSequence } from './sweep-order'

/** Synchronous value iteration: every state takes its best backup from the values of the sweep before. */
export class ValueIteration extends Planner {
  protected advance(): void {
    this.change = optimalSweep(this.form, this.before, this.values)
    this.backups += this.model.rows
    if (this.isWithin()) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}

/**
 * Value iteration in place (Gauss-Seidel; Sutton & Barto 2018, section 4.1): a backup uses the values that the sweep
 * has made already, so that the order matters.
 */
export class InPlaceValueIteration extends Planner {
  private readonly sequence: Int32Array

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.sequence = sweepSequence(model, settings.order)
    this.rank = ranksOf(model, this.sequence)
  }

  protected advance(): void {
    const { form, values, before, model } = this
    values.set(before)
    let largest = 0
    for (const s of this.sequence) {
      let best = -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
        const value = backupRow(form, r, values)
        if (value > best) best = value
      }
      values[s] = best
      const change = Math.abs(best - before[s])
      if (change > largest) largest = change
    }
    this.change = largest
    this.backups += model.rows
    if (this.isWithin()) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}
