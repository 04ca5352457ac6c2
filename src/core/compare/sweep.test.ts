import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import cloakroom from '../../../demo/cloakroom-queue.json' with { type: 'json' }
import { checkEnvironment } from '../environment/document'
import { constant } from '../learn/schedule'
import type { LearnChoice } from '../settings/choice'
import { choiceIn } from '../settings/first-choice'
import { contestantNames, documentFor, type Contestant } from './contestant'
import {
  axisValues,
  checkAxis,
  firstValues,
  sweepOf,
  variedByFlag,
  variedIds,
  variedTitle,
  type Sweep,
} from './sweep'

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
  expect(['learning-rate', 'exploration', 'lambda', 'cap', 'veer'].map((name) => variedByFlag(name))).toEqual(
    ['rate', 'level', 'lambda', 'cap', 'knob veer'],
  )
})

describe('an option of the environment', () => {
  const CLOAKROOM = checkEnvironment(cloakroom)
  const agent: Contestant = { id: 0, knobs: {}, choice: choiceIn(CLOAKROOM, {}) }
  const IMPOSSIBLE = 'option impossible actions'

  it('is tried at its values, in the order in which they are written', () => {
    const swept = sweepOf(agent, over([IMPOSSIBLE, 'penalised by 5, forbidden,  clamped']), CLOAKROOM)
    expect(swept.map(({ values }) => values)).toEqual([['penalised by 5'], ['forbidden'], ['clamped']])
    const texts = swept.map((cell) => documentFor(CLOAKROOM, cell.contestant))
    // What is written already is the environment itself, so that its runs are the same ones.
    expect(texts[1]).toBe(documentFor(CLOAKROOM, swept[1].contestant))
    expect(
      texts.map((each) => (each.kind === 'rulebook' ? each.rulebook.text : '').match(/impossible.*/)?.[0]),
    ).toEqual([
      'impossible actions are penalised by 5',
      'impossible actions are forbidden',
      'impossible actions are clamped',
    ])
    expect(contestantNames(swept.map((cell) => cell.contestant))).toEqual([
      'Q-learning, impossible actions penalised by 5',
      'Q-learning, impossible actions forbidden',
      'Q-learning, impossible actions clamped',
    ])
  })

  it('goes with a knob as a map, and a grid with what the agent sees', () => {
    const swept = sweepOf(
      agent,
      over([IMPOSSIBLE, 'clamped, forbidden'], ['knob busy', '0.2, 0.8, 7']),
      CLOAKROOM,
    )
    expect(swept.map(({ values }) => values)).toEqual([
      ['clamped', 0.2],
      ['clamped', 0.8],
      ['forbidden', 0.2],
      ['forbidden', 0.8],
    ])
    const seen = cells(contestant(), over(['option the agent sees', 'its cell, what is around']))
    expect(
      seen
        .map((cell) => documentFor(BEAM, cell.contestant))
        .map((each) => each.kind === 'grid' && each.grid.sees),
    ).toEqual(['cell', 'around'])
  })

  it('is offered with its values, and by a flag with strokes', () => {
    expect(variedIds([agent], CLOAKROOM)).toContain(IMPOSSIBLE)
    expect(variedTitle(IMPOSSIBLE)).toBe('impossible actions')
    expect(firstValues(IMPOSSIBLE, [agent], CLOAKROOM)).toBe('forbidden, clamped, penalised by 1')
    expect(firstValues('rate', [agent], CLOAKROOM)).toBe('0.1..0.9/5')
    expect(variedByFlag('impossible-actions', CLOAKROOM)).toBe(IMPOSSIBLE)
    expect(variedByFlag('busy', CLOAKROOM)).toBe('knob busy')
  })

  it('refuses what is none of its values, and nothing at all', () => {
    const axis = (values: string) => ({ varied: IMPOSSIBLE, values })
    expect(() => checkAxis(axis('clamped, ignored'), [agent], CLOAKROOM)).toThrow(
      '“ignored” is none of its values. They are forbidden, clamped, penalised by 1; the number may be another one.',
    )
    expect(() => checkAxis(axis('forbidden, clamped'), [agent], CLOAKROOM)).not.toThrow()
    expect(() => checkAxis({ varied: 'rate', values: 'much' }, [agent], CLOAKROOM)).toThrow('much')
    expect(() => axisValues(axis(' , '))).toThrow('No value')
    expect(sweepOf(agent, over([IMPOSSIBLE, 'ignored']), CLOAKROOM)).toEqual([])
    expect(cells(contestant(), over([IMPOSSIBLE, 'clamped']))).toEqual([])
  })
})
