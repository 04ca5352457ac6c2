import { describe, expect, it } from 'vitest'
import type { LearnSettings } from '../../../../settings/settings'
import { BRIEF, chancyGrid, exploring, manyOutcomes } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import type { Model } from '../../../../model/model'
import { constant } from '../../../schedule'
import { World } from '../../../world'
import { TraceControl } from '../trace-control'
import { createTraceControl, fastTraceControl } from './fast-trace-control'

/** By how the kernel lays out what it draws from. */
const LAYOUTS = { Four: chancyGrid(), Few: randomModel(4, 8).model, Many: manyOutcomes() }
const MODELS: Record<string, Model> = {
  ...LAYOUTS,
  'many starts': gridModel(['......', '......'], { endings: [{ at: 'F2', reward: 3, name: '' }] }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'first of equals, optimistic': { ties: 'first', start: { kind: 'constant', value: 4 } },
  'by visits': { learningRate: { kind: 'visits', from: 0.9, slowness: 7 } },
  'exploration by episode, rate by step': {
    exploration: {
      way: 'epsilon-greedy',
      level: { kind: 'linear', from: 1, to: 0.1, over: 120, per: 'episode' },
    },
    learningRate: { kind: 'linear', from: 1, to: 0.1, over: 65, per: 'step' },
  },
  'replacing traces': { traces: 'replacing', lambda: 1 },
  'accumulating traces, undiscounted': { traces: 'accumulating', discount: 1, learningRate: constant(0.02) },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
}

function both(
  model: Model,
  settings: Partial<LearnSettings>,
  offPolicy: boolean,
  keeps: 'results' | 'visits' = 'results',
) {
  const all = { ...BRIEF, cap: 14, lambda: 0.8, ...settings }
  const fast = fastTraceControl(new World(model), all, offPolicy, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new TraceControl(new World(model), all, offPolicy) }
}

describe.each([
  ['SARSA(λ)', false],
  ['Q(λ)', true],
] as const)('the kernel of %s', (_, offPolicy) => {
  it.each(Object.keys(SETTINGS))('learns the same to the last bit: %s', (name) => {
    for (const model of Object.values(MODELS))
      for (const keeps of ['results', 'visits'] as const) {
        const { fast, plain } = both(model, SETTINGS[name], offPolicy, keeps)
        const shared = { visits: keeps === 'visits', tables: ['traces', 'traceCount'] }
        expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
        expect(fast.working(fast.last.state)).toBeUndefined()
      }
  })

  it('catches numbers that run away as the plain learner does', () => {
    for (const model of Object.values(LAYOUTS)) {
      const { fast, plain } = both(
        model,
        { learningRate: constant(2.9), exploration: exploring(0.5) },
        offPolicy,
      )
      expect(fast.advance(1e6)).toBe(plain.advance(1e6))
      expect(fast.status).toEqual(plain.status)
      expect(fast.status.outcome).toBe('diverged')
      for (const table of ['table', 'traces'])
        expect([...fast.snapshot().arrays[table]]).toEqual([...plain.snapshot().arrays[table]])
    }
  })

  it('begins with a table that is given, and goes on from a snapshot', () => {
    const { fast, plain } = both(LAYOUTS.Four, {}, offPolicy)
    const given = plain.table.map((_, row) => Math.sin(row))
    for (const learner of [fast, plain]) {
      learner.begin(given)
      learner.advance(503)
    }
    const then = fast.snapshot()
    fast.advance(400)
    plain.advance(400)
    expect([...fast.table]).toEqual([...plain.table])
    fast.restore(then)
    fast.advance(400)
    expect([...fast.table]).toEqual([...plain.table])
  })

  it('is used where it pays, and nobody looks into the run', () => {
    const world = new World(LAYOUTS.Four)
    const long = { ...BRIEF, episodes: 10_000 }
    expect(createTraceControl(world, long, offPolicy, 'results').constructor).not.toBe(TraceControl)
    expect(createTraceControl(world, BRIEF, offPolicy, 'results').constructor).toBe(TraceControl)
    expect(createTraceControl(world, long, offPolicy).constructor).toBe(TraceControl)
    const softmax: LearnSettings = { ...long, exploration: { way: 'softmax', level: constant(1) } }
    expect(createTraceControl(world, softmax, offPolicy, 'results').constructor).toBe(TraceControl)
  })
})
