import { beforeAll, describe, expect, it, vi } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { newLearner, roomsWalk } from '../../core/testing/learning'
import { gridDocument } from '../../core/testing/models'
import type { LearnReply, LearnRequest, SavedRun } from '../../hosts/protocol/learn'
import type { KeptRuns } from './kept-run'
import { firstChoice } from '../../core/settings/first-choice'
import { createLearnSession } from './learn-session'
import { readRunLink } from './read-run-link'
import { runLink } from './run-link'

const DOCUMENT: EnvironmentDocument = { ...gridDocument(['..']), cap: 0, discount: 0.7 }
const MODEL = roomsWalk(5)

/** A worker that writes down what it is told, and says what the test says. */
function fakeWorker() {
  const posted: LearnRequest[] = []
  let listener: (reply: LearnReply) => void = () => {}
  let broken: (() => void) | undefined
  let closed = 0
  return {
    posted,
    start: () => ({
      post: (request: LearnRequest) => void posted.push(request),
      listen: (listen: typeof listener, gaveUp?: () => void) => {
        listener = listen
        broken = gaveUp
      },
      close: () => void closed++,
    }),
    say: (reply: LearnReply) => listener(reply),
    breakDown: () => broken?.(),
    closed: () => closed,
    opened: () => posted.filter((request) => request.type === 'open').at(-1)!,
  }
}

function memory(): KeptRuns & { readonly map: Map<string, unknown> } {
  const map = new Map<string, unknown>()
  return {
    map,
    read: async (what, environment) => map.get(`${environment} ${what}`) as never,
    write: async (what, environment, record) => void map.set(`${environment} ${what}`, record),
    forget: async (environment) => {
      for (const what of ['frame', 'place']) map.delete(`${environment} ${what}`)
    },
  }
}

/** A frame that says where a run stands, and nothing else. */
function frameAt(session: number, steps: number, reached: number, done = false): LearnReply {
  return { type: 'frame', session, steps, reached, first: 0, done, running: false } as LearnReply
}

/** Until what is read from the memory has arrived. */
const settled = () => new Promise((resolve) => setTimeout(resolve))

function savedAt(steps: number): SavedRun {
  const learner = newLearner('q-learning', MODEL)
  learner.advance(steps)
  const { count } = learner.log
  return {
    snapshot: learner.snapshot(),
    returns: learner.log.returns.slice(0, count),
    lengths: learner.log.lengths.slice(0, count),
  }
}

// Nothing is drawn here.
beforeAll(() => void vi.stubGlobal('requestAnimationFrame', () => 0))

describe('a learning session', () => {
  it('begins with what the document suggests, and a discount and cap of its own', () => {
    expect(firstChoice(DOCUMENT)).toMatchObject({
      method: 'q-learning',
      discount: 0.7,
      cap: 1000,
      episodes: 2000,
    })
    const suggested = { ...DOCUMENT, learning: { method: 'sarsa', episodes: 7 } as const }
    expect(firstChoice(suggested)).toMatchObject({ method: 'sarsa', episodes: 7, discount: 0.7 })
  })

  it('drops what an older run says', () => {
    const worker = fakeWorker()
    const session = createLearnSession('e', DOCUMENT, null, memory(), worker.start)
    session.open(MODEL, () => null)
    const first = worker.opened().session
    session.restart()
    worker.say({ type: 'optimum', session: first, optimum: 1, values: new Float64Array(7) })
    expect(session.store.getState().optimum).toBeNull()
    worker.say({ type: 'optimum', session: first + 1, optimum: 2, values: new Float64Array(7) })
    expect(session.store.getState().optimum?.optimum).toBe(2)
  })

  it('says so when the worker breaks down, and goes on from the last keyframe with a new one', () => {
    const worker = fakeWorker()
    const session = createLearnSession('e', DOCUMENT, null, memory(), worker.start)
    session.open(MODEL, () => null)
    session.choose({ episodes: 321 })
    const saved = savedAt(50)
    worker.say({ type: 'kept', session: worker.opened().session, saved })
    worker.breakDown()
    const { failure, kept, running } = session.store.getState()
    expect(failure).toMatch(/computation failed/)
    expect(kept).toBe(saved)
    expect(worker.closed()).toBe(1)
    session.takeUp(running!, kept!)
    expect(worker.opened()).toMatchObject({ type: 'open', saved, table: null, settings: { episodes: 321 } })
    expect(session.store.getState().failure).toBeNull()
  })

  it('offers a run that was broken off when the page went away, on the same model only', async () => {
    const runs = memory()
    const worker = fakeWorker()
    const before = createLearnSession('e', DOCUMENT, null, runs, worker.start)
    before.open(MODEL, () => null)
    worker.say(frameAt(worker.opened().session, 0, 0))
    expect(runs.map.size).toBe(0)
    worker.say({ type: 'kept', session: worker.opened().session, saved: savedAt(80) })
    worker.say(frameAt(worker.opened().session, 91, 120))
    before.close()
    expect(runs.map.size).toBe(2)

    const other = createLearnSession('e', DOCUMENT, null, runs, fakeWorker().start)
    other.open(roomsWalk(6), () => null)
    await settled()
    expect(other.store.getState().broken).toBeNull()

    const second = fakeWorker()
    const again = createLearnSession('e', DOCUMENT, null, runs, second.start)
    again.open(roomsWalk(5), () => null)
    await settled()
    expect(again.store.getState().broken).toMatchObject({ place: { at: 91, reached: 120, done: false } })
    // To the very step it was at, and from its beginning, so that one can go back to all of it.
    again.takeUpBroken()
    expect(second.opened()).toMatchObject({ saved: null })
    expect(second.posted.at(-1)).toEqual({ type: 'reach', reached: 120, at: 91 })
    again.forgetBroken()
    expect(again.store.getState().broken).toBeNull()
    expect(runs.map.size).toBe(0)
  })

  it('leaves the fingerprint of a large model to the worker, and keeps the run when it is told', async () => {
    const large = { ...MODEL, outcomes: 200_000 }
    const runs = memory()
    const worker = fakeWorker()
    const before = createLearnSession('e', DOCUMENT, null, runs, worker.start)
    before.open(large, () => null)
    expect(worker.opened()).toMatchObject({ identify: true })
    const { session } = worker.opened() as { session: number }
    worker.say({ type: 'kept', session, saved: savedAt(80) })
    worker.say(frameAt(session, 91, 120))
    expect(runs.map.size).toBe(0)
    worker.say({ type: 'fingerprint', session, fingerprint: 77 })
    expect(runs.map.size).toBe(2)
    // Another page on another model is not offered it, on the same one it is.
    for (const [fingerprint, steps] of [
      [78, undefined],
      [77, 120],
    ] as const) {
      const other = fakeWorker()
      const again = createLearnSession('e', DOCUMENT, null, runs, other.start)
      again.open({ ...large }, () => null)
      await settled()
      expect(again.store.getState().broken).toBeNull()
      other.say({
        type: 'fingerprint',
        session: (other.opened() as { session: number }).session,
        fingerprint,
      })
      expect(again.store.getState().broken?.place.reached).toBe(steps)
    }
    // Known once, it is not asked for again.
    before.restart()
    expect(worker.opened()).toMatchObject({ identify: false })
  })

  it('offers a run that is finished too, and one of which there is no keyframe yet', async () => {
    const runs = memory()
    const worker = fakeWorker()
    const before = createLearnSession('e', DOCUMENT, null, runs, worker.start)
    before.open(MODEL, () => null)
    worker.say(frameAt(worker.opened().session, 50, 50, true))
    const again = createLearnSession('e', DOCUMENT, null, runs, fakeWorker().start)
    again.open(roomsWalk(5), () => null)
    await settled()
    expect(again.store.getState().broken).toMatchObject({ place: { done: true, reached: 50 }, saved: null })
    // One that began with a given table takes its keyframe, and only its own.
    before.restartWith({ title: 'a table', table: new Float64Array(7) })
    worker.say(frameAt(worker.opened().session, 70, 70))
    const third = createLearnSession('e', DOCUMENT, null, runs, fakeWorker().start)
    third.open(roomsWalk(5), () => null)
    await settled()
    expect(third.store.getState().broken).toBeNull()
    worker.say({ type: 'kept', session: worker.opened().session, saved: savedAt(60) })
    const last = fakeWorker()
    const fourth = createLearnSession('e', DOCUMENT, null, runs, last.start)
    fourth.open(roomsWalk(5), () => null)
    await settled()
    fourth.takeUpBroken()
    const opened = last.opened()
    expect(opened.type === 'open' && opened.saved?.snapshot.numbers.steps).toBe(60)
  })

  it('follows the policy that is named, for methods that follow one', () => {
    const worker = fakeWorker()
    const session = createLearnSession('e', DOCUMENT, null, memory(), worker.start)
    const policy = new Float64Array(MODEL.rows).fill(0.5)
    session.open(MODEL, (source) => (source === 'drawn' ? policy : null))
    session.choose({ source: 'drawn' })
    expect(worker.opened()).toMatchObject({ method: 'q-learning', settings: { policy: null } })
    session.choose({ method: 'td-0' })
    const opened = worker.opened()
    expect(opened.type === 'open' && opened.settings.policy).toBe(policy)
  })
})

describe('a link to a run', () => {
  it('carries all settings there and back', () => {
    const choice = { ...firstChoice(DOCUMENT), lambda: 0.3, run: 4, source: 'written:keep it full' }
    const link = new URL(runLink('http://museum.example/environment/7/learn?run=old', choice))
    expect(readRunLink(link.searchParams.get('run')!)).toEqual({ choice })
  })

  it('that is damaged, or asks for what does not exist, says so', () => {
    expect(readRunLink(undefined)).toBeNull()
    expect(readRunLink('{"method":')).toMatchObject({
      problem: expect.stringMatching(/cut short or damaged/),
    })
    expect(readRunLink('{"method":"guessing"}')).toMatchObject({
      problem: expect.stringMatching(/settings that do not exist.*"method"/),
    })
    expect(readRunLink('{"learningRate":{"kind":"linear","from":1}}')).toMatchObject({
      problem: expect.stringMatching(/learningRate.*is no schedule/),
    })
  })
})
