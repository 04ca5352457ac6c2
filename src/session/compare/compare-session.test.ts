import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import type { Comparison } from '../../core/compare/comparison'
import { documentFor, type Contestant } from '../../core/compare/contestant'
import { LearningRuns } from '../../core/compare/learning-runs'
import { checkEnvironment } from '../../core/environment/document'
import { ProblemError } from '../../core/problem'
import { firstChoice } from '../../core/settings/first-choice'
import { emptyRun } from '../../core/testing/runs'
import { LearningRunsHost } from '../../hosts/learning-runs-host'
import { inProcess } from '../../hosts/testing/in-process'
import type { ComparisonStore } from '../api/comparisons'
import type { KeptComparison, KeptRuns } from '../learn/kept-run'
import { missingRuns, runsOf } from './compare-runs'
import { canCompare, createCompareSession, type CompareSession } from './compare-session'

const BEAM = checkEnvironment(alarmBeam)
const CHOICE = { ...firstChoice(BEAM), episodes: 60 }
const NOWHERE: KeptRuns = { read: async () => undefined, write: async () => {}, forget: async () => {} }

/** A server that keeps comparisons in memory. */
function memory(): ComparisonStore & { readonly kept: Map<string, Comparison>; reachable: boolean } {
  const kept = new Map<string, Comparison>()
  const bin = new Map<string, Comparison>()
  let count = 0
  const store = {
    kept,
    reachable: true,
    list: async () =>
      [...kept].reverse().map(([id, { name }]) => ({ id, name, updatedAt: '2026-11-28T00:00:00Z' })),
    async create(_: string, comparison: Comparison) {
      kept.set(`c${++count}`, comparison)
      return { id: `c${count}`, name: comparison.name, updatedAt: '' }
    },
    read: async (id: string) => kept.get(id)!,
    async write(id: string, comparison: Comparison) {
      if (!store.reachable)
        throw new ProblemError([{ place: 'server', cause: 'No answer.', remedy: 'Wait.' }])
      if (!kept.has(id)) return false
      kept.set(id, comparison)
      return true
    },
    async remove(id: string) {
      bin.set(id, kept.get(id)!)
      kept.delete(id)
    },
    async restore(id: string) {
      kept.set(id, bin.get(id)!)
    },
  }
  return store
}

function made(cores = 2, kept = NOWHERE, server: ComparisonStore = memory()): CompareSession {
  return createCompareSession('e', kept, server, () => cores, inProcess(LearningRunsHost.create))
}

async function finished(session: CompareSession): Promise<void> {
  while (session.store.getState().running) await new Promise((resolve) => setTimeout(resolve))
}

const now = (session: CompareSession) => session.store.getState().comparison
const shown = (session: CompareSession, document = BEAM) =>
  now(session).contestants.map((each) => runsOf(session.store.getState(), document, each))
const runs = (session: CompareSession, document = BEAM) =>
  shown(session, document).map(({ runs: made, stale }) => (stale ? [] : made))

describe('a comparison', () => {
  it('is the same on any number of cores, each run as it is alone', async () => {
    const [one, three] = await Promise.all(
      [1, 3].map(async (cores) => {
        const session = made(cores)
        session.add(CHOICE)
        session.add({ ...CHOICE, method: 'sarsa' }, { veer: 0.1 })
        session.insert({ choice: CHOICE, knobs: {}, follows: { kind: 'random' } })
        session.set({ runs: 5 })
        await session.start(BEAM)
        await finished(session)
        return session
      }),
    )
    expect(runs(three)).toEqual(runs(one))
    const { choice, knobs } = now(one).contestants[1]
    const alone = new LearningRuns({ document: documentFor(BEAM, { knobs }), choice })
    expect(runs(one)[1][3]).toEqual(alone.play(3))
    expect(runs(one)[1].map(({ run }) => run)).toEqual([0, 1, 2, 3, 4])
    expect(runs(one)[2]).toHaveLength(5)
  })

  it('plays only the runs that are missing, and those that do not tell what is asked now', async () => {
    const session = made()
    session.add(CHOICE)
    session.set({ runs: 3 })
    await session.start(BEAM)
    await finished(session)
    session.set({ runs: 5 })
    session.duplicate(0)
    expect(missingRuns(session.store.getState(), BEAM)).toBe(2)
    await session.start(BEAM)
    // A contestant that is there twice is played once.
    expect(session.store.getState().asked).toBe(2)
    await finished(session)
    session.look({ measure: 'greedy' })
    expect(missingRuns(session.store.getState(), BEAM)).toBe(5)
    await session.start(BEAM)
    await finished(session)
    expect(runs(session)[0].every(({ curves }) => curves.greedy.length === 60)).toBe(true)
    session.look({ measure: 'return' })
    session.change(1, { choice: { ...CHOICE, seed: 9 } })
    await session.start(BEAM)
    expect(session.store.getState().asked).toBe(5)
    session.stop()
    session.hide(1, true)
    expect(missingRuns(session.store.getState(), BEAM)).toBe(0)
    // Words of the environment are not what is learned.
    expect(runs(session, { ...BEAM, name: 'Another name' })[0]).toHaveLength(5)
    // After a change of the environment the runs of before are there, as such.
    const changed = shown(session, { ...BEAM, cap: 7 })[0]
    expect(changed).toMatchObject({ stale: true })
    expect(changed.runs).toHaveLength(5)
  })

  it('sweeps a setting: each value is the run of that setting alone', async () => {
    const session = made()
    session.add(CHOICE)
    session.set({ runs: 2 })
    session.look({ picture: 'sweep', sweep: { axes: [{ varied: 'rate', values: '0.1..0.4*2' }] } })
    await session.start(BEAM)
    expect(session.store.getState().asked).toBe(6)
    await finished(session)
    const alone = { ...CHOICE, learningRate: { kind: 'constant', from: 0.2 } } as const
    const { runs: swept } = runsOf(session.store.getState(), BEAM, { id: 9, knobs: {}, choice: alone })
    const ask = { measures: [], trials: 0 }
    expect(swept).toEqual(
      [0, 1].map((run) => new LearningRuns({ document: BEAM, choice: alone, ask }).play(run)),
    )
    // What the sweep had is there for curves too.
    session.look({ picture: 'curves' })
    session.change(0, { choice: alone })
    await session.start(BEAM)
    expect(session.store.getState().asked).toBe(0)
    session.look({ picture: 'sweep', sweep: { axes: [{ varied: 'rate', values: 'one' }] } })
    expect(missingRuns(session.store.getState(), BEAM)).toBe(0)
  })

  it('says what keeps a contestant from running, and runs the others', async () => {
    const session = made()
    session.add(CHOICE, { gone: 1 })
    session.add(CHOICE)
    session.insert({ choice: CHOICE, knobs: {}, follows: { kind: 'action', action: 'fly' } })
    session.set({ runs: 2 })
    expect(shown(session).map(({ problem }) => problem)).toEqual([
      expect.stringContaining('There is no knob "gone"'),
      null,
      expect.stringContaining('no action "fly"'),
    ])
    await session.start(BEAM)
    await finished(session)
    expect(runs(session).map(({ length }) => length)).toEqual([0, 2, 0])
    session.change(0, { knobs: {}, choice: { ...CHOICE, seed: -1 } })
    await session.start(BEAM)
    await finished(session)
    expect(session.store.getState().failure).toContain('seed -1')
  })

  it('takes back what was done to its contestants, not how it is looked at', () => {
    const session = made()
    const ids = () => now(session).contestants.map(({ id }) => id)
    session.add(CHOICE)
    session.add(CHOICE)
    session.add(CHOICE)
    session.move(2, -1)
    expect(ids()).toEqual([0, 2, 1])
    session.move(0, -1)
    session.look({ measure: 'length' })
    session.set({ note: 'Look at the beginning.' })
    session.remove(2)
    session.undo()
    expect(ids()).toEqual([0, 2, 1])
    expect(now(session)).toMatchObject({ note: 'Look at the beginning.', view: { measure: 'length' } })
    session.undo()
    session.undo()
    session.redo()
    expect(ids()).toEqual([0, 1, 2])
    for (let i = 0; i < 9; i++) session.undo()
    expect(ids()).toEqual([])
  })

  it('takes runs that were played elsewhere, in their order', () => {
    const session = made()
    const greedy = { ...emptyRun(1).curves, greedy: new Float64Array(1) }
    session.take('job', 2, [{ key: 'k', runs: [emptyRun(3), { ...emptyRun(1), curves: greedy }] }])
    session.take('job', 5, [
      { key: 'k', runs: [emptyRun(0)] },
      { key: 'k', runs: [emptyRun(1)] },
    ])
    const { results, taken } = session.store.getState()
    expect(results.k.map(({ run }) => run)).toEqual([0, 1, 3])
    // What tells more than what came later stays.
    expect(results.k[1].curves.greedy).toBeDefined()
    expect(taken).toEqual({ job: 5 })
  })

  it('is of agents that want to win', () => {
    expect(canCompare(CHOICE)).toBe(true)
    expect(canCompare({ ...CHOICE, method: 'td-0' })).toBe(false)
  })
})

describe('the comparisons of an environment', () => {
  it('are kept on the server as they change, and there again with their runs', async () => {
    const server = memory()
    let record: KeptComparison | undefined
    const kept: KeptRuns = {
      read: async (what) => (what === 'comparison' ? record : undefined) as never,
      write: async (what, _environment, written) => {
        if (what === 'comparison') record = written as KeptComparison
      },
      forget: async () => {},
    }
    const session = made(1, kept, server)
    session.open()
    await session.shelf.save()
    // Nothing is kept of what nothing is in.
    expect(server.kept.size).toBe(0)
    session.add(CHOICE)
    session.set({ runs: 2, name: 'Rates' })
    await session.shelf.save()
    expect([...server.kept.values()]).toEqual([now(session)])
    await session.start(BEAM)
    await finished(session)
    const again = made(1, kept, server)
    again.open()
    while (!again.shelf.store.getState().loaded) await new Promise((resolve) => setTimeout(resolve))
    expect(now(again)).toEqual(now(session))
    expect(runs(again)).toEqual(runs(session))
  })

  it('can be several; one that was deleted comes back', async () => {
    const server = memory()
    const session = made(1, NOWHERE, server)
    session.open()
    session.add(CHOICE)
    await session.shelf.save()
    await session.shelf.create()
    expect(now(session)).toMatchObject({ name: 'Comparison 2', contestants: [] })
    const { list } = session.shelf.store.getState()
    expect(list).toHaveLength(2)
    await session.shelf.show('c1')
    expect(now(session).contestants).toHaveLength(1)
    await session.shelf.remove()
    expect(now(session).name).toBe('Comparison 2')
    await session.shelf.restore()
    expect(now(session).contestants).toHaveLength(1)
    expect(server.kept.size).toBe(2)
  })

  it('lose nothing when the server does not answer', async () => {
    const server = memory()
    const session = made(1, NOWHERE, server)
    session.add(CHOICE)
    await session.shelf.save()
    server.reachable = false
    session.set({ name: 'Later' })
    await session.shelf.save()
    expect(session.shelf.store.getState()).toMatchObject({
      saving: 'failed',
      problem: 'server: No answer. Wait.',
    })
    server.reachable = true
    await session.shelf.save()
    expect(session.shelf.store.getState()).toMatchObject({ saving: 'saved', problem: null })
    expect(server.kept.get('c1')?.name).toBe('Later')
  })

  it('become new ones when they were deleted elsewhere', async () => {
    const server = memory()
    const session = made(1, NOWHERE, server)
    session.add(CHOICE)
    await session.shelf.save()
    server.kept.delete('c1')
    session.set({ name: 'Still here' })
    await session.shelf.save()
    expect(session.shelf.store.getState()).toMatchObject({ id: 'c2', saving: 'saved', problem: null })
    expect(server.kept.get('c2')?.name).toBe('Still here')
  })

  it('open the one that a link names, and say when it is gone', async () => {
    const server = memory()
    const session = made(1, NOWHERE, server)
    session.add(CHOICE)
    await session.shelf.save()
    await session.shelf.create()
    const linked = made(1, NOWHERE, server)
    linked.open('c1')
    while (!linked.shelf.store.getState().loaded) await new Promise((resolve) => setTimeout(resolve))
    expect(now(linked).contestants).toHaveLength(1)
    const lost = made(1, NOWHERE, server)
    lost.open('gone')
    while (!lost.shelf.store.getState().loaded) await new Promise((resolve) => setTimeout(resolve))
    expect(lost.shelf.store.getState().problem).toContain('deleted')
  })

  it('begin with the contestants that an earlier version kept in the browser', async () => {
    const server = memory()
    const old: readonly Contestant[] = [{ id: 4, knobs: {}, choice: CHOICE }]
    const kept: KeptRuns = {
      ...NOWHERE,
      read: async () => ({ contestants: old, runs: 7, results: { key: [{ run: 0 }] } }) as never,
    }
    const session = made(1, kept, server)
    session.open()
    while (!session.shelf.store.getState().loaded) await new Promise((resolve) => setTimeout(resolve))
    expect(now(session)).toMatchObject({ runs: 7, contestants: [{ id: 4 }] })
    expect(server.kept.size).toBe(1)
    expect(session.store.getState().results).toEqual({})
  })
})
