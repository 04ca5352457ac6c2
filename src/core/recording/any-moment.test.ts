import type { Exploration } from '../settings/exploration'
import { describe, expect, it } from 'vitest'
import type { Learner } from '../learn/learner'
import { LEARN_METHOD_IDS, type LearnMethodId } from '../learn/methods/methods'
import { constant, type Schedule } from '../learn/schedule'
import type { LearnSettings, StartTable } from '../settings/settings'
import { RandomStream } from '../random/generator'
import { chancyGrid, newLearner } from '../testing/learning'
import { rulebook } from '../testing/rulebooks'
import { LearnRecording } from './learn-recording'

const falling = (
  kind: 'linear' | 'exponential',
  from: number,
  to: number,
  over: number,
  per: 'episode' | 'step',
) => ({ kind, from, to, over, per }) as const

const EXPLORATIONS: readonly Exploration[] = [
  { way: 'epsilon-greedy', level: constant(0.2) },
  { way: 'epsilon-greedy', level: falling('linear', 1, 0.05, 30, 'episode') },
  { way: 'epsilon-greedy', level: falling('exponential', 1, 0.02, 300, 'step') },
  { way: 'softmax', level: constant(0.7) },
  { way: 'softmax', level: falling('exponential', 5, 0.1, 25, 'episode') },
  { way: 'softmax', level: falling('linear', 5, 0.1, 250, 'step') },
]
const RATES: readonly Schedule[] = [
  constant(0.1),
  falling('linear', 0.5, 0.01, 35, 'episode'),
  falling('exponential', 0.5, 0.01, 280, 'step'),
  { kind: 'visits', from: 1, slowness: 3 },
  { kind: 'drop', from: 0.4, to: 0.05 },
]
const STARTS: readonly StartTable[] = [
  { kind: 'zero' },
  { kind: 'constant', value: 5 },
  { kind: 'random', spread: 0.5 },
]

/** All that can be seen of a learner, bit by bit. */
function seen(learner: Learner) {
  const { steps, state, age, level, rate, last, log, status } = learner
  return {
    numbers: [steps, state, age, level, rate, log.count],
    status,
    last: { ...last },
    table: [...learner.table],
    visits: [...learner.visits],
    policy: [...learner.policy()],
    workings: Array.from(learner.world.ending, (_, s) => learner.working(learner.world.observation[s])),
    returns: [...log.returns.subarray(0, log.count)],
    lengths: [...log.lengths.subarray(0, log.count)],
  }
}

/** A learner of its own that takes up a snapshot, as another process would that got it as bytes. */
function takenUp(
  method: LearnMethodId,
  settings: Partial<LearnSettings>,
  from: Learner,
  model = chancyGrid(),
): Learner {
  const other = newLearner(method, model, settings)
  const { count } = from.log
  other.log.returns.set(structuredClone(from.log.returns.subarray(0, count)))
  other.log.lengths.set(structuredClone(from.log.lengths.subarray(0, count)))
  other.restore(structuredClone(from.snapshot()))
  return other
}

const LONG = process.env.LONG === '1'

describe.each(LEARN_METHOD_IDS)('any moment of a run of %s', (method) => {
  // With many episodes the one-step methods take their steps in WebAssembly.
  it.each([60, 5000])(
    'has the same bits by every way to it, and goes on alike, of %i episodes',
    (episodes) => {
      const picks = new RandomStream(episodes, 'environment')
      EXPLORATIONS.forEach((exploration, e) =>
        RATES.forEach((learningRate, r) => {
          if (!LONG && (e + r + episodes) % 2 === 1) return
          const settings: Partial<LearnSettings> = {
            exploration,
            learningRate,
            start: STARTS[(e + r) % STARTS.length],
            ties: r % 2 ? 'first' : 'random',
            traces: e % 2 ? 'accumulating' : 'replacing',
            planning: 3,
            episodes,
            cap: 25,
          }
          const recording = new LearnRecording(newLearner(method, chancyGrid(), settings), 20_000)
          while (recording.reached < 700 && recording.forward(89) > 0);
          for (let i = 0; i < (LONG ? 6 : 2); i++) {
            const moment = picks.below(recording.reached)
            const further = picks.below(200)
            const replay = newLearner(method, chancyGrid(), settings)
            replay.advance(moment)
            const there = seen(replay)
            const taken = takenUp(method, settings, replay)
            recording.goTo(moment)
            expect(seen(recording.learner)).toEqual(there)
            expect(seen(taken)).toEqual(there)
            replay.advance(further)
            taken.advance(further)
            recording.forward(further)
            const later = seen(replay)
            expect(seen(taken)).toEqual(later)
            expect(seen(recording.learner)).toEqual(later)
          }
        }),
      )
    },
  )

  it('has the same bits where outcomes discount what follows, too', () => {
    // Minutes pass by themselves between two knocks, and each counts.
    const { model } = rulebook(`state wait from 0 to 4
start wait = 0
action knock
action ring
pass when wait > 0 discounted 0.8
chance luck ~ coin(0.3)
next wait = if wait = 0 then (if action = ring then 2 else 1) else if luck then 0 else min(4, wait + 1)
reward wait + (if luck then 2 else 0)
end after wait = 4 and luck "closed"`)
    for (const [e, exploration] of EXPLORATIONS.entries()) {
      const settings: Partial<LearnSettings> = {
        exploration,
        learningRate: RATES[e % RATES.length],
        episodes: 80,
        cap: 25,
        planning: 3,
      }
      const recording = new LearnRecording(newLearner(method, model, settings), 4000)
      while (recording.reached < 300 && recording.forward(37) > 0);
      const moment = Math.floor(recording.reached / 3)
      const replay = newLearner(method, model, settings)
      replay.advance(moment)
      recording.goTo(moment)
      const taken = takenUp(method, settings, replay, model)
      expect(seen(recording.learner)).toEqual(seen(replay))
      for (const each of [replay, taken]) each.advance(60)
      recording.forward(60)
      expect(seen(taken)).toEqual(seen(replay))
      expect(seen(recording.learner)).toEqual(seen(replay))
    }
  })

  it('stays where it diverged or stopped', () => {
    // Each step of exact ascent is an episode.
    const settings: Partial<LearnSettings> = { episodes: 150, stop: { kind: 'steps', count: 120 } }
    const learner = newLearner(method, chancyGrid(), settings)
    while (learner.advance(1000) > 0);
    expect(learner.status.outcome).toBe('stopped')
    const taken = takenUp(method, settings, learner)
    expect(taken.status).toEqual(learner.status)
    expect(taken.advance(10)).toBe(0)
  })

  it('refuses a snapshot that is not one of its own, and stays as it was', () => {
    const learner = newLearner(method, chancyGrid())
    learner.advance(100)
    const before = seen(learner)
    expect(() => learner.restore({ ...learner.snapshot(), arrays: {} })).toThrow('no array')
    expect(seen(learner)).toEqual(before)
  })
})
