import type { Model } from '../model/model'
import { Planner } from './planner'
import type { PlanSettings } from './plan-settings'
import { sweepForm } from './sweep-form'
import { createSweeper } from './sweeper'
import type { Sweeper } from './sweeper-kind'
import { sweepSequence } from './sweep-order'

/** Synchronous value iteration: every state takes its best backup from the values of the sweep before. */
export class ValueIteration extends Planner {
  private readonly rows: Sweeper

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.rows = createSweeper(sweepForm(model, settings.discount, sweepSequence(model, 'forward')))
    this.liveIn(this.rows.tables)
  }

  protected advance(): void {
    this.change = this.rows.best(this.before, this.values)
    this.sequence = this.rows.form.order
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
  private readonly rows: Sweeper

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.inPlace = true
    this.rows = createSweeper(sweepForm(model, settings.discount, sweepSequence(model, settings.order)))
    this.liveIn(this.rows.tables)
  }

  protected advance(): void {
    this.values.set(this.before)
    this.change = this.rows.best(this.values, this.values)
    this.sequence = this.rows.form.order
    this.backups += this.model.rows
    if (this.isWithin()) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}

/**
 * Backward induction for episodes of a fixed number of steps (Puterman 1994, section 4.5): sweep k gives the values
 * with k steps to go, exactly. The best actions belong to the stage: those with k steps to go look at the values
 * with k - 1.
 */
export class BackwardInduction extends Planner {
  private readonly rows: Sweeper

  constructor(model: Model, settings: PlanSettings) {
    super(model, { ...settings, initial: null })
    this.rows = createSweeper(sweepForm(model, settings.discount, sweepSequence(model, 'forward')))
    this.liveIn(this.rows.tables)
  }

  /** A fixed number of steps always comes to an end. */
  protected override needsEnding(): boolean {
    return false
  }

  protected advance(): void {
    this.change = this.rows.best(this.before, this.values)
    this.sequence = this.rows.form.order
    this.backups += this.model.rows
    this.bound = 0
    if (this.sweeps >= this.settings.horizon) this.status = { outcome: 'converged' }
  }
}
