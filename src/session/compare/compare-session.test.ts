import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { LearningRuns } from '../../core/compare/learning-runs'
import { documentFor } from '../../core/compare/contestant'
import { checkEnvironment } from '../../core/environment/document'
import { LearningRunsHost } from '../../hosts/learning-runs-host'
import { inProcess } from '../../hosts/testing/in-process'
import type { KeptComparison, KeptRuns } from '../learn/kept-run'
import { firstChoice } from '../learn/learn-session'
import { canCompare, createCompareSession, runsOf, type CompareSession } from './compare-session'

const BEAM = checkEnvironment(alarmBeam)
const CHOICE = { ...firstChoice(BEAM), episodes: 60 }
const NOWHERE: KeptRuns = { read: async () => undefined, write: async () => {}, forget: async () => {} }

function made(cores = 2, kept = NOWHERE): CompareSession {
  return createCompareSession('e', kept, () => cores, inProcess(LearningRunsHost.create))
}

async function finished(session: CompareSession): Promise<void> {
  while (session.store.getState().running) await new Promise((resolve) => setTimeout(resolve))
}

const runs = (session: CompareSession, document = BEAM) =>
  session.store.getState().contestants.map((each) => runsOf(session.store.getState(), document, each).runs)

describe('a comparison', () => {
  it('is the same on any number of cores, each run as it is alone', async () => {
    const [one, three] = await Promise.all(
      [1, 3].map(async (cores) => {
        const session = made(cores)
        session.add(CHOICE)
        session.add({ ...CHOICE, method: 'sarsa' }, { veer: 0.1 })
        session.set({ runs: 5 })
        session.start(BEAM)
        await finished(session)
        return session
      }),
    )
    expect(runs(three)).toEqual(runs(one))
    const { choice, knobs } = one.store.getState().contestants[1]
    const alone = new LearningRuns({ document: documentFor(BEAM, { knobs }), choice })
    expect(runs(one)[1][3]).toEqual(alone.play(3))
    expect(runs(one)[1].map(({ run }) => run)).toEqual([0, 1, 2, 3, 4])
  })

  it('plays only the runs that are missing', async () => {
    const session = made()
    session.add(CHOICE)
    session.set({ runs: 3 })
    session.start(BEAM)
    await finished(session)
    session.set({ runs: 5 })
    session.duplicate(0)
    session.start(BEAM)
    // A contestant that is there twice is played once.
    expect(session.store.getState().asked).toBe(2)
    await finished(session)
    session.change(1, { choice: { ...CHOICE, seed: 9 } })
    session.start(BEAM)
    expect(session.store.getState().asked).toBe(5)
    session.stop()
    session.hide(1, true)
    session.start(BEAM)
    expect(session.store.getState().asked).toBe(0)
    // Words of the environment are not what is learned.
    expect(runs(session, { ...BEAM, name: 'Another name' })[0]).toHaveLength(5)
    expect(runs(session, { ...BEAM, discount: 0.5 })[0]).toHaveLength(0)
  })

  it('sweeps a setting: each value is the run of that setting alone', async () => {
    const session = made()
    session.add(CHOICE)
    session.set({ runs: 2, picture: 'sweep', sweep: { varied: 'rate', from: 0.1, to: 0.4 } })
    session.start(BEAM)
    expect(session.store.getState().asked).toBe(6)
    await finished(session)
    const alone = { ...CHOICE, learningRate: { kind: 'constant', from: 0.2 } } as const
    const { runs: swept } = runsOf(session.store.getState(), BEAM, { id: 9, knobs: {}, choice: alone })
    expect(swept).toEqual([0, 1].map((run) => new LearningRuns({ document: BEAM, choice: alone }).play(run)))
    // What the sweep had is there for curves too.
    session.set({ picture: 'curves' })
    session.change(0, { choice: alone })
    session.start(BEAM)
    expect(session.store.getState().asked).toBe(0)
  })

  it('writes its runs down when they change, not when they are looked at otherwise', async () => {
    let written = 0
    const session = made(1, { ...NOWHERE, write: async () => void written++ })
    session.add(CHOICE)
    session.set({ runs: 1 })
    session.start(BEAM)
    await finished(session)
    const before = written
    session.set({ measure: 'length', band: 'interval', picture: 'spread' })
    expect(written).toBe(before)
  })

  it('says what keeps a contestant from running, and runs the others', async () => {
    const session = made()
    session.add(CHOICE, { gone: 1 })
    session.add(CHOICE)
    session.set({ runs: 2 })
    const [gone] = session.store.getState().contestants
    expect(runsOf(session.store.getState(), BEAM, gone).problem).toContain('There is no knob "gone"')
    session.start(BEAM)
    await finished(session)
    expect(runs(session).map(({ length }) => length)).toEqual([0, 2])
    session.change(0, { knobs: {}, choice: { ...CHOICE, seed: -1 } })
    session.start(BEAM)
    await finished(session)
    expect(session.store.getState().failure).toContain('seed -1')
  })

  it('comes back after a reload', async () => {
    let record: KeptComparison | undefined
    const kept: KeptRuns = {
      read: async (what) => (what === 'comparison' ? record : undefined) as never,
      write: async (what, _environment, written) => {
        if (what === 'comparison') record = written as KeptComparison
      },
      forget: async () => {},
    }
    const session = made(1, kept)
    session.add(CHOICE)
    session.set({ runs: 2 })
    session.start(BEAM)
    await finished(session)
    const again = made(1, kept)
    again.open()
    await new Promise((resolve) => setTimeout(resolve))
    expect(runs(again)).toEqual(runs(session))
    session.remove(0)
    expect(session.store.getState().contestants).toEqual([])
  })

  it('is of agents that want to win', () => {
    expect(canCompare(CHOICE)).toBe(true)
    expect(canCompare({ ...CHOICE, method: 'td-0' })).toBe(false)
  })
})
