import { describe, expect, it } from 'vitest'
import { gridDocument, gridModel } from '../../testing/models'
import { cellName, parseCellName } from './cells'
import { compileGrid } from './compile'

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
