import { describe, expect, it } from 'vitest'
import { constant } from '../../learn/schedule'
import { rowOf } from '../../model/model'
import { learned } from '../../testing/learning'
import { gridDocument, gridModel } from '../../testing/models'
import { cellName, parseCellName } from './cells'
import { compileGrid } from './compile'
import type { Grid } from './document'

/** The outcomes of an action as `{cell: [probability, reward]}`. */
function outcomes(model: ReturnType<typeof gridModel>, state: string, action: string) {
  const s = model.labels.indexOf(state)
  const result: Record<string, [number, number]> = {}
  for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
    if (model.actions[model.rowAction[r]] === action)
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
        result[model.labels[model.outcomeState[o]]] = [model.outcomeProbability[o], model.outcomeReward[o]]
  return result
}

describe('compileGrid', () => {
  it('moves, veers, bumps and pays as written', () => {
    const model = gridModel(['.:.', '.#.'], { endings: [{ at: 'C1', reward: 10, name: '' }], veer: 0.2 })
    // East from A1: to the carpet B1 with 0.8 (-1 - 2), north bumps (stays, -1), south to A2 (-1).
    expect(outcomes(model, 'A1', 'east')).toEqual({ B1: [0.8, -3], A1: [0.1, -1], A2: [0.1, -1] })
    // East from B1 enters the ending: -1 + 10. North and south bump and stay on the carpet.
    expect(outcomes(model, 'B1', 'east')).toEqual({ C1: [0.8, 9], B1: [0.2, -3] })
    expect(outcomes(model, 'C1', 'east')).toEqual({})
  })

  it('numbers only cells an episode can reach, row by row', () => {
    const { model, layout } = compileGrid(
      gridDocument(['.#.', '...', '#.#'], {
        starts: [{ at: 'A1', weight: 1 }],
        endings: [{ at: 'B2', reward: 1, name: '' }],
      }).grid,
      50,
    )
    expect(model.labels).toEqual(['A1', 'A2', 'B2'])
    expect([layout.slices.length, ...layout.slices[0].stateOfCell]).toEqual([
      1, 0, -1, -1, 1, 2, -1, -1, -1, -1,
    ])
    expect([...layout.cellOfState]).toEqual([0, 3, 4])
    expect(model.cap).toBe(50)
  })

  it('starts anywhere open when no start is set, and by weight when some are', () => {
    const floor = ['..', '#.']
    const ending = { endings: [{ at: 'B2', reward: 1, name: '' }] }
    expect([...gridModel(floor, ending).startProbability]).toEqual([0.5, 0.5])
    const weighted = gridModel(floor, {
      ...ending,
      starts: [
        { at: 'A1', weight: 3 },
        { at: 'B1', weight: 1 },
      ],
    })
    expect([...weighted.startProbability]).toEqual([0.75, 0.25])
  })

  it.each([
    [['..', '.'], {}, /grid.floor\[1\]: The row has 1 cells/],
    [['.x'], {}, /cell B1: No ground has the symbol "x"/],
    [['.#'], { starts: [{ at: 'B1', weight: 1 }] }, /Cell B1 is a wall/],
    [['..'], { endings: [{ at: 'C9', reward: 1, name: '' }] }, /no cell "C9".*A1 to B1/],
    [['##'], {}, /No cell is open/],
    [
      ['..'],
      { starts: [{ at: 'A1', weight: 1 }], endings: [{ at: 'A1', reward: 1, name: '' }] },
      /A1 is already used by grid.starts\[0\]/,
    ],
    [Array.from({ length: 4000 }, () => '.'.repeat(4000)), {}, /4000 x 4000 = 16000000 cells/],
  ])('refuses %#', (floor, grid, message) => {
    expect(() => gridModel(floor, grid)).toThrow(message)
  })
})

it('names cells like a floor plan', () => {
  expect([cellName(0, 0), cellName(25, 9), cellName(26, 0), cellName(701, 3), cellName(702, 0)]).toEqual([
    'A1',
    'Z10',
    'AA1',
    'ZZ4',
    'AAA1',
  ])
  for (let column = 0; column < 2000; column += 7)
    expect(parseCellName(cellName(column, column % 90))).toEqual({ column, row: column % 90 })
  for (const text of ['', 'A', '1', 'a1', 'A0', 'A-1', 'A1.5']) expect(parseCellName(text)).toBeUndefined()
})

describe('an agent that sees what is next to it', () => {
  // B1 and D1 look alike: floor, walls above and below, floor on both sides. A1 has a wall on its left, E1 the ending.
  const floor = ['......']
  const endings = [{ at: 'F1', reward: 5, name: '' }]
  const seen = (sees: Grid['sees'], rest: Partial<Grid> = {}) => {
    const model = gridModel(floor, { endings, starts: [{ at: 'A1', weight: 1 }], sees, ...rest })
    return Object.fromEntries(model.labels.map((label, s) => [label, model.observation[s]]))
  }

  it('takes cells that look alike for the same, and no others', () => {
    const { A1, B1, C1, D1, E1, F1 } = seen('around')
    expect([C1, D1]).toEqual([B1, B1])
    expect(new Set([A1, B1, E1, F1]).size).toBe(4)
    expect(new Set(Object.values(seen('cell'))).size).toBe(6)
  })

  it('sees the ground, and gates as walls until it holds their token', () => {
    const model = gridModel(['....'], {
      tokens: [{ at: 'B1', name: 'key', reward: 0 }],
      gates: [{ at: 'D1', token: 'key' }],
      starts: [{ at: 'A1', weight: 1 }],
      endings: [],
      sees: 'around',
    })
    const of = (label: string) => model.observation[model.labels.indexOf(label)]
    expect(of('A1')).not.toBe(of('A1 with key'))
    // With the key the gate is a floor like any other.
    expect(of('B1 with key')).toBe(of('C1 with key'))
    expect(of('D1 with key')).not.toBe(of('C1 with key'))
  })

  it('plans as before, but learns one preference for all of them', () => {
    const [cell, around] = (['cell', 'around'] as const).map((sees) =>
      gridModel(floor, { endings, starts: [{ at: 'A1', weight: 1 }], sees, stepReward: -1 }),
    )
    expect([...around.outcomeState]).toEqual([...cell.outcomeState])
    const learner = learned('reinforce', around, { discount: 1, episodes: 400, learningRate: constant(0.05) })
    const policy = learner.world.toModelRows(learner.policy())
    const at = (label: string, action: string) =>
      policy[rowOf(around, around.labels.indexOf(label), around.actions.indexOf(action))]
    expect(at('B1', 'east')).toBe(at('D1', 'east'))
    expect(at('B1', 'east')).toBeGreaterThan(0.8)
  })
})
