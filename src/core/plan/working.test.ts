import { expect, it } from 'vitest'
import { workingText } from '../explain/working'
import { formatNumber } from '../formats/number'
import { gridModel } from '../testing/models'
import { backupForm } from './backup'
import { backupWorking } from './working'

it('writes out a backup as one would on the board', () => {
  const model = gridModel(['..', '..'], { endings: [{ at: 'B2', reward: 10, name: '' }], veer: 0.2 })
  const form = backupForm(model, 0.5)
  const working = backupWorking(form, model.labels.indexOf('A2'), Float64Array.of(4, 8, 2, 0), 3)
  // East: 0.8 x 9 + 0.1 x (-1 + 0.5 x 4) + 0.1 x (-1 + 0.5 x 2) = 7.2 + 0.1 + 0 = 7.3
  expect(workingText(working, formatNumber).split('\n')).toEqual([
    'A2, sweep 3',
    'V(s) ← max over actions of Σ probability × ( reward + discount × V(next) )',
    'north: 0.8 × ( −1 + 0.5 × 4 ) + 0.1 × ( −1 + 0.5 × 2 ) + 0.1 × ( 9 + 0.5 × 0 ) = 1.7',
    'east: 0.8 × ( 9 + 0.5 × 0 ) + 0.1 × ( −1 + 0.5 × 4 ) + 0.1 × ( −1 + 0.5 × 2 ) = 7.3  *',
    'south: 0.9 × ( −1 + 0.5 × 2 ) + 0.1 × ( 9 + 0.5 × 0 ) = 0.9',
    'west: 0.9 × ( −1 + 0.5 × 2 ) + 0.1 × ( −1 + 0.5 × 4 ) = 0.1',
  ])
  expect(backupWorking(form, 3, new Float64Array(4), 3).note).toMatch(/Episodes end here/)
  expect(backupWorking(form, 0, new Float64Array(4), 0).note).toMatch(/starts at 0/)
})
