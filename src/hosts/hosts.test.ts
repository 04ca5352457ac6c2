import { describe, expect, it } from 'vitest'
import { BRIEF, newLearner, roomsWalk } from '../core/testing/learning'
import { rulebookEnvironment } from '../core/kinds/rulebook/blank'
import { evaluatePolicy } from '../core/plan/evaluate'
import { modelFingerprint } from '../core/model/fingerprint'
import { startValue } from '../core/model/model'
import { CompileHost } from './compile-host'
import { ExactMarks } from './exact-marks'
import type { Clock } from './host'
import { LearnHost } from './learn-host'
import { PlanHost } from './plan-host'
import type { CompileReply } from './protocol/compile'
import type { LearnReply } from './protocol/learn'
import type { PlanReply } from './protocol/plan'
import { SeedsHost } from './seeds-host'
import { TrialsHost } from './trials-host'

/** A clock that a test moves: work that is put off is done in its order when it is asked for. */
function handClock(step = 1): Clock & { pending: (() => void)[]; turn(): boolean } {
  let time = 0
  const pending: (() => void)[] = []
  return {
    pending,
    now: () => (time += step),
    later: (work) => void pending.push(work),
    turn() {
      const next = pending.shift()
      next?.()
      return next !== undefined
    },
  }
}

/** Lets promises that are settled have their say. */
const breathe = () => new Promise((resolve) => setTimeout(resolve))

describe('CompileHost', () => {
  const LONG = rulebookEnvironment(
    'long',
    'state a from 0 to 3000\nstart a = 0\naction go\nnext a = min(3000, a + 1)\nreward 1\nend when a = 3000',
  )

  it('compiles in slices, reports how far it is, and answers with the model', async () => {
    const said: CompileReply[] = []
    // Every look at the clock takes 30 milliseconds: a slice is over after three chunks.
    const clock = handClock(30)
    const host = CompileHost.create((reply) => void said.push(reply), clock)
    host.hear({ type: 'compile', session: 4, has: null, document: LONG })
    for (let i = 0; i < 50; i++) {
      await breathe()
      if (!clock.turn()) break
    }
    await breathe()
    expect(said.some(({ type }) => type === 'progress')).toBe(true)
    const compiled = said.find((reply) => reply.type === 'compiled')!
    expect(compiled).toMatchObject({ session: 4 })
    expect(said.at(-1)).toMatchObject({ type: 'scored', session: 4 })
  })

  it('drops what is no longer wanted', async () => {
    const said: CompileReply[] = []
    const clock = handClock(30)
    const host = CompileHost.create((reply) => void said.push(reply), clock)
    host.hear({ type: 'compile', session: 1, has: null, document: LONG })
    await breathe()
    host.hear({ type: 'cancel' })
    while (clock.turn()) await breathe()
    expect(said.filter(({ type }) => type !== 'progress')).toEqual([])
  })

  it('keeps the model of the page where only comments and policies change, and no other', async () => {
    const said: CompileReply[] = []
    const host = CompileHost.create((reply) => void said.push(reply), handClock())
    const text =
      'state a from 0 to 3\nstart a = 0\naction go\naction wait\nnext a = min(3, a + 1)\nend when a = 3'
    const ask = async (session: number, has: number | null, more: string) => {
      said.length = 0
      const document = rulebookEnvironment('short', text + more)
      host.hear({ type: 'compile', session, has, document })
      await breathe()
      return said.map(({ type }) => type)
    }
    const whole = ['compiled', 'ways', 'scored']
    expect(await ask(1, null, '')).toEqual(whole)
    expect(await ask(2, 1, '\npolicy "on": go # at once')).toEqual(['renewed', 'scored'])
    expect(said[0]).toMatchObject({ rest: { policies: [{ title: 'on' }] } })
    expect(said[0]).not.toHaveProperty('rest.model')
    // However often it is renewed, whether or not the page has heard of it, the model is that of the first session.
    expect(await ask(3, 1, '\n# at once')).toEqual(['renewed', 'scored'])
    // The page has another one, or none.
    expect(await ask(3, 2, '')).toEqual(whole)
    expect(await ask(4, 3, '\nreward 1')).toEqual(whole)
    // What is refused, or given up, leaves what was there before.
    expect(await ask(5, 4, '\nreward 1\nreward')).toEqual(['refused'])
    host.hear({ type: 'cancel' })
    expect(await ask(6, 4, '\n\nreward 1')).toEqual(['renewed', 'scored'])
  })

  it('tells what is wrong with a document', async () => {
    const said: CompileReply[] = []
    const host = CompileHost.create((reply) => void said.push(reply), handClock())
    host.hear({ type: 'compile', session: 2, has: null, document: rulebookEnvironment('bad', 'state') })
    await breathe()
    expect(said).toMatchObject([{ type: 'refused', session: 2 }])
  })
})

it('hosts turn what should not happen into a reply of its session', () => {
  const said: unknown[] = []
  const broken = { states: 1 } as never
  PlanHost.create((reply: PlanReply) => void said.push(reply), handClock()).hear({
    type: 'open',
    session: 9,
    model: broken,
    method: 'value-iteration',
    settings: {} as never,
    follow: false,
  })
  SeedsHost.create((reply) => void said.push(reply)).hear({ type: 'open', model: broken } as never)
  TrialsHost.create((reply) => void said.push(reply)).hear({
    session: 3,
    model: broken,
    contestants: [],
    settings: {} as never,
    measures: [],
  })
  expect(said).toMatchObject([
    { type: 'failed', session: 9 },
    { type: 'failed', session: 0 },
    { type: 'failed', session: 3 },
  ])
})

describe('LearnHost', () => {
  it('tells the fingerprint of its model when it is wanted, and gives its keyframes away', async () => {
    const model = roomsWalk(6)
    const said: { reply: LearnReply; transfer: readonly Transferable[] }[] = []
    const clock = handClock(2000)
    const host = LearnHost.create((reply, transfer = []) => void said.push({ reply, transfer }), clock)
    const open = (session: number, identify: boolean) =>
      host.hear({
        type: 'open',
        session,
        model,
        method: 'q-learning',
        settings: { ...BRIEF, episodes: 50 },
        table: new Float64Array(12),
        saved: null,
        identify,
      })
    const told = (type: LearnReply['type']) => said.filter(({ reply }) => reply.type === type)
    open(1, false)
    open(2, true)
    for (let i = 0; i < 20; i++) {
      await breathe()
      clock.turn()
    }
    await breathe()
    expect(told('fingerprint').map(({ reply }) => reply)).toEqual([
      { type: 'fingerprint', session: 2, fingerprint: modelFingerprint(model) },
    ])
    const [{ reply, transfer }] = told('kept')
    const { snapshot, returns, lengths } = (reply as Extract<LearnReply, { type: 'kept' }>).saved
    const buffers = [...Object.values(snapshot.arrays), returns, lengths].map(({ buffer }) => buffer)
    expect(transfer).toEqual(buffers)
    // Each once, or it could not be sent.
    expect(new Set(buffers).size).toBe(buffers.length)
  })
})

describe('ExactMarks', () => {
  const model = roomsWalk(6)
  const exact = (learner: ReturnType<typeof newLearner>) => {
    const policy = learner.world.toModelRows(learner.policy())
    const result = evaluatePolicy(model, policy, learner.settings.discount)
    return result.outcome === 'solved' ? startValue(model, result.values) : null
  }

  it('notes the exact value of the policy, more densely at first', () => {
    const learner = newLearner('q-learning', model)
    const marks = new ExactMarks(learner, 1000, handClock(0.001))
    while (learner.log.count < 100) {
      if (learner.log.count >= marks.next) marks.add(learner)
      learner.advance(1000, Math.min(100, marks.next))
    }
    expect(marks.episode.length).toBeGreaterThan(20)
    expect(marks.episode.slice(0, 3)).toEqual([1, 2, 3])
    for (let i = 1; i < marks.episode.length; i++)
      expect(marks.episode[i]).toBeGreaterThan(marks.episode[i - 1])
    expect(marks.now(learner)).toBe(exact(learner))
  })

  it('takes no more than its share of the time, and none where the model is large', () => {
    const learner = newLearner('q-learning', model)
    learner.advance(1000, 5)
    // The first evaluation, between the third and the fourth look at the clock, seems to take ten seconds.
    let calls = 0
    const slow: Clock = { now: () => (++calls > 3 ? 10_000 : 0), later: () => {} }
    const marks = new ExactMarks(learner, 1000, slow)
    marks.add(learner)
    learner.advance(1000, 6)
    marks.add(learner)
    expect(marks.episode).toEqual([5])
    // At the end of the run it is wanted all the same.
    marks.note(learner)
    expect(marks.episode).toEqual([5, 6])
    expect(marks.value[1]).toBe(exact(learner))
    marks.note(learner)
    expect(marks.episode).toEqual([5, 6])
    const large = new ExactMarks(learner, 2, handClock())
    expect(large.next).toBe(Infinity)
    expect(large.now(learner)).toBeNull()
  })
})
