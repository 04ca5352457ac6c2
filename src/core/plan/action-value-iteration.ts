import type { Model } from '../model/model'
import { backupRow } from './backup'
import { Planner, type PlanSnapshot } from './planner'
import type { PlanSettings } from './plan-settings'

interface TableSnapshot extends PlanSnapshot {
  /** [rows] */
  readonly table: Float64Array
}

/**
 * Value iteration on a table of action values: each entry becomes its reward plus the discounted best entry of the
 * next state (Sutton & Barto 2018, equation 4.2 for q). What Q-learning does with samples, done with the model.
 */
export class ActionValueIteration extends Planner {
  override table: Float64Array
  override tableBefore: Float64Array
  private readonly entries: Int32Array

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.table = new Float64Array(model.rows)
    for (let s = 0; s < model.states; s++)
      this.table.fill(this.values[s], model.rowStart[s], model.rowStart[s + 1])
    this.tableBefore = this.table.slice()
    this.entries = Int32Array.from({ length: model.rows }, (_, r) => r)
  }

  override snapshot(): TableSnapshot {
    return { ...super.snapshot(), table: this.table.slice() }
  }

  override restore(snapshot: TableSnapshot): void {
    super.restore(snapshot)
    this.table = snapshot.table.slice()
    this.tableBefore = snapshot.table.slice()
  }

  protected advance(): void {
    const { model, form, before, values } = this
    const table = this.tableBefore
    this.tableBefore = this.table
    this.table = table
    let largest = 0
    for (let s = 0; s < model.states; s++) {
      let best = model.ending[s] ? 0 : -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
        const value = backupRow(form, r, before)
        const change = Math.abs(value - this.tableBefore[r])
        if (change > largest) largest = change
        table[r] = value
        if (value > best) best = value
      }
      values[s] = best
    }
    this.change = largest
    this.sequence = this.entries
    this.backups += model.rows
    if (this.isWithin()) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}
