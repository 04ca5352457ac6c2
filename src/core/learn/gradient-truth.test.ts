import { describe, expect, it } from 'vitest'
import { evaluatePolicy } from '../plan/evaluate'
import { chancyGrid, newLearner } from '../testing/learning'
import { explainEpisode } from './episode-table'
import { episodeGradient, exactGradient, GradientMeasure, matchGradients } from './gradient-truth'
import { constant } from './schedule'
import { World } from './world'

const MODEL = chancyGrid()
const WORLD = new World(MODEL)
const SETTINGS = { discount: 0.9, temperature: 1, cap: 400, seed: 1, run: 0 }
const POLICY = Float64Array.from({ length: WORLD.tableRows }, () => 0.25)
const NONE = { baseline: null, critic: null }

describe('angles and lengths', () => {
  it('are those of geometry', () => {
    const match = (one: number[], other: number[]) =>
      matchGradients(Float64Array.from(one), Float64Array.from(other))
    expect(match([1, 0], [2, 0])).toEqual({ angle: 0, ratio: 0.5 })
    expect(match([0, 3], [1, 0]).angle).toBeCloseTo(90, 9)
    expect(match([-1, 0], [1, 0])).toEqual({ angle: 180, ratio: 1 })
    expect(match([1, 1], [1, 0]).angle).toBeCloseTo(45, 9)
    expect(match([0, 0], [1, 0])).toEqual({ angle: null, ratio: 0 })
    expect(match([1, 0], [0, 0])).toEqual({ angle: null, ratio: null })
  })
})

it('the gradient of an episode is what moved the preferences', () => {
  const learner = newLearner('reinforce', MODEL, { discount: 0.9, learningRate: constant(1e-8) })
  const table = explainEpisode(learner, Infinity)
  const gradient = episodeGradient(WORLD, table, 1)
  learner.table.forEach((moved, r) => expect(moved / 1e-8).toBeCloseTo(gradient[r], 4))
})

describe('many episodes of one policy', () => {
  const { values } = evaluatePolicy(MODEL, WORLD.toModelRows(POLICY), 0.9)
  const byObservation = new Float64Array(MODEL.observations)
  values.forEach((value, s) => (byObservation[MODEL.observation[s]] = value))

  it('have the exact gradient as their mean, however they are judged, if the critic is right', () => {
    const measure = GradientMeasure.of(WORLD, POLICY, SETTINGS, {
      baseline: Float64Array.from({ length: MODEL.observations }, () => -5),
      critic: byObservation,
    })!
    measure.advance(6000)
    const found = measure.summaries()
    expect(found.map(({ estimator }) => estimator)).toEqual(['returns', 'baseline', 'errors', 'exact'])
    const size = Math.hypot(...measure.exact.gradient)
    for (const { match, variance } of found) {
      // Off by the error of a mean: as an angle, and as a part of the length.
      const error = (5 * Math.sqrt(variance / 6000)) / size
      expect(match.angle!).toBeLessThan((error * 180) / Math.PI)
      expect(Math.abs(match.ratio! - 1)).toBeLessThan(error)
    }
    const variance = Object.fromEntries(found.map((each) => [each.estimator, each.variance]))
    expect(variance.exact).toBeLessThan(0.7 * variance.returns)
    // A critic that is right sees one step of chance only.
    expect(variance.errors).toBeLessThan(variance.exact)
    for (const { meanAngle } of found) expect(meanAngle!).toBeGreaterThan(5)
  })

  it('are off where the critic knows nothing yet', () => {
    const measure = GradientMeasure.of(WORLD, POLICY, SETTINGS, {
      baseline: null,
      critic: new Float64Array(MODEL.observations),
    })!
    measure.advance(4000)
    const [, errors] = measure.summaries()
    expect(errors.estimator).toBe('errors')
    // Rewards of single steps say little of what comes after them.
    expect(errors.match.ratio!).toBeLessThan(0.8)
  })

  it('are the same for the same seed, whatever they are cut into', () => {
    const [one, other] = [0, 1].map(() => GradientMeasure.of(WORLD, POLICY, SETTINGS, NONE)!)
    one.advance(50)
    for (let i = 0; i < 10; i++) other.advance(5)
    expect(other.summaries()).toEqual(one.summaries())
    expect(exactGradient(WORLD, POLICY, 0.9, 1)!.start).toBeCloseTo(one.exact.start, 12)
  })
})
