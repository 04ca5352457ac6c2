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
import { episodesPerPoint, lastEpisodes, LearningRuns } from './learning-runs'

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
