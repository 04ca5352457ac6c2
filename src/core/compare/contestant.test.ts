import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { checkEnvironment } from '../environment/document'
import { constant } from '../learn/schedule'
import { ProblemError } from '../problem'
import type { LearnChoice } from '../settings/choice'
import { LEARN_DEFAULTS } from '../settings/settings'
import { contestantNames, documentFor, type Contestant } from './contestant'

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

  it('say what differs of settings that are seldom changed', () => {
    expect(contestantNames([contestant(0), contestant(1, { ties: 'first' })])).toEqual([
      'SARSA, tie-breaking random',
      'SARSA, tie-breaking the first',
    ])
  })

  it('tell knobs, and equal ones by a number', () => {
    expect(contestantNames([contestant(0), contestant(1, {}, { veer: 0.1 }), contestant(2)])).toEqual([
      'SARSA',
      'SARSA, veer 0.1',
      'SARSA (2)',
    ])
    expect(contestantNames([contestant(1, {}, { veer: 0.1 })])).toEqual(['SARSA, veer 0.1'])
  })

  it('tell policies that do not learn, and other environments', () => {
    expect(
      contestantNames([
        { ...contestant(0), follows: { kind: 'random' } },
        { ...contestant(1), follows: { kind: 'action', action: 'north' } },
        {
          ...contestant(2, { learningRate: constant(0.5) }),
          environment: { ...BEAM, name: 'Beam without alarm' },
        },
      ]),
    ).toEqual(['random agent', 'always north', 'SARSA, Beam without alarm'])
  })
})

describe('the environment of a contestant', () => {
  it('is the document itself, with knobs turned where they are', () => {
    expect(documentFor(BEAM, contestant(0))).toBe(BEAM)
    const turned = documentFor(BEAM, contestant(0, {}, { veer: 0.3 }))
    expect(turned).toMatchObject({ grid: { veer: 0.3 } })
    expect(BEAM).not.toMatchObject({ grid: { veer: 0.3 } })
    // The same turn is the same document: it is compiled once.
    expect(documentFor(BEAM, contestant(5, {}, { veer: 0.3 }))).toBe(turned)
  })

  it('may be one of its own', () => {
    const environment = { ...BEAM, cap: 7 }
    expect(documentFor(BEAM, { ...contestant(0), environment })).toBe(environment)
    expect(documentFor(BEAM, { ...contestant(0, {}, { veer: 0.3 }), environment })).toMatchObject({
      cap: 7,
      grid: { veer: 0.3 },
    })
  })

  it('names knobs that are gone or out of range', () => {
    for (const knobs of [{ nothing: 1 }, { veer: 7 }] as Contestant['knobs'][])
      expect(() => documentFor(BEAM, { knobs })).toThrow(ProblemError)
  })
})
