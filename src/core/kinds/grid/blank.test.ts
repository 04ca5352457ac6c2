import { expect, it } from 'vitest'
import { compileEnvironment } from '../../environment/compile'
import { solveOptimum } from '../../plan/solve'
import { newHall } from './blank'

it.each([
  [10, 7, 62],
  [3, 3, 8],
  [2, 1, 2],
])('a hall of %i by %i can be planned as it stands', (columns, rows, states) => {
  const { model } = compileEnvironment(newHall('Hall', columns, rows))
  expect(model.states).toBe(states)
  // The way is as long as without the wall; each step costs 1, the last one pays 20 besides.
  const steps = columns - 1 + rows - 1
  const value = 20 * 0.95 ** (steps - 1) - (1 - 0.95 ** steps) / 0.05
  expect(solveOptimum(model, 0.95)!.values[model.startState[0]]).toBeCloseTo(value, 9)
})

it('a hall of one cell is bare', () => {
  expect(newHall('Cell', 1, 1).grid).toMatchObject({ starts: [], endings: [], floor: ['.'] })
})
