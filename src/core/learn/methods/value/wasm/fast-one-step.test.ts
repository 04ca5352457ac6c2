import { describe, expect, it, vi } from 'vitest'
import { BRIEF, chancyGrid, exploring, manyOutcomes } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import { OneStep } from '../one-step'
import { constant, type Schedule } from '../../../schedule'
import type { LearnSettings } from '../../../../settings/settings'
import type { Keeping } from '../../../learner'
import { Room } from '../../../../wasm/room'
import { World } from '../../../world'
import { ModelBuilder } from '../../../../model/builder'
import type { Model } from '../../../../model/model'
import { createOneStep, fastOneStep } from './fast-one-step'
import { rowDrawsOf } from './row-draws'

const fall = (per: 'episode' | 'step', over: number): Schedule => ({
  kind: 'linear',
  from: 1,
  to: 0.1,
  over,
  per,
})
const greedy = (level: Schedule) => ({ way: 'epsilon-greedy', level }) as const
const MODELS = {
  'a chancy grid': chancyGrid(),
  'a random model': randomModel(4, 8).model,
  'many starts': gridModel(['......', '......'], { endings: [{ at: 'F2', reward: 3, name: '' }] }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'first of equals, optimistic': { ties: 'first', start: { kind: 'constant', value: 4 } },
  'by visits': { learningRate: { kind: 'visits', from: 0.9, slowness: 7 } },
  'exploration by episode, rate that drops': {
    exploration: greedy(fall('episode', 120)),
    learningRate: { kind: 'drop', from: 0.5, to: 0.05 },
  },
  'exploration by step': { exploration: greedy(fall('step', 700)) },
  // Floors where a block of single steps ends, just before and just after.
  'a rate at its floor in step 65': { learningRate: fall('step', 65) },
  'a rate at its floor in step 64': { learningRate: fall('step', 64) },
  'exploration at its final value in step 66': { exploration: greedy(fall('step', 66)) },
  'rate by step': { learningRate: fall('step', 900) },
  'a stop by mean return': { stop: { kind: 'mean-return', atLeast: -2, over: 30 } },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
}

/** Ways to explore that only the kernels without workings know. */
const LEAN_WAYS: Record<string, Partial<LearnSettings>> = {
  'a temperature of 1': { exploration: { way: 'softmax', level: constant(1) } },
  'a small one, by visits': {
    exploration: { way: 'softmax', level: constant(0.01) },
    learningRate: { kind: 'visits', from: 0.9, slowness: 7 },
  },
  'one that falls by episode': { exploration: { way: 'softmax', level: fall('episode', 120) } },
  'one that falls by step': { exploration: { way: 'softmax', level: fall('step', 65) } },
  'upper bounds': { exploration: { way: 'ucb1', level: constant(1) } },
  'narrow ones, the first of equals, by visits': {
    exploration: { way: 'ucb1', level: fall('episode', 90) },
    ties: 'first',
    learningRate: { kind: 'visits', from: 0.9, slowness: 7 },
  },
  'bounds of no width, with many ties': { exploration: { way: 'ucb1', level: constant(0) } },
  'a bonus for what is new': { exploration: { way: 'count-bonus', level: constant(2) } },
  'one that gets smaller': { exploration: { way: 'count-bonus', level: fall('step', 200) } },
}

/** Like MODELS, by how the lean kernel lays out what it draws from. */
const LAYOUTS = {
  Four: chancyGrid(),
  Few: MODELS['a random model'],
  Many: manyOutcomes(),
}

function both(
  model: (typeof MODELS)[keyof typeof MODELS],
  settings: Partial<LearnSettings>,
  target: 'best' | 'taken' | 'expected',
  keeps?: Keeping,
) {
  const all = { ...BRIEF, cap: 14, ...settings }
  const fast = fastOneStep(new World(model), all, target, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new OneStep(new World(model), all, target) }
}

describe.each(['best', 'taken', 'expected'] as const)('the kernel with the target %s', (target) => {
  it.each(Object.keys(SETTINGS))('gives the bits of the plain learner: %s', (name) => {
    for (const model of Object.values(MODELS)) {
      const { fast, plain } = both(model, SETTINGS[name], target)
      // Chunks of any size, so that single steps and many change places.
      for (const chunk of [64, 100, 5, 64, 1, 333, 1000, 7, 100_000]) {
        expect(fast.advance(chunk)).toBe(plain.advance(chunk))
        expect([...fast.table]).toEqual([...plain.table])
        expect([...fast.visits]).toEqual([...plain.visits])
        expect(fast.last).toEqual(plain.last)
        expect(fast.status).toEqual(plain.status)
        expect([fast.steps, fast.state, fast.age, fast.level, fast.rate]).toEqual([
          plain.steps,
          plain.state,
          plain.age,
          plain.level,
          plain.rate,
        ])
        for (let observation = 0; observation < model.observations; observation++)
          expect(fast.working(observation)).toEqual(plain.working(observation))
        expect(fast.snapshot().numbers).toEqual(plain.snapshot().numbers)
      }
      expect([...fast.log.returns]).toEqual([...plain.log.returns])
      expect([...fast.log.lengths]).toEqual([...plain.log.lengths])
    }
  })

  it('goes on from a snapshot of the plain learner, and the other way round', () => {
    const { fast, plain } = both(MODELS['a chancy grid'], {}, target)
    plain.advance(503)
    fast.restore(plain.snapshot())
    fast.advance(400)
    plain.advance(400)
    expect([...fast.table]).toEqual([...plain.table])
    plain.restore(fast.snapshot())
    fast.advance(300)
    plain.advance(300)
    expect([...fast.table]).toEqual([...plain.table])
  })

  it('stops at the end of the episode that it is asked to stop at', () => {
    const { fast, plain } = both(MODELS['a chancy grid'], { episodes: 500 }, target)
    for (const until of [1, 2, 50, 51, 400]) {
      expect(fast.advance(1e9, until)).toBe(plain.advance(1e9, until))
      expect(fast.log.count).toBe(until)
    }
  })

  it('catches numbers that run away as the plain learner does', () => {
    // Rates above 1 are no use for tables, but they do run away.
    const { fast, plain } = both(
      MODELS['a chancy grid'],
      { learningRate: constant(2.9), exploration: exploring(0.5) },
      target,
    )
    expect(fast.advance(1e6)).toBe(plain.advance(1e6))
    expect(fast.status.outcome).toBe('diverged')
    expect(fast.status).toEqual(plain.status)
    expect([...fast.table]).toEqual([...plain.table])
  })
})

describe.each(['best', 'taken', 'expected'] as const)(
  'the kernel that keeps no workings, with the target %s',
  (target) => {
    it.each(Object.keys(SETTINGS))('learns the same to the last bit: %s', (name) => {
      for (const model of Object.values({ ...LAYOUTS, ...MODELS }))
        for (const keeps of ['results', 'visits'] as const) {
          const { fast, plain } = both(model, SETTINGS[name], target, keeps)
          const shared = { visits: keeps === 'visits' }
          expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
          expect(fast.working(fast.last.state)).toBeUndefined()
        }
    })

    it.each(Object.keys(LEAN_WAYS))('learns the same however it explores: %s', (name) => {
      for (const model of Object.values({ ...LAYOUTS, ...MODELS }))
        for (const keeps of ['results', 'visits'] as const) {
          const { fast, plain } = both(model, LEAN_WAYS[name], target, keeps)
          const shared = { visits: keeps === 'visits' }
          expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
        }
    })

    it('catches numbers that run away as the plain learner does', () => {
      for (const model of Object.values(LAYOUTS)) {
        const settings = { learningRate: constant(2.9), exploration: exploring(0.5) }
        const { fast, plain } = both(model, settings, target, 'results')
        expect(fast.advance(1e6)).toBe(plain.advance(1e6))
        expect(fast.status).toEqual(plain.status)
        expect(fast.status.outcome).toBe('diverged')
        expect([...fast.table]).toEqual([...plain.table])
        expect(fast.behaviour()).toEqual(plain.behaviour())
      }
    })

    it('goes on from a snapshot of its own, and has no workings to tell', () => {
      const { fast } = both(LAYOUTS.Four, {}, target, 'results')
      fast.advance(503)
      const then = fast.snapshot()
      fast.advance(400)
      const table = [...fast.table]
      fast.restore(then)
      fast.advance(400)
      expect([...fast.table]).toEqual(table)
      expect(fast.working(fast.last.state)).toBeUndefined()
    })
  },
)

it('keeps workings where what lean steps need is too large', () => {
  const settings = { ...BRIEF, episodes: 5000 }
  const room = vi.spyOn(Room, 'of').mockReturnValueOnce(null)
  const learner = fastOneStep(new World(LAYOUTS.Many), settings, 'best', 'results')!
  expect(room).toHaveBeenCalledTimes(2)
  room.mockRestore()
  learner.advance(1000)
  expect(learner.working(learner.last.state)).toBeDefined()
})

it('lays out what it draws from as the model is', () => {
  for (const [layout, model] of Object.entries(LAYOUTS))
    expect(rowDrawsOf(new World(model))?.layout).toBe(layout)
  // Rows of the table belong to several states where these look alike.
  expect(rowDrawsOf(new World(alike()))).toBeNull()
  const { fast, plain } = both(alike(), {}, 'best', 'results')
  fast.advance(1000)
  plain.advance(1000)
  expect([...fast.table]).toEqual([...plain.table])
})

/** Two states that look alike, one of them an action away from the ending. */
function alike(): Model {
  const builder = new ModelBuilder()
  const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
  for (const [from, to] of [
    [a, b],
    [b, end],
  ]) {
    builder.outcome(builder.row(from, builder.action('on')), to, 0.5, -1)
    builder.outcome(builder.row(from, builder.action('on')), from, 0.5, -2)
    builder.outcome(builder.row(from, builder.action('back')), a, 1, 0)
  }
  return builder.build({
    starts: [{ state: a, weight: 1 }],
    cap: 9,
    observation: Int32Array.of(0, 0, 1),
  })
}

it('is used where it pays, and where exploring is simple enough for it', () => {
  const world = new World(chancyGrid())
  const long = { ...BRIEF, episodes: 10_000 }
  expect(createOneStep(world, long, 'best').constructor).not.toBe(OneStep)
  expect(createOneStep(world, BRIEF, 'best').constructor).toBe(OneStep)
  for (const way of ['softmax', 'ucb1', 'count-bonus'] as const) {
    const settings = { ...long, exploration: { way, level: constant(1) } }
    expect(createOneStep(world, settings, 'best').constructor).toBe(OneStep)
    expect(createOneStep(world, settings, 'best', 'results').constructor).not.toBe(OneStep)
  }
  const committed = { ...long, exploration: { way: 'explore-then-commit', level: constant(1) } } as const
  expect(createOneStep(world, committed, 'best', 'results').constructor).toBe(OneStep)
})
