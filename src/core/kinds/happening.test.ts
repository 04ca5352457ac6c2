import { inspectionOf } from './inspections'
import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import { rowOf, type Model } from '../model/model'
import type { Happening } from './happening'
import type { EnvironmentDocument } from './kinds'

const DEMOS = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((name) => checkEnvironment(JSON.parse(readFileSync(`demo/${name}`, 'utf8'))))

const rules = (text: string): EnvironmentDocument =>
  checkEnvironment({
    format: 'jaunty-pawn/environment',
    version: 2,
    kind: 'rulebook',
    name: 'Rules',
    rulebook: { text, knobs: {} },
  })
const grid = (floor: string[], part: object): EnvironmentDocument =>
  checkEnvironment({
    format: 'jaunty-pawn/environment',
    version: 2,
    kind: 'grid',
    name: 'Grid',
    grid: { floor, ...part },
  })

/** The ways of an action in a state. */
function waysOf(document: EnvironmentDocument, state: string, action: string): readonly Happening[] {
  const compiled = compileEnvironment(document)
  const { model } = compiled
  const row = rowOf(model, model.labels.indexOf(state), model.actions.indexOf(action))
  return inspectionOf(document).happenings(document, compiled)(row)
}

const total = (ways: readonly Happening[]) =>
  new Map(
    [...new Set(ways.map(({ next }) => next))].map((next) => {
      const those = ways.filter((each) => each.next === next)
      const chance = those.reduce((sum, { probability }) => sum + probability, 0)
      const pay = those.reduce(
        (sum, { probability, parts }) =>
          sum + probability * parts.reduce((all, { amount }) => all + amount, 0),
        0,
      )
      return [next, { chance, pay: pay / chance }]
    }),
  )

function outcomesOf({ outcomeStart, outcomeState, outcomeProbability, outcomeReward }: Model, row: number) {
  const found = new Map<number, { chance: number; pay: number }>()
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
    const before = found.get(outcomeState[o]) ?? { chance: 0, pay: 0 }
    const chance = before.chance + outcomeProbability[o]
    found.set(outcomeState[o], {
      chance,
      pay: (before.chance * before.pay + outcomeProbability[o] * outcomeReward[o]) / chance,
    })
  }
  return found
}

describe('the ways in which steps can go', () => {
  it.each(DEMOS.map((document) => [document.name, document] as const))(
    'add up to the model: %s',
    (_, document) => {
      const compiled = compileEnvironment(document)
      const { model } = compiled
      const happenings = inspectionOf(document).happenings(document, compiled)
      const stride = Math.max(1, Math.floor(model.rows / 400))
      for (let row = 0; row < model.rows; row += stride) {
        const ways = total(happenings(row))
        const outcomes = outcomesOf(model, row)
        expect([...ways.values()].reduce((sum, { chance }) => sum + chance, 0)).toBeCloseTo(1, 9)
        // What passes by itself leads on to several states, which the model has and the step has not.
        if (ways.has(-1)) continue
        expect(ways.size).toBe(outcomes.size)
        for (const [next, { chance, pay }] of ways) {
          expect(outcomes.get(next)!.chance).toBeCloseTo(chance, 9)
          expect(outcomes.get(next)!.pay).toBeCloseTo(pay, 8)
        }
      }
    },
  )

  it('of a move: as meant, to a side, not at all, with what was paid for', () => {
    const document = grid(['...', '.o.', '...'], {
      grounds: [
        { symbol: '.', name: 'parquet', cost: 0, veer: null },
        { symbol: 'o', name: 'carpet', cost: 0.5, veer: 0 },
      ],
      starts: [{ at: 'A2', weight: 1 }],
      endings: [{ at: 'A1', reward: 7, name: 'lift' }],
      stepReward: -1,
      veer: 0.2,
      stall: 0.1,
    })
    const ways = waysOf(document, 'A2', 'east')
    expect(ways.map(({ fell, instead }) => [fell, instead])).toEqual([
      ['goes as meant', null],
      ['veers north', 'north'],
      ['veers south', 'south'],
      ['does not move', 'stay'],
    ])
    expect(ways.map(({ probability }) => probability)).toEqual(
      [0.7, 0.1, 0.1, 0.1].map((p) => expect.closeTo(p, 12)),
    )
    expect(ways[0].parts).toEqual([
      { title: 'step', amount: -1 },
      { title: 'ground carpet', amount: -0.5 },
    ])
    expect(ways[1].parts).toEqual([
      { title: 'step', amount: -1 },
      { title: 'lift A1', amount: 7 },
    ])
    // On the carpet nothing veers.
    expect(waysOf(document, 'B2', 'north').map(({ fell }) => fell)).toEqual([
      'goes as meant',
      'does not move',
    ])
  })

  it('of a draught: what it carries over pays, once', () => {
    const document = grid(['....#', '#####'], {
      starts: [{ at: 'A1', weight: 1 }],
      bonuses: [{ at: 'C1', reward: 3, once: true, name: 'coin' }],
      endings: [{ at: 'D1', reward: 1, name: 'door' }],
      draughts: [{ at: 'B1', toward: 'east', strength: 2, chance: 0.25 }],
    })
    const ways = waysOf(document, 'A1', 'east')
    expect(ways.map(({ fell, probability }) => [fell, probability])).toEqual([
      ['comes to B1', 0.75],
      ['comes to D1', 0.25],
    ])
    expect(ways[1].parts).toEqual([
      { title: 'coin C1', amount: 3 },
      { title: 'door D1', amount: 1 },
    ])
    expect(waysOf(document, 'B1 after C1', 'east')[0].parts).toEqual([])
  })

  it('of a rulebook: what fell, each reward line, what an impossible action became', () => {
    const text = [
      'state lamps from 0 to 2',
      'start lamps = 2',
      'action light from 0 to 2 when light <= lamps',
      'impossible actions are clamped',
      'chance wind ~ pick(calm: 75%, storm: rest)',
      'reward 4 * light when wind = calm',
      'reward -1',
      'next lamps = lamps - light',
      'end when lamps = 0',
    ].join('\n')
    const ways = waysOf(rules(text), 'lamps 1', 'light 2')
    expect(ways).toEqual([
      {
        probability: 0.75,
        fell: 'wind = calm',
        drawn: ['calm'],
        next: expect.any(Number) as number,
        parts: [
          { title: '4 * light', amount: 4 },
          { title: '-1', amount: -1 },
        ],
        instead: 'light 1',
      },
      {
        probability: 0.25,
        fell: 'wind = storm',
        drawn: ['storm'],
        next: ways[0].next,
        parts: [{ title: '-1', amount: -1 }],
        instead: 'light 1',
      },
    ])
    const let_through = waysOf(rules(text.replace('clamped', 'penalised by 5')), 'lamps 1', 'light 2')
    expect(let_through[0]).toMatchObject({
      instead: null,
      parts: [{ amount: 8 }, { amount: -1 }, { title: 'penalty: the action is impossible', amount: -5 }],
    })
  })

  it('of a rulebook with endings after a step, and stretches that pass', () => {
    const text = [
      'state hour from 0 to 3',
      'start hour = 0',
      'action wait',
      'chance bell ~ pick(rings: 10%, silent: rest)',
      'pass when hour = 1',
      'reward 2',
      'next hour = min(3, hour + 1)',
      'end after bell = rings "bell"',
      'end when hour = 3',
    ].join('\n')
    const compiled = compileEnvironment(rules(text))
    const ways = waysOf(rules(text), 'hour 0', 'wait')
    expect(ways.map(({ fell, next }) => [fell, next < 0 ? 'passes' : compiled.model.labels[next]])).toEqual([
      ['bell = rings', 'bell'],
      ['bell = silent', 'passes'],
    ])
  })

  it('of a row with very many: its outcomes', () => {
    const text = [
      'state left from 0 to 9',
      'start left = 9',
      'action go',
      ...Array.from({ length: 4 }, (_, i) => `chance c${i} ~ uniform(0, 9)`),
      'reward c0 + c1 + c2 + c3',
      'next left = max(0, left - 1)',
      'end when left = 0',
    ].join('\n')
    const ways = waysOf(rules(text), 'left 9', 'go')
    expect(ways).toHaveLength(1)
    expect(ways[0]).toMatchObject({
      probability: expect.closeTo(1, 9),
      fell: '',
      parts: [{ title: 'reward' }],
    })
  })
})
