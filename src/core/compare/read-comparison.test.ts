import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { checkEnvironment } from '../environment/document'
import { constant } from '../learn/schedule'
import { ProblemError } from '../problem'
import { choiceIn } from '../settings/first-choice'
import { askOf, wantedContestants } from './asked-runs'
import { newComparison, type Comparison } from './comparison'
import { checkComparison, parseComparison } from './read-comparison'

const BEAM = checkEnvironment(alarmBeam)
const SMALLEST = { format: 'jaunty-pawn/comparison', version: 1, name: 'Two', contestants: [] }
const check = (part: object) => checkComparison({ ...SMALLEST, ...part }, BEAM)

describe('a comparison in a file', () => {
  it('needs no more than what is special about it', () => {
    const { contestants, runs, view } = check({
      contestants: [
        { choice: { method: 'sarsa' } },
        { follows: { kind: 'optimum' }, choice: { episodes: 5 } },
      ],
    })
    expect(contestants).toEqual([
      { id: 0, knobs: {}, choice: choiceIn(BEAM, { method: 'sarsa' }) },
      { id: 1, knobs: {}, follows: { kind: 'optimum' }, choice: choiceIn(BEAM, { episodes: 5 }) },
    ])
    expect(contestants[0].choice).toMatchObject({ discount: BEAM.discount, cap: BEAM.cap })
    expect(runs).toBe(30)
    expect(view.picture).toBe('curves')
  })

  it('is the same after it was written and read', () => {
    const comparison: Comparison = {
      ...newComparison('Rates'),
      note: 'Look at the beginning.',
      environment: BEAM,
      contestants: [
        { id: 3, knobs: { veer: 0.1 }, choice: choiceIn(BEAM, { learningRate: constant(0.5) }) },
        { id: 1, knobs: {}, choice: choiceIn(BEAM, {}), environment: { ...BEAM, cap: 5 } },
        {
          id: 2,
          knobs: {},
          choice: choiceIn(BEAM, {}),
          follows: { kind: 'drawn', drawing: { A1: 'north' } },
        },
      ],
      hidden: [1],
    }
    expect(parseComparison(JSON.stringify(comparison))).toEqual(comparison)
  })

  it.each<[object, string]>([
    [{ version: 2 }, 'version'],
    [{ contestants: [{ choice: { method: 'nothing' } }] }, 'contestants.0.choice.method'],
    [{ contestants: [{ follows: { kind: 'flying' } }] }, 'contestants.0.follows'],
    [{ contestants: [{ follows: { kind: 'table', checkpoint: {} } }] }, 'contestants.0.follows.checkpoint'],
    [{ contestants: [{ environment: { format: 'x' } }] }, 'contestants.0.environment'],
    [{ contestants: [{ id: 1 }, { id: 1 }] }, 'Two of them have the number 1'],
    [{ view: { measure: 'luck' } }, 'view.measure'],
    [{ view: { score: 'luck' } }, 'view.score'],
    [{ view: { sweep: { axes: [] } } }, 'view.sweep.axes'],
    [{ runs: 0 }, 'runs'],
    [{ anything: 1 }, 'anything'],
  ])('names what is wrong: %j', (part, place) => {
    expect(() => check(part)).toThrow(ProblemError)
    expect(() => check(part)).toThrow(place)
  })

  it('says when it has no environment to act in, and what is no JSON', () => {
    expect(() => checkComparison({ ...SMALLEST, contestants: [{}] })).toThrow('no environment')
    expect(() => parseComparison('{')).toThrow('not valid JSON')
  })
})

describe('what is asked of runs', () => {
  const { view } = newComparison('x')
  const ask = (part: Partial<typeof view>) => askOf({ view: { ...view, ...part }, trials: 40 })

  it('is what the picture and the score tell', () => {
    expect(ask({})).toEqual({ measures: [], trials: 0 })
    expect(ask({ measure: 'greedy', beneath: 'level' })).toEqual({ measures: ['greedy', 'level'], trials: 0 })
    expect(ask({ picture: 'spread', measure: 'greedy' })).toEqual({ measures: [], trials: 0 })
    expect(ask({ picture: 'spread', score: 'within-5' })).toEqual({ measures: ['greedy'], trials: 0 })
    expect(ask({ picture: 'trials' })).toEqual({ measures: [], trials: 40 })
    expect(ask({ score: 'success' })).toEqual({ measures: [], trials: 40 })
  })

  it('is asked of those that are shown', () => {
    const contestants = [0, 1, 2].map((id) => ({
      id,
      knobs: {},
      choice: choiceIn(BEAM, { method: 'sarsa' }),
    }))
    const of = (part: Partial<typeof view>) =>
      wantedContestants({ contestants, hidden: [1], view: { ...view, ...part } }, BEAM)
    expect(of({}).map(({ id }) => id)).toEqual([0, 2])
    expect(of({ picture: 'sweep', sweep: { axes: [{ varied: 'rate', values: '0.1, 0.2' }] } })).toHaveLength(
      4,
    )
  })
})
