import { describe, expect, it } from 'vitest'
import { gridModel } from '../../testing/models'
import type { Model } from '../../model/model'

/** The outcomes of an action as `{next state: [probability, reward]}`, rounded to 12 digits. */
function outcomes(model: Model, state: string, action: string) {
  const s = model.labels.indexOf(state)
  expect(s, state).toBeGreaterThanOrEqual(0)
  const round = (x: number) => Number(x.toPrecision(12))
  const result: Record<string, [number, number]> = {}
  for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
    if (model.actions[model.rowAction[r]] === action)
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
        result[model.labels[model.outcomeState[o]]] = [
          round(model.outcomeProbability[o]),
          round(model.outcomeReward[o]),
        ]
  return result
}
const A1 = { starts: [{ at: 'A1', weight: 1 }] }

describe('chances of a move', () => {
  it('veer, stall and reverse share what is not straight', () => {
    const model = gridModel(['...', '...', '...'], { veer: 0.2, stall: 0.1, reverse: 0.05 })
    expect(outcomes(model, 'B2', 'north')).toEqual({
      B1: [0.65, -1],
      A2: [0.1, -1],
      C2: [0.1, -1],
      B3: [0.05, -1],
      B2: [0.1, -1],
    })
  })

  it('a ground may veer by itself: that of the cell the move begins on', () => {
    const grounds = [
      { symbol: '.', name: 'parquet', cost: 0, veer: null },
      { symbol: 'o', name: 'polished', cost: 0.5, veer: 0.5 },
    ]
    const model = gridModel(['.o.'], { grounds })
    expect(outcomes(model, 'A1', 'east')).toEqual({ B1: [1, -1.5] })
    expect(outcomes(model, 'B1', 'east')).toEqual({ C1: [0.5, -1], B1: [0.5, -1.5] })
  })

  it('eight moves veer to the neighbouring directions; diagonals cost their length and pass no corner of walls', () => {
    const model = gridModel(['..#', '.#.', '...'], { moves: 8, veer: 0.2, ...A1 })
    // From A2: northeast to B1 with 0.8, north to A1 and east (a wall) with 0.1 each.
    expect(outcomes(model, 'A2', 'northeast')).toEqual({
      B1: [0.8, Number((-Math.SQRT2).toPrecision(12))],
      A1: [0.1, -1],
      A2: [0.1, -1],
    })
    // From B1, southeast lies C2, between the walls C1 and B2.
    const straight = gridModel(['..#', '.#.', '...'], { moves: 8, ...A1 })
    expect(Object.keys(outcomes(straight, 'B1', 'southeast'))).toEqual(['B1'])
    const free = gridModel(['..#', '.#.', '...'], { moves: 8, diagonalCosts: false, ...A1 })
    expect(outcomes(free, 'B1', 'southwest')).toEqual({ A2: [1, -1] })
  })

  it('staying put is an action when asked for, and nothing makes it veer', () => {
    const model = gridModel(['..'], { stay: true, veer: 0.4, reverse: 0.2 })
    expect(outcomes(model, 'A1', 'stay')).toEqual({ A1: [1, -1] })
    expect(model.actions).toEqual(['north', 'east', 'south', 'west', 'stay'])
  })
})

describe('draughts', () => {
  const floor = ['.....', '.....']
  const draughts = [{ at: 'B1', toward: 'east', strength: 2, chance: 0.25 }] as const

  it('carry on who comes to the cell, and who stays on it', () => {
    const model = gridModel(floor, { draughts, stay: true, stepReward: -1 })
    expect(outcomes(model, 'A1', 'east')).toEqual({ B1: [0.75, -1], D1: [0.25, -1] })
    expect(outcomes(model, 'B1', 'stay')).toEqual({ B1: [0.75, -1], D1: [0.25, -1] })
    expect(outcomes(model, 'B1', 'north')).toEqual({ B1: [0.75, -1], D1: [0.25, -1] })
    expect(outcomes(model, 'B1', 'south')).toEqual({ B2: [1, -1] })
  })

  it('are stopped by walls and endings, and one is not carried by the next', () => {
    const steady = { toward: 'east', strength: 3, chance: 1 } as const
    const walled = gridModel(['...#.'], { draughts: [{ at: 'B1', ...steady }], ...A1 })
    expect(outcomes(walled, 'A1', 'east')).toEqual({ C1: [1, -1] })
    const ended = gridModel(['.....'], {
      draughts: [{ at: 'B1', ...steady }],
      endings: [{ at: 'C1', reward: 7, name: '' }],
      ...A1,
    })
    expect(outcomes(ended, 'A1', 'east')).toEqual({ C1: [1, 6] })
    const two = gridModel(['......'], {
      draughts: [
        { at: 'B1', ...steady, strength: 1 },
        { at: 'C1', ...steady },
      ],
      ...A1,
    })
    expect(outcomes(two, 'A1', 'east')).toEqual({ C1: [1, -1] })
  })
})

describe('what lies on cells', () => {
  it('send-backs pay and lead to the starts by weight, or to a cell', () => {
    const sendBacks = [{ at: 'C1', reward: -5, to: null, name: '' }]
    const starts = [
      { at: 'A1', weight: 3 },
      { at: 'B1', weight: 1 },
    ]
    const model = gridModel(['....'], { starts, sendBacks })
    expect(outcomes(model, 'B1', 'east')).toEqual({ A1: [0.75, -6], B1: [0.25, -6] })
    expect(model.labels).toEqual(['A1', 'B1'])
    const one = gridModel(['...:'], { starts, sendBacks: [{ at: 'C1', reward: -5, to: 'D1', name: '' }] })
    // The carpet it lands on costs 2.
    expect(outcomes(one, 'B1', 'east')).toEqual({ D1: [1, -8] })
  })

  it('jumps lead on, and what lies there takes effect', () => {
    const model = gridModel(['.....'], {
      jumps: [{ at: 'B1', to: 'E1' }],
      endings: [{ at: 'E1', reward: 4, name: '' }],
      ...A1,
    })
    expect(outcomes(model, 'A1', 'east')).toEqual({ E1: [1, 3] })
  })

  it('bonuses pay once or every time they are entered, not while one stays on them', () => {
    const bonus = { at: 'B1', reward: 3, name: '' }
    const often = gridModel(['..'], { bonuses: [{ ...bonus, once: false }], ...A1 })
    expect(outcomes(often, 'A1', 'east')).toEqual({ B1: [1, 2] })
    expect(outcomes(often, 'B1', 'east')).toEqual({ B1: [1, -1] })
    const once = gridModel(['..'], { bonuses: [{ ...bonus, once: true }], ...A1 })
    expect(once.labels).toEqual(['A1', 'A1 after B1', 'B1 after B1'])
    expect(outcomes(once, 'A1', 'east')).toEqual({ 'B1 after B1': [1, 2] })
    expect(outcomes(once, 'A1 after B1', 'east')).toEqual({ 'B1 after B1': [1, -1] })
  })

  it('tokens are held and open their gates', () => {
    const model = gridModel(['...', '..#'], {
      starts: [{ at: 'B1', weight: 1 }],
      tokens: [{ at: 'A1', name: 'key', reward: 0.5 }],
      gates: [{ at: 'C1', token: 'key' }],
    })
    expect(outcomes(model, 'B1', 'east')).toEqual({ B1: [1, -1] })
    expect(outcomes(model, 'B1', 'west')).toEqual({ 'A1 with key': [1, -0.5] })
    expect(outcomes(model, 'B1 with key', 'east')).toEqual({ 'C1 with key': [1, -1] })
    expect(outcomes(model, 'B1 with key', 'west')).toEqual({ 'A1 with key': [1, -1] })
    expect(model.labels.filter((label) => label.includes('with'))).toHaveLength(5)
  })

  it('number their states by what is held, the empty hand first', () => {
    const tokens = [
      { at: 'A1', name: 'key', reward: 0 },
      { at: 'C1', name: 'lens', reward: 0 },
    ]
    const { labels } = gridModel(['...'], { starts: [{ at: 'B1', weight: 1 }], tokens })
    expect(labels).toEqual([
      'B1',
      'A1 with key',
      'B1 with key',
      'B1 with lens',
      'C1 with lens',
      'A1 with key, lens',
      'B1 with key, lens',
      'C1 with key, lens',
    ])
  })
})

describe('what does not go together is refused', () => {
  it.each([
    [{ veer: 0.8, stall: 0.3 }, /grid.veer: The chances veer 0.8, stall 0.3 and reverse 0 are more than 1/],
    [{ gates: [{ at: 'B1', token: 'key' }] }, /grid.gates\[0\].token: There is no token "key"/],
    [{ jumps: [{ at: 'B1', to: 'B2' }] }, /grid.jumps\[0\].to: Cell B2 is a wall/],
    [
      {
        jumps: [
          { at: 'B1', to: 'A2' },
          { at: 'A2', to: 'A1' },
        ],
      },
      /grid.jumps\[0\].to: Cell A2 leads elsewhere itself \(grid.jumps\[1\]\)/,
    ],
    [
      {
        endings: [{ at: 'B1', reward: 1, name: '' }],
        draughts: [{ at: 'B1', toward: 'east', strength: 1, chance: 1 }],
      },
      /A draught cannot blow over an ending/,
    ],
    [
      { sendBacks: [{ at: 'B1', reward: 0, to: 'Q9', name: '' }] },
      /grid.sendBacks\[0\].to: There is no cell "Q9"/,
    ],
  ] as const)('%j', (part, message) => {
    expect(() => gridModel(['..', '.#'], part)).toThrow(message)
  })

  it('too many states, naming what doubles them', () => {
    const tokens = Array.from({ length: 8 }, (_, i) => ({ at: `A${i + 1}`, name: `token ${i}`, reward: 0 }))
    const bonuses = Array.from({ length: 8 }, (_, i) => ({
      at: `B${i + 1}`,
      reward: 1,
      once: true,
      name: '',
    }))
    const floor = Array.from({ length: 40 }, () => '.'.repeat(40))
    expect(() => gridModel(floor, { tokens, bonuses, starts: [{ at: 'T20', weight: 1 }] })).toThrow(
      /With 8 tokens and 8 bonuses that pay once it has more than 500000 states/,
    )
  })
})
