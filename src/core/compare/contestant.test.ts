import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { checkEnvironment } from '../environment/document'
import { constant } from '../learn/schedule'
import { ProblemError } from '../problem'
import type { LearnChoice } from '../settings/choice'
import { LEARN_DEFAULTS } from '../settings/settings'
import { contestantNames, documentFor, sweepOf, type Contestant } from './contestant'

const BEAM = checkEnvironment(alarmBeam)
const { policy: _policy, ...DEFAULTS } = LEARN_DEFAULTS
const CHOICE: LearnChoice = {
  ...DEFAULTS,
  method: 'sarsa',
  source: 'equiprobable',
  discount: 0.98,
  cap: 200,
}
const contestant = (id: number, part: Partial<LearnChoice> = {}, knobs = {}): Contestant => ({
  id,
  knobs,
  choice: { ...CHOICE, ...part },
})

describe('the names of contestants', () => {
  it('say what differs among those of a method, and no more', () => {
    expect(
      contestantNames([
        contestant(0),
        contestant(1, { learningRate: constant(0.5) }),
        contestant(2, { method: 'q-learning' }),
      ]),
    ).toEqual(['SARSA, rate 0.1', 'SARSA, rate 0.5', 'Q-learning'])
  })

  it('tell knobs, and equal ones by a number', () => {
    expect(contestantNames([contestant(0), contestant(1, {}, { veer: 0.1 }), contestant(2)])).toEqual([
      'SARSA',
      'SARSA, veer 0.1',
      'SARSA (2)',
    ])
    expect(contestantNames([contestant(1, {}, { veer: 0.1 })])).toEqual(['SARSA, veer 0.1'])
  })
})

describe('a sweep', () => {
  it('tries a setting at each value that a contestant takes', () => {
    const swept = sweepOf(contestant(4), { varied: 'rate', from: 0.25, to: 4 })
    expect(swept.map(({ value }) => value)).toEqual([0.25, 0.5, 1])
    expect(swept.map(({ contestant: { id, choice } }) => [id, choice.learningRate])).toEqual(
      [0.25, 0.5, 1].map((rate) => [4, constant(rate)]),
    )
  })

  it('leaves out contestants without such a setting', () => {
    const searches = contestant(0, { method: 'hill-climbing' })
    expect(sweepOf(searches, { varied: 'level', from: 0.1, to: 0.4 })).toEqual([])
  })
})

describe('the environment of a contestant', () => {
  it('is the document itself, with knobs turned where they are', () => {
    expect(documentFor(BEAM, contestant(0))).toBe(BEAM)
    const turned = documentFor(BEAM, contestant(0, {}, { veer: 0.3 }))
    expect(turned).toMatchObject({ grid: { veer: 0.3 } })
    expect(BEAM).not.toMatchObject({ grid: { veer: 0.3 } })
  })

  it('names knobs that are gone or out of range', () => {
    for (const knobs of [{ nothing: 1 }, { veer: 7 }] as Contestant['knobs'][])
      expect(() => documentFor(BEAM, { knobs })).toThrow(ProblemError)
  })
})
