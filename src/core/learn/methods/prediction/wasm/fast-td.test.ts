import { describe, expect, it } from 'vitest'
import type { LearnSettings } from '../../../../settings/settings'
import { BRIEF, chancyGrid, manyOutcomes } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import type { Model } from '../../../../model/model'
import { constant } from '../../../schedule'
import { World } from '../../../world'
import { rowDrawsOf } from '../../value/wasm/row-draws'
import { TdPrediction } from '../td'
import { createTd, fastTd } from './fast-td'

/** By how the kernel lays out what it draws from. */
const LAYOUTS = { Four: chancyGrid(), Few: randomModel(4, 8).model, Many: manyOutcomes() }
const MODELS: Record<string, Model> = {
  ...LAYOUTS,
  'many starts': gridModel(['......', '......'], { endings: [{ at: 'F2', reward: 3, name: '' }] }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'by visits, from random values': {
    learningRate: { kind: 'visits', from: 0.9, slowness: 7 },
    start: { kind: 'random', spread: 2 },
  },
  'a rate by episode': { learningRate: { kind: 'linear', from: 1, to: 0.1, over: 120, per: 'episode' } },
  'a rate that reaches its end in step 65': {
    learningRate: { kind: 'linear', from: 1, to: 0.1, over: 65, per: 'step' },
  },
  'a stop by mean return': { stop: { kind: 'mean-return', atLeast: -2, over: 30 } },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
  'replacing traces': { traces: 'replacing' },
}
/** Every action with a chance, another one for each; the first one never. */
const uneven = (model: Model) => {
  const policy = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++) {
    const [from, end] = [model.rowStart[s], model.rowStart[s + 1]]
    const shares = Array.from({ length: end - from }, (_, k) => (end - from > 1 ? k : 1))
    const total = shares.reduce((sum, share) => sum + share, 0)
    shares.forEach((share, k) => (policy[from + k] = share / total))
  }
  return policy
}

function both(
  model: Model,
  settings: Partial<LearnSettings>,
  lambda: number,
  keeps: 'results' | 'visits' = 'results',
) {
  const all = { ...BRIEF, cap: 14, learningRate: constant(0.1), policy: uneven(model), ...settings }
  const fast = fastTd(new World(model), all, lambda, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new TdPrediction(new World(model), all, lambda) }
}

describe.each([0, 0.8])('the kernel of TD(%d)', (lambda) => {
  it.each(Object.keys(SETTINGS))('learns the same to the last bit: %s', (name) => {
    for (const model of Object.values(MODELS))
      for (const keeps of ['results', 'visits'] as const)
        for (const policy of [null, uneven(model)]) {
          const { fast, plain } = both(model, { ...SETTINGS[name], policy }, lambda, keeps)
          // Without traces the list of cells that have one is left alone: it is empty.
          const tables = ['traces', 'traceCount', ...(lambda > 0 ? ['traceCells'] : [])]
          const shared = { visits: keeps === 'visits', tables }
          expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
          expect(fast.working(fast.last.state)).toBeUndefined()
        }
  })

  it('goes on from a snapshot of the plain learner, and the other way round', () => {
    const { fast, plain } = both(LAYOUTS.Four, {}, lambda)
    plain.advance(503)
    fast.restore({ ...plain.snapshot(), arrays: { ...plain.snapshot().arrays, slots: new Float64Array(0) } })
    fast.advance(400)
    plain.advance(400)
    expect([...fast.table]).toEqual([...plain.table])
  })

  it('catches numbers that run away as the plain learner does', () => {
    for (const model of Object.values(LAYOUTS)) {
      const { fast, plain } = both(model, { learningRate: constant(3.5), discount: 1 }, lambda)
      expect(fast.advance(1e6)).toBe(plain.advance(1e6))
      expect(fast.status).toEqual(plain.status)
      expect([...fast.table]).toEqual([...plain.table])
    }
  })

  it('is used where it pays, and nobody looks into the run', () => {
    const world = new World(LAYOUTS.Four)
    const long = { ...BRIEF, episodes: 10_000 }
    expect(createTd(world, long, lambda, 'results').constructor).not.toBe(TdPrediction)
    expect(createTd(world, BRIEF, lambda, 'results').constructor).toBe(TdPrediction)
    expect(createTd(world, long, lambda).constructor).toBe(TdPrediction)
  })

  it('is tested on every layout', () => {
    for (const [layout, model] of Object.entries(LAYOUTS))
      expect(rowDrawsOf(new World(model))?.layout).toBe(layout)
  })
})
