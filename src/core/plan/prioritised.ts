import type { Model } from '../model/model'
import { backupRow } from './backup'
import { Planner, type PlanSnapshot } from './planner'
import type { PlanSettings } from './plan-settings'
import { StateQueue } from './state-queue'
import { sweepSequence } from './sweep-order'

interface PrioritisedSnapshot extends PlanSnapshot {
  /** [states] */
  readonly debts: Float64Array
}

/**
 * Prioritised value iteration: always the state whose value may be furthest from its backup (Moore & Atkeson 1993,
 * with the model known). After a backup that changed V(s) by d, no other state's backup can have moved by more than
 * d x discount x the largest chance of an action to lead to s; adding that up bounds what every state still owes, so
 * that the largest debt bounds the error. The first round goes once through all states, from the endings back; a
 * *sweep* here is as many backups as there are states with actions.
 */
export class PrioritisedValueIteration extends Planner {
  private readonly order: Int32Array
  private readonly rank: Int32Array
  private readonly into: Incoming
  private queue: StateQueue
  /** [states] no backup would change a value by more than this. */
  private debts: Float64Array

  constructor(model: Model, settings: PlanSettings) {
    super(model, settings)
    this.inPlace = true
    this.order = sweepSequence(model, 'from-endings')
    this.rank = new Int32Array(model.states)
    this.order.forEach((state, i) => (this.rank[state] = i))
    this.into = incoming(model, settings.discount)
    this.debts = new Float64Array(model.states)
    for (const s of this.order) this.debts[s] = Infinity
    this.queue = new StateQueue(this.debts, this.rank, this.order)
  }

  override snapshot(): PrioritisedSnapshot {
    return { ...super.snapshot(), debts: this.debts.slice() }
  }

  override restore(snapshot: PrioritisedSnapshot): void {
    super.restore(snapshot)
    this.debts = snapshot.debts.slice()
    this.queue = new StateQueue(this.debts, this.rank, this.order)
  }

  protected advance(): void {
    const { form, model, values, debts, into, queue } = this
    const { discount, tolerance } = this.settings
    const enough = discount < 1 ? tolerance * (1 - discount) : 0
    values.set(this.before)
    const sequence = new Int32Array(this.order.length)
    const logged = new Float64Array(this.order.length)
    let count = 0
    while (count < sequence.length) {
      const s = queue.top()
      if (debts[s] <= enough) break
      let best = -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        best = Math.max(best, backupRow(form, r, values))
      this.backups += model.rowStart[s + 1] - model.rowStart[s]
      const moved = Math.abs(best - values[s])
      values[s] = best
      sequence[count] = s
      logged[count++] = best
      debts[s] = 0
      queue.moved(s)
      if (moved === 0) continue
      for (let k = into.start[s]; k < into.start[s + 1]; k++) {
        debts[into.from[k]] += into.weight[k] * moved
        queue.moved(into.from[k])
      }
    }
    this.sequence = sequence.subarray(0, count)
    this.logged = logged.subarray(0, count)
    this.change = debts[queue.top()]
    if (this.isWithin(undefined, 'left')) this.status = { outcome: 'converged' }
    else this.lookForGains()
  }
}

/** What leads to a state: those with an action that may, and the largest discounted chance of one. */
interface Incoming {
  /** [states + 1] */
  readonly start: Int32Array
  readonly from: Int32Array
  readonly weight: Float64Array
}

function incoming(model: Model, discount: number): Incoming {
  const { states, rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeDiscount } = model
  const start = new Int32Array(states + 1)
  const chance = new Float64Array(states)
  const most = new Float64Array(states)
  /** Calls back once for every pair of a state and one it may lead to. */
  const each = (visit: (from: number, to: number, most: number) => void) => {
    for (let s = 0; s < states; s++) {
      const touched: number[] = []
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
          const to = outcomeState[o]
          if (most[to] === 0) touched.push(to)
          chance[to] += outcomeProbability[o] * (outcomeDiscount?.[o] ?? 1)
          most[to] = Math.max(most[to], chance[to])
        }
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) chance[outcomeState[o]] = 0
      }
      for (const to of touched) {
        visit(s, to, most[to])
        most[to] = 0
      }
    }
  }
  each((_, to) => start[to + 1]++)
  for (let s = 0; s < states; s++) start[s + 1] += start[s]
  const from = new Int32Array(start[states])
  const weight = new Float64Array(start[states])
  const fill = start.slice()
  each((s, to, largest) => {
    from[fill[to]] = s
    weight[fill[to]++] = discount * largest
  })
  return { start, from, weight }
}
