import { createPlanner } from '../plan/planners'
import { createLearner } from './methods/learners'
import { choiceSchema } from '../settings/choice-schema'
import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { readEnvironment } from '../environment/read'
import { startValue } from '../model/model'
import { evaluatePolicy } from '../plan/evaluate'
import { defaultPlanMethod } from '../plan/plan-methods'
import { PLAN_DEFAULTS } from '../plan/plan-settings'
import { learnMethod } from './methods/methods'
import { LEARN_PRESETS, type LearnPreset } from './presets'
import { constant } from './schedule'
import { capFor, LEARN_DEFAULTS, type LearnSettings } from '../settings/settings'
import { type LearnChoice } from '../settings/choice'
import { World } from './world'

const RUNS = 5
const DEMOS = readdirSync('demo').filter((file) => file.endsWith('.json'))

function opened(file: string) {
  const document = readEnvironment(readFileSync(`demo/${file}`, 'utf8'), '')
  const { model } = compileEnvironment(document)
  const worth = (policy: Float64Array) => {
    const result = evaluatePolicy(model, policy, document.discount)
    return result.outcome === 'solved' ? startValue(model, result.values) : -Infinity
  }
  const learn = (
    settings: Partial<LearnSettings>,
    run = 0,
    method = document.learning?.method ?? 'q-learning',
  ) => {
    const learner = createLearner(method, new World(model), {
      ...LEARN_DEFAULTS,
      learningRate: learnMethod(method).defaultLearningRate,
      discount: document.discount,
      cap: capFor(document.cap),
      ...settings,
      run,
    })
    while (learner.advance(1_000_000) > 0);
    return { learner, worth: worth(learner.world.toModelRows(learner.policy())) }
  }
  const optimum = () => {
    const planner = createPlanner(defaultPlanMethod(model), model, {
      ...PLAN_DEFAULTS,
      discount: document.discount,
    })
    while (planner.status.outcome === 'running') planner.sweep()
    return startValue(model, planner.values)
  }
  return { document, model, learn, optimum }
}

/** What the suggested settings come to where the optimum cannot be learned. */
const ELSEWHERE: Record<string, (worth: number) => void> = {
  // The agent sees colours, not doors: planning gets 16.7, the best it can do is a little over 2, most policies -189.
  'same-looking-doors.json': (worth) => expect(worth).toBeGreaterThan(1.5),
  // The tips drift, and the agent does not see how: the best arm over all is worth 1.32.
  'audio-guide-tip.json': (worth) => expect(worth).toBeCloseTo(1.32, 1),
  // These are not to learn as they stand: Findings say why. The optima are 5.99 and 8.56.
  'lamp-at-the-wall.json': (worth) => expect(worth).toBeLessThan(1),
  'trolley-on-the-ramp.json': (worth) => expect(worth).toBeLessThan(7),
}

describe.each(DEMOS)('the settings suggested for %s', (file) => {
  it('find what can be found, in the middle of five runs', () => {
    const { document, learn, optimum } = opened(file)
    const { method: _method, source: _source, ...settings } = document.learning ?? {}
    expect(document.learning).toBeDefined()
    const worths = Array.from({ length: RUNS }, (_, run) => learn(settings, run).worth).sort((x, y) => x - y)
    const middle = worths[RUNS >> 1]
    const best = optimum()
    if (ELSEWHERE[file]) ELSEWHERE[file](middle)
    else expect(best - middle).toBeLessThan(0.02 * Math.max(0.25, Math.abs(best)))
  })
})

describe.each(Object.entries<LearnPreset>(LEARN_PRESETS))('the preset %s', (_, preset) => {
  it('asks for settings that there are, and learns without running away', () => {
    const { document, learn } = opened('night-rounds.json')
    for (const method of ['q-learning', 'reinforce', 'td-lambda', 'prioritised-sweeping'] as const) {
      const asked = preset.apply({
        ...LEARN_DEFAULTS,
        method,
        source: 'equiprobable',
        learningRate: learnMethod(method).defaultLearningRate,
        discount: document.discount,
        cap: document.cap,
        episodes: 300,
      } as LearnChoice)
      expect(choiceSchema.validate(asked, { convert: false }).error).toBeUndefined()
      const { learner } = learn({ ...asked, episodes: 300 }, 0, method)
      expect(learner.status.outcome).toBe('done')
    }
  })
})

it('beside the beams, SARSA collects more while it explores, and Q-learning knows the shorter way', () => {
  const { learn, optimum } = opened('alarm-beam.json')
  const settings = {
    episodes: 3000,
    learningRate: constant(0.1),
    exploration: { way: 'epsilon-greedy', level: constant(0.1) },
  } as const
  const runs = (method: 'q-learning' | 'sarsa') =>
    Array.from({ length: 20 }, (_, run) => {
      const { learner, worth } = learn(settings, run, method)
      return { collected: learner.log.rollingMean(2999, 1000), worth }
    })
  const [q, sarsa] = [runs('q-learning'), runs('sarsa')]
  const mean = (list: number[]) => list.reduce((sum, x) => sum + x, 0) / list.length
  const spread = (list: number[]) => mean(list.map((x) => (x - mean(list)) ** 2)) / list.length
  const collected = [q, sarsa].map((each) => each.map((run) => run.collected))
  // Five standard errors of the difference of two means of twenty runs.
  const error = Math.sqrt(spread(collected[0]) + spread(collected[1]))
  expect(mean(collected[1]) - mean(collected[0])).toBeGreaterThan(5 * error)
  const best = optimum()
  const found = (list: typeof q) => list.filter(({ worth }) => worth > best - 0.01).length
  expect(found(q)).toBeGreaterThanOrEqual(19)
  expect(found(sarsa)).toBeLessThanOrEqual(5)
})
