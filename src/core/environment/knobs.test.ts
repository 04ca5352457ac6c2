import { describe, expect, it } from 'vitest'
import { gridDocument } from '../testing/models'
import { describeChanges } from './describe-changes'
import { changesBetween } from './changes'
import { checkEnvironment } from './document'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { tableEnvironment } from '../kinds/table/blank'
import type { EnvironmentDocument } from '../kinds/kinds'
import { newBandit } from '../kinds/bandit/blank'
import { headKnobsOf, numbersOf, turnKnob } from './knobs'

const grid = gridDocument(['...'], {
  endings: [{ at: 'C1', reward: 4, name: 'door' }],
  draughts: [{ at: 'B1', toward: 'east', strength: 1, chance: 0.5 }],
  tokens: [{ at: 'A1', name: 'key', reward: 0 }],
})
const knob = { name: 'prize', sets: 'endings[C1].reward', low: 0, high: 10, step: 1 }
const walk = newBandit('b')
const documents: EnvironmentDocument[] = [
  grid,
  { ...walk, bandit: { ...walk.bandit, drift: { type: 'walk', step: 0.5, seed: 1 }, pulls: 9 } },
  tableEnvironment('t', [['a', 'go', 'b', 1, 3]]),
]

describe('numbersOf', () => {
  it('names every number once, and puts a new value in its place and nowhere else', () => {
    for (const document of documents) {
      const numbers = numbersOf(document)
      expect(new Set(numbers.map(({ key }) => key)).size).toBe(numbers.length)
      for (const { key, put } of numbers) {
        const turned = put(0.75)
        expect(checkEnvironment(turned)).toEqual(turned)
        expect(numbersOf(turned).map((number) => [number.key, number.value])).toEqual(
          numbers.map((number) => [number.key, number.key === key ? 0.75 : number.value]),
        )
      }
    }
  })

  it('leaves a rulebook its own knobs', () => {
    expect(numbersOf(rulebookEnvironment('r', 'state x from 0 to 1'))).toEqual([])
  })
})

describe('turnKnob', () => {
  const document = { ...grid, knobs: [knob] }

  it('turns what the knob names', () => {
    expect(turnKnob(document, 'prize', 7)).toMatchObject({ grid: { endings: [{ reward: 7 }] } })
  })

  it.each([
    [document, 'price', 7, /There is no knob "price". The knobs are prize./],
    [document, 'prize', 11, /The knob is set to 11; its range is 0 to 10/],
    [document, 'prize', NaN, /its range is 0 to 10/],
    [
      { ...document, grid: { ...grid.grid, endings: [] } },
      'prize',
      7,
      /What it turned, endings\[C1\].reward, is no longer there/,
    ],
  ])('refuses %#', (of, name, value, message) => {
    expect(() => turnKnob(of, name, value)).toThrow(message)
  })

  it('keeps a knob whose number is gone, without a number', () => {
    expect(headKnobsOf({ ...document, grid: { ...grid.grid, endings: [] } })).toEqual([
      { ...knob, number: null },
    ])
  })
})

it('differences read like sentences', () => {
  const other: EnvironmentDocument = {
    ...grid,
    knobs: [knob],
    grid: {
      ...grid.grid,
      floor: ['.#:'],
      stay: true,
      endings: [{ at: 'C1', reward: 9, name: 'door' }],
      starts: [{ at: 'A1', weight: 2 }],
      tokens: [],
    },
  }
  const lines = describeChanges(changesBetween(grid, other), other).map(
    ({ what, before, after }) => `${what}: ${before} → ${after}`,
  )
  expect(lines.sort()).toEqual([
    'Cell B1: parquet → wall',
    'Cell C1: parquet → carpet',
    'Ending C1, reward: 4 → 9',
    'Knob prize: null → name prize, sets endings[C1].reward, low 0, high 10, step 1',
    'May stay: no → yes',
    'Start A1: null → weight 2',
    'Token A1: name key, reward 0 → null',
  ])
})
