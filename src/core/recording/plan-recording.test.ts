import { expect, it } from 'vitest'
import { gridModel } from '../testing/models'
import { PLAN_DEFAULTS } from '../plan/plan-settings'
import { ValueIteration } from '../plan/value-iteration'
import { PlanRecording } from './plan-recording'

it('goes to any sweep, forward and back, to the same bits', () => {
  const floor = Array.from({ length: 30 }, () => '.'.repeat(30))
  const model = gridModel(floor, { endings: [{ at: 'AD30', reward: 5, name: '' }], veer: 0.2 })
  const settings = { ...PLAN_DEFAULTS, discount: 0.97 }
  const plain = new ValueIteration(model, settings)
  const history = [plain.values.slice()]
  while (plain.status.outcome === 'running') {
    plain.sweep()
    history.push(plain.values.slice())
  }
  const recording = new PlanRecording(model, settings)
  while (recording.forward());
  expect(recording.reached).toBe(history.length - 1)
  expect(recording.iteration.status.outcome).toBe('converged')
  for (const sweep of [0, history.length - 1, 1, 17, 16, 300, 299, 2, 0]) {
    recording.goTo(sweep)
    expect(recording.iteration.sweeps).toBe(Math.min(sweep, recording.reached))
    expect([...recording.iteration.values]).toEqual([...history[recording.iteration.sweeps]])
    if (sweep > 0)
      expect([...recording.iteration.before]).toEqual([...history[recording.iteration.sweeps - 1]])
  }
  recording.goTo(-5)
  expect(recording.iteration.sweeps).toBe(0)
  expect(recording.forward()).toBe(true)
  expect(recording.iteration.sweeps).toBe(1)
  expect(recording.changes.length).toBe(recording.reached)
})

it('thins its keyframes instead of growing without bound', () => {
  const floor = Array.from({ length: 60 }, () => '.'.repeat(100))
  const model = gridModel(floor, { veer: 0.4 })
  const recording = new PlanRecording(model, { ...PLAN_DEFAULTS, discount: 0.9999 })
  for (let i = 0; i < 1500; i++) recording.forward()
  const kept = (recording as unknown as { keyframes: Map<number, Float64Array> }).keyframes
  expect(recording.reached).toBe(1500)
  expect(kept.size * model.states).toBeLessThanOrEqual(4_100_000)
  recording.goTo(777)
  const plain = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9999 })
  for (let i = 0; i < 777; i++) plain.sweep()
  expect([...recording.iteration.values]).toEqual([...plain.values])
})

it('knows since when the best actions are what they are', () => {
  const model = gridModel(['....'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'D1', reward: 10, name: '' }],
  })
  const recording = new PlanRecording(model, { ...PLAN_DEFAULTS, discount: 0.9 })
  const seen: (number | null)[] = []
  while (recording.forward()) seen.push(recording.settled)
  // On the values of sweep 1 C1 and B1 go east, on those of sweep 2 A1 as well; nothing turns after that.
  expect(seen.slice(0, 4)).toEqual([1, 2, 2, 2])
  recording.goTo(1)
  recording.forward()
  expect(recording.settled).toBe(2)
})
