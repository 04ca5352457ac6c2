import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { checkEnvironment } from '../environment/document'
import { constant } from '../learn/schedule'
import type { LearnChoice } from '../settings/choice'
import { choiceIn } from '../settings/first-choice'
import type { Contestant } from './contestant'
import { sweepOf, variedByFlag, variedIds, variedTitle, type Sweep } from './sweep'

const BEAM = checkEnvironment(alarmBeam)
const contestant = (part: Partial<LearnChoice> = {}): Contestant => ({
  id: 4,
  knobs: {},
  choice: choiceIn(BEAM, { method: 'sarsa', ...part }),
})
const over = (...axes: [string, string][]): Sweep =>
  ({ axes: axes.map(([varied, values]) => ({ varied, values })) }) as unknown as Sweep
const cells = (each: Contestant, sweep: Sweep) => sweepOf(each, sweep, BEAM)

describe('a sweep', () => {
  it('tries a setting at each value that a contestant takes', () => {
    const swept = cells(contestant(), over(['rate', '1/4..4*2']))
    expect(swept.map(({ values }) => values)).toEqual([[0.25], [0.5], [1]])
    expect(swept.map(({ contestant: { id, choice } }) => [id, choice.learningRate])).toEqual(
      [0.25, 0.5, 1].map((rate) => [4, constant(rate)]),
    )
  })

  it('tries numbers of a method, and whole ones only at whole values', () => {
    const swept = cells(contestant({ method: 'n-step-sarsa' }), over(['lookahead', '1, 2.5, 4']))
    expect(swept.map(({ contestant: { choice } }) => choice.lookahead)).toEqual([1, 4])
    expect(cells(contestant({ method: 'sarsa-lambda' }), over(['lambda', '0, 0.5, 2']))).toHaveLength(2)
  })

  it('turns knobs of the environment within their range', () => {
    const swept = cells(contestant(), over(['knob veer', '0, 0.2, 7']))
    expect(swept.map(({ contestant: { knobs } }) => knobs)).toEqual([{ veer: 0 }, { veer: 0.2 }])
  })

  it('takes two in all combinations', () => {
    const swept = cells(contestant(), over(['rate', '0.1, 0.2'], ['level', '0, 0.5']))
    expect(swept.map(({ values }) => values)).toEqual([
      [0.1, 0],
      [0.1, 0.5],
      [0.2, 0],
      [0.2, 0.5],
    ])
    expect(swept[2].contestant.choice).toMatchObject({
      learningRate: constant(0.2),
      exploration: { level: constant(0) },
    })
  })

  it('leaves out contestants without such a setting', () => {
    expect(cells(contestant({ method: 'hill-climbing' }), over(['level', '0.1..0.4*2']))).toEqual([])
    expect(cells(contestant(), over(['lambda', '0.5']))).toEqual([])
    const random: Contestant = { ...contestant(), follows: { kind: 'random' } }
    expect(cells(random, over(['rate', '0.5']))).toEqual([])
    expect(cells(random, over(['knob veer', '0.1']))).toHaveLength(1)
    expect(cells(contestant(), over(['knob nothing', '1']))).toEqual([])
  })

  it('has an end', () => {
    expect(() => cells(contestant(), over(['rate', '0.01..1/60'], ['level', '0..1/60']))).toThrow('3600')
  })
})

it('what can be varied is what some contestant has', () => {
  const ids = variedIds([contestant({ method: 'sarsa-lambda' })], BEAM)
  expect(ids).toEqual(
    expect.arrayContaining(['rate', 'level', 'start', 'lambda', 'discount', 'episodes', 'knob veer']),
  )
  expect(ids).not.toContain('planning')
  expect(ids).not.toContain('seed')
  expect(ids.map(variedTitle)).toEqual(expect.arrayContaining(['learning rate', 'λ', 'veer', 'step limit']))
})

it('flags of the command line name settings first, then knobs', () => {
  expect(['learning-rate', 'exploration', 'lambda', 'cap', 'veer'].map(variedByFlag)).toEqual([
    'rate',
    'level',
    'lambda',
    'cap',
    'knob veer',
  ])
})
