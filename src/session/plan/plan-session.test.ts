import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { solveOptimum } from '../../core/plan/solve'
import { gridDocument } from '../../core/testing/models'
import { PlanHost } from '../../hosts/plan-host'
import { holds, inProcess } from '../../hosts/testing/in-process'
import { createPlanDrive } from './plan-drive'
import { createPlanSession } from './plan-session'

const HALL = gridDocument(['....', '.#..', '....'], {
  endings: [{ at: 'D3', reward: 10, name: '' }],
  starts: [{ at: 'A1', weight: 1 }],
  stepReward: -1,
  veer: 0.2,
})
const modelOf = (stepReward: number) =>
  compileEnvironment({ ...HALL, grid: { ...HALL.grid, stepReward } }).model
const MODEL = modelOf(-1)
const join = inProcess(PlanHost.create)
const NONE = () => null
const start = (discount = 0.9) => {
  const session = createPlanSession(discount, join)
  session.open(MODEL, NONE)
  return session
}

describe('a plan with its host', () => {
  it('is made to its end, and comes to the optimum', async () => {
    const session = start()
    session.finish()
    const { frame, changes, work } = await holds(session.store, ({ frame }) => frame?.finished === true)
    const optimum = solveOptimum(MODEL, 0.9)!
    frame!.values.forEach((value, s) => expect(value).toBeCloseTo(optimum.values[s], 8))
    expect(changes).toHaveLength(frame!.reached)
    expect(work.at(-1)).toBe(frame!.backups)
    session.close()
  })

  it('goes back and on to the same numbers, sweep by sweep and backup by backup', async () => {
    const session = start()
    for (let i = 0; i < 3; i++) session.step('on', 'sweep')
    const third = await holds(session.store, ({ frame }) => frame?.sweep === 3)
    const values = third.frame!.values.slice()
    session.step('back', 'sweep')
    await holds(session.store, ({ frame }) => frame?.sweep === 2)
    session.step('on', 'backup')
    const within = await holds(session.store, ({ frame }) => frame?.done === 1)
    expect(within.frame!.current).toBeGreaterThanOrEqual(0)
    session.go(3)
    const again = await holds(session.store, ({ frame }) => frame?.sweep === 3 && frame.done === null)
    expect([...again.frame!.values]).toEqual([...values])
    session.close()
  })

  it('explains the state that is watched', async () => {
    const session = start()
    session.watch(0)
    session.step('on', 'sweep')
    const { frame } = await holds(session.store, ({ frame }) => frame?.sweep === 1 && frame.working !== null)
    expect(frame!.working!.title).toContain(MODEL.labels[0])
    session.close()
  })

  it('follows a change once it was finished, and holds what was before it', async () => {
    const session = start()
    session.finish()
    const before = await holds(session.store, ({ frame }) => frame?.finished === true)
    const dearer = modelOf(-2)
    session.open(dearer, NONE)
    const { frame, following, held } = await holds(
      session.store,
      ({ frame }) => frame !== before.frame && frame?.finished === true,
    )
    expect(following).toBe(true)
    expect(held?.title).toMatch(/before the change/)
    const optimum = solveOptimum(dearer, 0.9)!
    frame!.values.forEach((value, s) => expect(value).toBeCloseTo(optimum.values[s], 7))
    // Stepping by hand is no following any more.
    session.step('back')
    expect(session.store.getState().following).toBe(false)
    session.close()
  })

  it('begins anew with another method, and tells of a finite horizon all steps to go', async () => {
    const session = start()
    session.choose({ method: 'backward-induction', horizon: 4 })
    session.askHorizon()
    const { horizonPlan } = await holds(session.store, ({ horizonPlan }) => horizonPlan !== null)
    expect(horizonPlan!.count).toBe(4)
    expect(session.store.getState().held).toBeNull()
    session.close()
  })
})

it('two plans side by side are kept after equally many backups', async () => {
  const first = start()
  const second = createPlanSession(0.9, join)
  second.choose({ method: 'policy-iteration' })
  second.open(MODEL, NONE)
  first.setBeside('policy-iteration')
  const drive = createPlanDrive(first, second)
  const stop = drive.keep()
  await holds(second.store, ({ frame }) => frame !== null)
  for (let i = 0; i < 4; i++) drive.step('on', 'sweep')
  const { frame } = await holds(first.store, ({ frame }) => frame?.sweep === 4)
  const wanted = frame!.backups
  await holds(second.store, ({ frame }) => (frame?.backups ?? 0) >= wanted)
  // A sweep of evaluation counts other backups than one of value iteration: never more than one sweep apart.
  expect(second.store.getState().frame!.backups).toBeLessThan(wanted + MODEL.rows)
  drive.toStart()
  await holds(first.store, ({ frame }) => frame?.sweep === 0)
  stop()
  first.close()
  second.close()
})
