import { describe, expect, it } from 'vitest'
import type { LearnSettings } from '../../../../settings/settings'
import { BRIEF, chancyGrid, exploring, manyOutcomes } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import type { Model } from '../../../../model/model'
import { constant } from '../../../schedule'
import { World } from '../../../world'
import { DynaQ } from '../dyna-q'
import { createDynaQ, fastDynaQ } from './fast-dyna-q'

/** By how the kernel lays out what it draws from. */
const LAYOUTS = { Few: chancyGrid(), Many: manyOutcomes() }
const MODELS: Record<string, Model> = {
  ...LAYOUTS,
  'a random model': randomModel(4, 8).model,
  'many starts': gridModel(['......', '......'], { endings: [{ at: 'F2', reward: 3, name: '' }] }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'one update from memory, the first of equals': { planning: 1, ties: 'first' },
  'nothing from memory': { planning: 0 },
  'a rate by visits, from random values': {
    learningRate: { kind: 'visits', from: 0.9, slowness: 7 },
    start: { kind: 'random', spread: 2 },
  },
  'exploration that falls by episode': {
    exploration: {
      way: 'epsilon-greedy',
      level: { kind: 'linear', from: 1, to: 0.1, over: 40, per: 'episode' },
    },
  },
  'a rate that reaches its end in step 65': {
    learningRate: { kind: 'linear', from: 1, to: 0.1, over: 65, per: 'step' },
  },
  'a stop by mean return': { stop: { kind: 'mean-return', atLeast: -2, over: 30 } },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
}
/** What is remembered, besides the table. */
const MEMORY = [
  'picks',
  'updates',
  'modelSeen',
  'modelTotal',
  'modelFirst',
  'modelInto',
  'modelRow',
  'modelNext',
  'modelTimes',
  'modelReward',
  'modelCarried',
  'modelChain',
  'modelChainInto',
]

function both(model: Model, settings: Partial<LearnSettings>, keeps: 'results' | 'visits' = 'results') {
  const all = { ...BRIEF, cap: 14, planning: 5, exploration: exploring(0.2), ...settings }
  const fast = fastDynaQ(new World(model), all, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new DynaQ(new World(model), all) }
}

describe('the kernel of Dyna-Q', () => {
  it.each(Object.keys(SETTINGS))('learns and remembers the same to the last bit: %s', (name) => {
    for (const model of Object.values(MODELS))
      for (const keeps of ['results', 'visits'] as const) {
        const { fast, plain } = both(model, SETTINGS[name], keeps)
        const shared = { visits: keeps === 'visits', tables: MEMORY }
        expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
        expect(fast.working(fast.last.state)).toBeUndefined()
      }
  })

  it('goes on from a snapshot, with what was remembered then', () => {
    const { fast, plain } = both(LAYOUTS.Few, {})
    fast.advance(503)
    const then = fast.snapshot()
    fast.advance(4000)
    fast.restore(then)
    fast.advance(400)
    plain.advance(903)
    expect([...fast.table]).toEqual([...plain.table])
  })

  it.each([0, 30])(
    'catches numbers that run away as the plain learner does, with %d updates from memory',
    (planning) => {
      for (const model of Object.values(LAYOUTS)) {
        const { fast, plain } = both(model, {
          learningRate: constant(2.9),
          planning,
          exploration: exploring(0.5),
        })
        expect(fast.advance(1e6)).toBe(plain.advance(1e6))
        expect(fast.status).toEqual(plain.status)
        expect(fast.status.outcome).toBe('diverged')
        expect([...fast.table]).toEqual([...plain.table])
      }
    },
  )

  it('is used where it pays, and nobody looks into the run', () => {
    const world = new World(LAYOUTS.Few)
    const long = { ...BRIEF, episodes: 10_000 }
    expect(createDynaQ(world, long, 'results').constructor).not.toBe(DynaQ)
    expect(createDynaQ(world, { ...BRIEF, episodes: 10, planning: 0 }, 'results').constructor).toBe(DynaQ)
    expect(createDynaQ(world, long).constructor).toBe(DynaQ)
    const softmax = { ...long, exploration: { way: 'softmax', level: constant(1) } } as const
    expect(createDynaQ(world, softmax, 'results').constructor).toBe(DynaQ)
  })
})
