import { describe, expect, it } from 'vitest'
import { BRIEF, chancyGrid } from '../../../../testing/learning'
import { gridModel, randomModel } from '../../../../testing/models'
import { courseOf } from '../../../../testing/same-bits'
import type { Keeping } from '../../../learner'
import type { LearnSettings } from '../../../../settings/settings'
import { constant, type Schedule } from '../../../schedule'
import { World } from '../../../world'
import { Reinforce } from '../reinforce'
import { createReinforce, fastReinforce } from './fast-reinforce'

const fall = (per: 'episode' | 'step', over: number): Schedule => ({
  kind: 'linear',
  from: 0.2,
  to: 0.01,
  over,
  per,
})
const MODELS = {
  'a chancy grid': chancyGrid(),
  // Odd numbers of actions too.
  'a random model': randomModel(4, 8).model,
  'many starts, nine actions': gridModel(['......', '......'], {
    endings: [{ at: 'F2', reward: 3, name: '' }],
    moves: 8,
    stay: true,
  }),
}
const SETTINGS: Record<string, Partial<LearnSettings>> = {
  plain: {},
  'equal weights, a mean baseline': { weighting: 'equal', baseline: { kind: 'mean' } },
  'a constant baseline, temperature, random preferences': {
    baseline: { kind: 'constant', value: -3 },
    temperature: 0.4,
    start: { kind: 'random', spread: 2 },
  },
  'a rate by visits': { learningRate: { kind: 'visits', from: 0.5, slowness: 20 } },
  'a rate by episode': { learningRate: fall('episode', 120) },
  'a rate by step': { learningRate: fall('step', 700) },
  'a rate that reaches its end in step 65': { learningRate: fall('step', 65) },
  'a rate so large that some probabilities are 0': { learningRate: constant(60), temperature: 0.05 },
  'a stop by mean return': { stop: { kind: 'mean-return', atLeast: -2, over: 30 } },
  'a stop by steps': { stop: { kind: 'steps', count: 777 } },
}

function both(
  model: (typeof MODELS)[keyof typeof MODELS],
  settings: Partial<LearnSettings>,
  keeps?: Keeping,
) {
  const all = { ...BRIEF, cap: 14, learningRate: constant(0.05), ...settings }
  const fast = fastReinforce(new World(model), all, keeps)
  if (!fast) throw new Error('no WebAssembly')
  return { fast, plain: new Reinforce(new World(model), all) }
}

describe('the kernel of REINFORCE', () => {
  it.each(Object.keys(SETTINGS))('gives the bits of the plain learner: %s', (name) => {
    for (const model of Object.values(MODELS)) {
      const { fast, plain } = both(model, SETTINGS[name])
      // Chunks of any size, so that single steps and many change places.
      for (const chunk of [64, 100, 5, 64, 1, 333, 1000, 7, 100_000]) {
        expect(fast.advance(chunk)).toBe(plain.advance(chunk))
        expect([...fast.table]).toEqual([...plain.table])
        expect([...fast.policy()]).toEqual([...plain.policy()])
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
        const changed = ({ changes }: Reinforce) => [
          changes.count,
          [...changes.cells.subarray(0, changes.count)],
          [...changes.before.subarray(0, changes.count)],
        ]
        expect(changed(fast)).toEqual(changed(plain))
        for (let observation = 0; observation < model.observations; observation++)
          expect(fast.working(observation)).toEqual(plain.working(observation))
        expect(fast.snapshot()).toEqual(plain.snapshot())
      }
      expect([...fast.log.returns]).toEqual([...plain.log.returns])
      expect([...fast.log.lengths]).toEqual([...plain.log.lengths])
    }
  })

  it.each(Object.keys(SETTINGS))('learns the same to the last bit without workings: %s', (name) => {
    for (const model of Object.values(MODELS))
      for (const keeps of ['results', 'visits'] as const) {
        const { fast, plain } = both(model, SETTINGS[name], keeps)
        const shared = { visits: keeps === 'visits' }
        expect(courseOf(fast, shared)).toEqual(courseOf(plain, shared))
        expect(fast.working(fast.last.state)).toBeUndefined()
      }
  })

  it('goes on from a snapshot of the plain learner, and the other way round, within an episode too', () => {
    const { fast, plain } = both(MODELS['a chancy grid'], { baseline: { kind: 'mean' } })
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

  it('catches preferences that diverge as the plain learner does', () => {
    const { fast, plain } = both(MODELS['a chancy grid'], {
      learningRate: constant(1e7),
      baseline: { kind: 'mean' },
    })
    expect(fast.advance(1e6)).toBe(plain.advance(1e6))
    expect(fast.status.outcome).toBe('diverged')
    expect(fast.status).toEqual(plain.status)
    expect(fast.snapshot()).toEqual(plain.snapshot())
  })

  it('notes its updates where they are asked for', () => {
    const { fast, plain } = both(MODELS['a chancy grid'], {})
    for (const learner of [fast, plain]) {
      learner.notes = []
      learner.advance(1000)
    }
    expect(fast.notes).toEqual(plain.notes)
    expect(fast.notes!.length).toBeGreaterThan(900)
  })

  it('is used where it pays, and where the settings are simple enough for it', () => {
    const world = new World(chancyGrid())
    const long: LearnSettings = { ...BRIEF, episodes: 10_000 }
    expect(createReinforce(world, long).constructor).not.toBe(Reinforce)
    for (const settings of [
      BRIEF,
      { ...long, entropy: 0.1 },
      { ...long, normLimit: 1 },
      { ...long, baseline: { kind: 'learned' } as const },
      { ...long, stepRule: { kind: 'momentum', keep: 0.5 } as const },
    ])
      expect(createReinforce(world, settings).constructor).toBe(Reinforce)
  })
})
