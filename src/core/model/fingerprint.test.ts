import { expect, it } from 'vitest'
import { gridModel } from '../testing/models'
import { modelFingerprint } from './fingerprint'

it('is the same for the same model, and another one for any change', () => {
  const floor = ['...', '.#.']
  const ending = { endings: [{ at: 'C1', reward: 5, name: '' }] }
  const own = modelFingerprint(gridModel(floor, ending))
  expect(modelFingerprint(gridModel(floor, ending))).toBe(own)
  expect(Number.isSafeInteger(own)).toBe(true)
  const others = [
    gridModel(floor, { ...ending, veer: 0.1 }),
    gridModel(floor, { ...ending, stepReward: -2 }),
    gridModel(floor, { endings: [{ at: 'C1', reward: 5.0000001, name: '' }] }),
    gridModel(['...', '...'], ending),
    gridModel(floor, { ...ending, starts: [{ at: 'A1', weight: 1 }] }),
  ].map(modelFingerprint)
  expect(new Set([own, ...others]).size).toBe(6)
})
