import { describe, expect, it } from 'vitest'
import { PlanRecording } from '../recording/plan-recording'
import { gridModel } from '../testing/models'
import { actionValues } from './backup'
import {
  actionValuesAt,
  backupsAt,
  lastBackedUp,
  lastPlaceOf,
  policyAt,
  policyBeforeAt,
  tableAt,
  valuesAt,
} from './moment'
import { PLAN_METHOD_IDS, planMethod, type PlanMethodId } from './plan-methods'
import { PLAN_DEFAULTS } from './plan-settings'
import { backupWorking } from './working'

const CORRIDOR = gridModel(['....'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'D1', reward: 10, name: '' }],
})
const FIELD = gridModel(['....', '.#:.', '....'], {
  starts: [{ at: 'A3', weight: 1 }],
  endings: [
    { at: 'D1', reward: 10, name: '' },
    { at: 'D2', reward: -10, name: '' },
  ],
  veer: 0.2,
})
const recordingOf = (id: PlanMethodId, model = FIELD) =>
  new PlanRecording(model, { ...PLAN_DEFAULTS, discount: 0.9, horizon: 12 }, id)

it('shows a sweep of value iteration backup by backup', () => {
  const recording = recordingOf('value-iteration', CORRIDOR)
  recording.forward()
  recording.forwardBackup()
  const { iteration: planner } = recording
  // Sweep 2 begins with A1: -1 + 0.9 x -1 = -1.9; the others are as sweep 1 left them.
  expect([planner.sweeps, recording.done]).toEqual([2, 1])
  expect([...valuesAt(planner, recording.done)]).toEqual([-1.9, -1, 9, 0])
  expect(lastBackedUp(planner, recording.done)).toBe(0)
  expect(backupsAt(planner, recording.done)).toBe(12 + 4)
  recording.forwardBackup()
  expect([...valuesAt(planner, recording.done)]).toEqual([-1.9, expect.closeTo(7.1, 12), 9, 0])
  expect(backupWorking(planner, 2, recording.done).note).toMatch(/0 states come first/)
  expect(backupWorking(planner, 0, recording.done).note).toBeUndefined()
  recording.backBackup()
  recording.backBackup()
  expect([planner.sweeps, recording.done]).toEqual([1, null])
  expect([...valuesAt(recording.iteration, null)]).toEqual([-1, -1, 9, 0])
})

describe.each([...PLAN_METHOD_IDS])('%s', (id) => {
  const staged = planMethod(id).staged === true

  it('goes backup by backup through the same moments forward, back and by leaps', () => {
    const recording = recordingOf(id)
    const look = () => ({
      at: [recording.iteration.sweeps, recording.done],
      values: [...valuesAt(recording.iteration, recording.done)],
      policy: policyAt(recording.iteration, recording.done)?.join() ?? null,
      rowValues: [...actionValuesAt(recording.iteration, recording.done, staged)],
      backups: backupsAt(recording.iteration, recording.done),
    })
    const history = [look()]
    for (let i = 0; i < 60 && recording.forwardBackup(); i++) history.push(look())
    expect(history.length).toBeGreaterThan(id === 'linear-solve' ? 1 : 20)
    for (let i = history.length - 2; i >= 0; i--) {
      recording.backBackup()
      expect(look()).toEqual(history[i])
    }
    expect(recording.backBackup()).toBe(false)
    for (const i of [history.length - 1, 3, 17, 1, 0]) {
      const { at } = history[Math.min(i, history.length - 1)]
      recording.goTo(at[0]!, at[1])
      expect(look()).toEqual(history[Math.min(i, history.length - 1)])
    }
  })

  it('never does more work than it is matched with, and as much of it as whole backups make', () => {
    const recording = recordingOf(id)
    for (const backups of [0, 7, 40, 41, 300, 12, 100]) {
      recording.goToWork(backups)
      const made = backupsAt(recording.iteration, recording.done)
      expect(made).toBeLessThanOrEqual(backups)
      const { status } = recording.iteration
      if (status.outcome === 'running' && recording.iteration.sequence.length)
        expect(backups - made).toBeLessThan(5)
    }
  })
})

it('mixes tables entry by entry, and the value of a state is its best entry', () => {
  const recording = recordingOf('action-value-iteration', CORRIDOR)
  recording.forward()
  recording.forward()
  recording.goTo(2, 2)
  const { iteration: planner } = recording
  const table = tableAt(planner, 2)!
  // Two entries of A1 are new: north and east both -1 + 0.9 x -1; south and west still -1.
  expect([...table.subarray(0, 4)]).toEqual([-1.9, -1.9, -1, -1])
  expect(valuesAt(planner, 2)[0]).toBe(-1)
  expect(valuesAt(planner, 4)[0]).toBe(-1.9)
  expect(lastBackedUp(planner, 5)).toBe(1)
  expect(lastPlaceOf(planner, 0, 6)).toBe(3)
  expect(backupsAt(planner, 2)).toBe(12 + 2)
})

it('turns the policy state by state within an improvement', () => {
  const recording = recordingOf('policy-iteration', CORRIDOR)
  do recording.forward()
  while (recording.iteration.phase !== 'improve')
  const { iteration: planner } = recording
  recording.goTo(planner.sweeps, 1)
  const policy = policyAt(planner, 1)!
  expect([...policy.subarray(0, 4)]).toEqual([0, 1, 0, 0])
  expect([...policy.subarray(4, 8)]).toEqual([0.25, 0.25, 0.25, 0.25])
  expect([...policyBeforeAt(planner, false)!.subarray(0, 4)]).toEqual([0.25, 0.25, 0.25, 0.25])
})

it('looks at the stage before with a finite horizon', () => {
  const recording = recordingOf('backward-induction', CORRIDOR)
  for (let i = 0; i < 2; i++) recording.forward()
  const { iteration: planner } = recording
  expect([...actionValuesAt(planner, null, true)]).toEqual([...actionValues(planner.form, planner.before)])
})
