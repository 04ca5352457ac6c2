import { describe, expect, it } from 'vitest'
import type { LearnSettings } from '../../../../settings/settings'
import { BRIEF, chancyGrid, manyOutcomes } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import type { Model } from '../../../../model/model'
import { constant } from '../../../schedule'
import { World } from '../../../world'
import { ActorCritic } from '../actor-critic'
import { TraceActorCritic } from '../trace-actor-critic'
import {
  createActorCritic,
  createTraceActorCritic,
  fastActorCritic,
  fastTraceActorCritic,
} from './fast-actor-critic'

/** By how the kernel lays out what it draws from. */
const LAYOUTS = { Four: chancyGrid(), Few: randomModel(4, 8).model, Many: manyOutcomes() }
const MODELS: Record<string, Model> = {
  ...LAYOUTS,
  'many starts': gridModel(['......', '......'], { endings: [{ at: 'F2', reward: 3, name: '' }] }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'equal weights, temperature, random preferences': {
    weighting: 'equal',
    temperature: 0.4,
    start: { kind: 'random', spread: 2 },
  },
  'rates by visits': {
    learningRate: { kind: 'visits', from: 0.5, slowness: 20 },
    criticRate: { kind: 'visits', from: 0.9, slowness: 7 },
  },
  'a rate by episode': { learningRate: { kind: 'linear', from: 1, to: 0.1, over: 120, per: 'episode' } },
  'a rate that reaches its end in step 65': {
    learningRate: { kind: 'linear', from: 1, to: 0.1, over: 65, per: 'step' },
  },
  'a rate so large that some probabilities are 0': { learningRate: constant(60), temperature: 0.05 },
  'a stop by mean return': { stop: { kind: 'mean-return', atLeast: -2, over: 30 } },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
  'replacing traces that fade fast': { traces: 'replacing', lambda: 0.3 },
  'traces that hardly fade': { lambda: 0.99 },
}

/** The kernel’s learner, the plain one, which of them is chosen, and what they have besides preferences. */
const WITHOUT = {
  fastOf: fastActorCritic,
  Plain: ActorCritic,
  create: createActorCritic,
  tables: ['critic'],
}
const WITH_TRACES = {
  fastOf: fastTraceActorCritic,
  Plain: TraceActorCritic,
  create: createTraceActorCritic,
  tables: ['critic', 'traces', 'traceCells', 'traceCount', 'rowTraces', 'traced', 'tracedCount'],
}

function bothOf(
  { fastOf, Plain }: typeof WITHOUT | typeof WITH_TRACES,
  model: Model,
  settings: Partial<LearnSettings>,
  keeps: 'results' | 'visits' = 'results',
) {
  const all = { ...BRIEF, cap: 14, learningRate: constant(0.1), criticRate: constant(0.2), ...settings }
  const fast = fastOf(new World(model), all, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new Plain(new World(model), all) }
}

describe.each([
  ['the actor-critic', WITHOUT],
  ['the actor-critic with traces', WITH_TRACES],
] as const)('the kernel of %s', (_name, kind) => {
  const { Plain, create, tables } = kind
  const both = (...rest: [Model, Partial<LearnSettings>, ('results' | 'visits')?]) => bothOf(kind, ...rest)

  it.each(Object.keys(SETTINGS))('learns the same to the last bit: %s', (name) => {
    for (const model of Object.values(MODELS))
      for (const keeps of ['results', 'visits'] as const) {
        const { fast, plain } = both(model, SETTINGS[name], keeps)
        const shared = { visits: keeps === 'visits', tables }
        expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
        expect(fast.working(fast.last.state)).toBeUndefined()
      }
  })

  it('goes on from a snapshot of the plain learner', () => {
    const { fast, plain } = both(LAYOUTS.Four, {})
    plain.advance(503)
    fast.restore(plain.snapshot())
    fast.advance(400)
    plain.advance(400)
    expect([...fast.table]).toEqual([...plain.table])
    expect([...fast.stateValues()!]).toEqual([...plain.stateValues()!])
  })

  it.each([
    ['preferences', { learningRate: constant(1e7) }],
    ['values', { criticRate: constant(4), discount: 1 }],
  ])('catches %s that run away as the plain learner does', (_, settings) => {
    for (const model of Object.values(LAYOUTS)) {
      const { fast, plain } = both(model, settings)
      expect(fast.advance(1e6)).toBe(plain.advance(1e6))
      expect(fast.status).toEqual(plain.status)
      expect([...fast.table]).toEqual([...plain.table])
      expect([...fast.stateValues()!]).toEqual([...plain.stateValues()!])
    }
  })

  it('is used where it pays, nobody looks into the run, and the settings are simple enough for it', () => {
    const world = new World(LAYOUTS.Four)
    const long: LearnSettings = { ...BRIEF, episodes: 10_000 }
    expect(create(world, long, 'results').constructor).not.toBe(Plain)
    expect(create(world, BRIEF, 'results').constructor).toBe(Plain)
    expect(create(world, long).constructor).toBe(Plain)
    for (const settings of [
      { ...long, entropy: 0.1 },
      { ...long, normLimit: 1 },
      { ...long, criticRate: { kind: 'linear', from: 1, to: 0.1, over: 65, per: 'step' } as const },
      { ...long, stepRule: { kind: 'momentum', keep: 0.5 } as const },
    ])
      expect(create(world, settings, 'results').constructor).toBe(Plain)
  })
})
