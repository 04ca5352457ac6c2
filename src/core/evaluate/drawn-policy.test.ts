import { applyChanges } from '../environment/apply-changes'
import { expect, it } from 'vitest'
import { checkEnvironment } from '../environment/document'
import { changesBetween } from '../environment/changes'
import { describeChanges } from '../environment/describe-changes'
import { gridDocument, gridModel } from '../testing/models'
import { drawnPolicy, withDrawn } from './drawn-policy'

const MODEL = gridModel(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }] })

it('takes what is drawn, and all actions equally often elsewhere', () => {
  expect(drawnPolicy(MODEL, undefined)).toBeNull()
  expect(drawnPolicy(MODEL, {})).toBeNull()
  const drawn = { A1: 'east', B1: 'upwards', Z9: 'north', C1: 'west' }
  const policy = drawnPolicy(MODEL, drawn)!
  expect([...policy]).toEqual([0, 1, 0, 0, 0.25, 0.25, 0.25, 0.25])
  expect(drawnPolicy(MODEL, drawn)).toBe(policy)
})

it('draws, draws over and wipes away', () => {
  const one = withDrawn(undefined, 'A1', 'east')
  const two = withDrawn(one, 'B1', 'west')
  expect(two).toEqual({ A1: 'east', B1: 'west' })
  expect(withDrawn(two, 'A1', 'south')).toEqual({ A1: 'south', B1: 'west' })
  expect(withDrawn(withDrawn(two, 'A1', null), 'B1', null)).toBeUndefined()
})

it('stays with its document, through every door and every variant', () => {
  const plain = gridDocument(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }] })
  const drawn = { ...plain, policy: { A1: 'east' } }
  expect(checkEnvironment(JSON.parse(JSON.stringify(drawn)))).toEqual(drawn)
  expect(checkEnvironment(JSON.parse(JSON.stringify({ ...drawn, policy: undefined })))).toEqual(plain)
  expect(() => checkEnvironment({ ...drawn, policy: { A1: 3 } })).toThrow(/policy\.A1/)
  const changes = changesBetween(plain, drawn)
  expect(describeChanges(changes, drawn).map(({ what, after }) => [what, after])).toEqual([
    ['Drawn policy', 'A1 east'],
  ])
  expect(applyChanges(plain, changes)).toEqual(drawn)
})
