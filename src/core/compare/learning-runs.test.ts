import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import loans from '../../../demo/loans-of-the-season.json' with { type: 'json' }
import { compileEnvironment } from '../environment/compile'
import { documentOfRun } from '../environment/problem-of-run'
import { checkEnvironment } from '../environment/document'
import { createLearner } from '../learn/methods/learners'
import { constant } from '../learn/schedule'
import { World } from '../learn/world'
import { settingsOf, type LearnChoice } from '../settings/choice'
import { LEARN_DEFAULTS } from '../settings/settings'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { startValue } from '../model/model'
import { evaluatePolicy } from '../plan/evaluate'
import type { Followed } from './followed'
import { answers, episodesPerPoint, lastEpisodes, LearningRuns } from './learning-runs'
import { decodeRuns, encodeRuns } from './runs-text'

const { policy: _policy, ...DEFAULTS } = LEARN_DEFAULTS
const choice = (part: Partial<LearnChoice> = {}): LearnChoice => ({
  ...DEFAULTS,
  method: 'sarsa',
  source: 'equiprobable',
  discount: 0.98,
  cap: 50,
  ...part,
})
const BEAM = checkEnvironment(alarmBeam)

describe('a run', () => {
  it.each([
    [150, 1],
    [1000, 5],
    [1001, 6],
  ])('of %s episodes is that of the learner, %s episodes a point', (episodes, bin) => {
    const settings = choice({ episodes, exploration: { way: 'epsilon-greedy', level: constant(0.2) } })
    const run = new LearningRuns({ document: BEAM, choice: settings }).play(3)
    const learner = createLearner('sarsa', new World(compileEnvironment(BEAM).model), {
      ...settingsOf(settings, () => null),
      run: 3,
    })
    while (learner.advance(10_000) > 0);
    expect(episodesPerPoint(episodes)).toBe(bin)
    const ends = lastEpisodes(episodes)
    expect(ends.at(-1)).toBe(episodes)
    ends.forEach((end, i) => {
      const from = i * bin
      const mean = (numbers: ArrayLike<number>) => {
        let sum = 0
        for (let k = from; k < end; k++)
          sum += Math.abs(numbers[k]) * Math.sign(numbers === learner.log.lengths ? 1 : numbers[k])
        return sum / (end - from)
      }
      expect(run.curves.return[i]).toBeCloseTo(mean(learner.log.returns), 9)
      expect(run.curves.length[i]).toBeCloseTo(mean(learner.log.lengths), 9)
    })
    expect(run.steps).toBe(learner.steps)
    expect(run.mean).toBeCloseTo(learner.log.rollingMean(episodes - 1, episodes), 9)
  })

  it('that a stop rule ends has no points after it', () => {
    const settings = choice({ episodes: 100, stop: { kind: 'steps', count: 60 } })
    const run = new LearningRuns({ document: BEAM, choice: settings }).play(0)
    expect(run.outcome).toBe('stopped')
    expect(run.curves.return.at(-1)).toBeNaN()
    expect(run.curves.return.some((value) => !Number.isNaN(value))).toBe(true)
  })

  it('meets a problem of its own where the environment is drawn anew', () => {
    const document = checkEnvironment(loans)
    const settings = choice({ method: 'bandit-values', episodes: 200, discount: 1 })
    const runs = new LearningRuns({ document, choice: settings })
    const drawn = compileEnvironment(documentOfRun(document, settings.seed, 4)).model
    const learner = createLearner('bandit-values', new World(drawn), {
      ...settingsOf(settings, () => null),
      run: 4,
    })
    while (learner.advance(1000) > 0);
    runs.play(2)
    expect(runs.play(4).mean).toBeCloseTo(learner.log.rollingMean(199, 200), 12)
  })

  it('has no exact value where its policy may never end', () => {
    const document = {
      ...rulebookEnvironment(
        'round',
        'state a from 0 to 1\nstart a = 0\naction stay\naction go\nreward if action = stay then 1 else 0\nnext a = if action = go then 1 else 0\nend when a = 1',
      ),
      discount: 1,
    }
    const run = new LearningRuns({ document, choice: choice({ discount: 1, cap: 5, episodes: 200 }) }).play(0)
    expect(run.exact).toBeNull()
    expect(Number.isFinite(run.mean)).toBe(true)
  })
})

describe('what is asked of a run', () => {
  const settings = choice({
    episodes: 450,
    exploration: {
      way: 'epsilon-greedy',
      level: { kind: 'linear', from: 1, to: 0, over: 450, per: 'episode' },
    },
  })
  const asked = ['plain', 'success', 'greedy', 'level', 'rate']
  const document = { ...BEAM, discount: 1 }

  it('changes nothing about it, and every number is that of the learner at that moment', () => {
    const plain = new LearningRuns({ document, choice: settings }).play(2)
    const run = new LearningRuns({ document, choice: settings, ask: { measures: asked, trials: 0 } }).play(2)
    for (const id of ['return', 'length', 'steps']) expect(run.curves[id]).toEqual(plain.curves[id])
    expect(run.exact).toBe(plain.exact)
    const { model } = compileEnvironment(document)
    const world = new World(model)
    const learner = createLearner('sarsa', world, { ...settingsOf(settings, () => null), run: 2 })
    const ends = lastEpisodes(450)
    let begin = 0
    ends.forEach((end, i) => {
      let sum = 0
      let good = 0
      while (learner.log.count < end) {
        learner.advance(1)
        sum += learner.last.reward
        // The only endings that pay are those with a positive reward.
        if (learner.last.ended === 'ending' && learner.last.reward > 0) good++
      }
      expect(run.curves.plain[i]).toBeCloseTo(sum / (end - begin), 9)
      expect(run.curves.success[i]).toBeCloseTo(good / (end - begin), 12)
      expect(run.curves.steps[i]).toBe(learner.steps)
      expect(run.curves.level[i]).toBe(learner.level)
      const exact = evaluatePolicy(model, world.toModelRows(learner.policy()), settings.discount)
      if (exact.outcome === 'solved') expect(run.curves.greedy[i]).toBe(startValue(model, exact.values))
      else expect(run.curves.greedy[i]).toBeNaN()
      begin = end
    })
    expect(run.curves.greedy.at(-1)).toBe(run.exact)
  })

  it('are measures of the environment, as they are counted in its rules', () => {
    const environment = rulebookEnvironment(
      'steps',
      'state a from 0 to 3\nstart a = 0\naction go\nreward 1\nnext a = min(a + 1, 3)\nend when a = 3\nmeasure paces = 2',
    )
    const once = choice({ episodes: 5, discount: 1 })
    const run = new LearningRuns({
      document: environment,
      choice: once,
      ask: { measures: ['measure paces'], trials: 7 },
    }).play(0)
    expect([...run.curves['measure paces']]).toEqual([6, 6, 6, 6, 6])
    expect(run.trials).toEqual({
      episodes: 7,
      mean: 3,
      success: null,
      length: 3,
      cutOff: 0,
      measures: { paces: 6 },
    })
    expect(answers(run, { measures: ['measure paces'], trials: 7 })).toBe(true)
    expect(answers(run, { measures: ['greedy'], trials: 0 })).toBe(false)
    expect(answers(run, { measures: [], trials: 8 })).toBe(false)
  })

  it('is regret that grows, and the share of best pulls', () => {
    const loan = checkEnvironment(loans)
    const run = new LearningRuns({
      document: loan,
      choice: choice({ method: 'bandit-values', episodes: 300, discount: 1 }),
      ask: { measures: ['best', 'regret'], trials: 0 },
    }).play(1)
    const { regret, best } = run.curves
    for (let i = 1; i < regret.length; i++) expect(regret[i]).toBeGreaterThanOrEqual(regret[i - 1])
    // Whoever pulled a best arm has no more regret than before; there are two pulls a point.
    regret.forEach((value, i) => {
      if (i > 0) expect(best[i] === 1).toBe(value === regret[i - 1])
    })
    const [first] = best
    expect([0, 0.5, 1]).toContain(first)
  })
})

describe('a policy that does not learn', () => {
  const settings = choice({ episodes: 4000, discount: 0.9, cap: 500 })
  const play = (follows: Followed, run = 0) =>
    new LearningRuns({ document: BEAM, choice: settings, follows }).play(run)

  it('earns what its exact value says, and the best earns the optimum', () => {
    const random = play({ kind: 'random' })
    const errors = Math.sqrt(random.curves.return.reduce((sum, x) => sum + (x - random.exact!) ** 2, 0)) / 200
    expect(Math.abs(random.mean - random.exact!)).toBeLessThan(4 * errors)
    expect(random.exact).toBe(random.random)
    const best = play({ kind: 'optimum' })
    expect(best.exact).toBeCloseTo(best.optimum!, 9)
    expect(best.optimum!).toBeGreaterThan(random.exact!)
  })

  it('meets the chance that a learner of the same run meets', () => {
    const document = rulebookEnvironment(
      'coin',
      'state a from 0 to 1\nstart a = 0\naction go\nchance c ~ pick(yes: 0.5, no: rest)\nreward 1 when c\nnext a = 1\nend when a = 1',
    )
    const short = choice({ episodes: 50 })
    const learns = new LearningRuns({ document, choice: short }).play(3)
    const follows = new LearningRuns({ document, choice: short, follows: { kind: 'random' } }).play(3)
    expect(follows.curves.return).toEqual(learns.curves.return)
    expect(follows.curves.steps).toEqual(learns.curves.steps)
  })

  it('is stopped after so many steps', () => {
    const run = new LearningRuns({
      document: BEAM,
      choice: choice({ episodes: 100, stop: { kind: 'steps', count: 60 } }),
      follows: { kind: 'random' },
    }).play(0)
    expect(run).toMatchObject({ outcome: 'stopped', steps: 60 })
  })
})

it('runs are the same bits after they were written and read', () => {
  const runs = new LearningRuns({
    document: BEAM,
    choice: choice({ episodes: 100, stop: { kind: 'steps', count: 60 } }),
    ask: { measures: ['greedy'], trials: 3 },
  })
  const played = [runs.play(0), runs.play(1)]
  expect(decodeRuns(encodeRuns(played))).toEqual(played)
  expect(decodeRuns('[]')).toEqual([])
})
