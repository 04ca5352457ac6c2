import { expect, it } from 'vitest'
import { gridModel } from '../testing/models'
import { actionValues } from './backup'
import { PLAN_DEFAULTS } from './plan-settings'
import { PrioritisedValueIteration } from './prioritised'
import { StateQueue } from './state-queue'
import { sweepSequence } from './sweep-order'

const FIELD = gridModel(['.....', '.#:#.', '..:..'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'E3', reward: 12, name: '' }],
  veer: 0.2,
})

it('begins with every state once, from the endings back', () => {
  const planner = new PrioritisedValueIteration(FIELD, { ...PLAN_DEFAULTS, discount: 0.9 })
  planner.sweep()
  expect([...planner.sequence]).toEqual([...sweepSequence(FIELD, 'from-endings')])
  expect(planner.backups).toBe(FIELD.rows)
})

it('owes no state more than it says: the largest debt bounds every residual', () => {
  const planner = new PrioritisedValueIteration(FIELD, { ...PLAN_DEFAULTS, discount: 0.9 })
  while (planner.status.outcome === 'running') {
    planner.sweep()
    const backups = actionValues(planner.form, planner.values)
    for (let s = 0; s < FIELD.states; s++) {
      if (FIELD.ending[s]) continue
      const best = Math.max(...backups.subarray(FIELD.rowStart[s], FIELD.rowStart[s + 1]))
      expect(Math.abs(best - planner.values[s])).toBeLessThanOrEqual(planner.change + 1e-12)
    }
  }
  expect(planner.status.outcome).toBe('converged')
  expect(planner.bound).toBeLessThanOrEqual(1e-9)
})

it('backs up only what a change can have reached', () => {
  // Two corridors that have nothing to do with each other: the far end of the long one is left alone first.
  const corridor = gridModel(['.'.repeat(40)], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'AN1', reward: 5, name: '' }],
    stepReward: 0,
  })
  const planner = new PrioritisedValueIteration(corridor, { ...PLAN_DEFAULTS, discount: 0.9 })
  while (planner.status.outcome === 'running') planner.sweep()
  // From the ending back once, and every state once more at the most for what it heard of its neighbour.
  expect(planner.backups).toBeLessThanOrEqual(2 * corridor.rows)
})

it('keeps a queue in order', () => {
  const priority = Float64Array.of(3, 9, 1, 9, 5)
  const queue = new StateQueue(priority, Int32Array.of(0, 4, 2, 3, 1), Int32Array.of(0, 1, 2, 3, 4))
  const order = []
  for (let i = 0; i < 5; i++) {
    order.push(queue.top())
    priority[queue.top()] = -1 - i
    queue.moved(queue.top())
  }
  expect(order).toEqual([3, 1, 4, 0, 2])
  priority[2] = 7
  queue.moved(2)
  expect(queue.top()).toBe(2)
})
