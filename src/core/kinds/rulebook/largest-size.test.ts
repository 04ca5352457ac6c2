import { expect, it } from 'vitest'
import { rulebookEnvironment } from './blank'
import { largestSize } from './largest-size'

it('says how large a rulebook can become before anything is worked out', () => {
  const { rulebook } = rulebookEnvironment(
    'Large',
    `knob top = 9 from 1 to 99
state a from 0 to top
state b list of 3 in x, y
state c yes or no
start a = 0, b = x, c = no
action go from 1 to 4
action wait`,
  )
  expect(largestSize(rulebook)).toEqual({
    states: 10 * 8 * 2,
    values: 160 * 5,
    contributions: 'a 10 × b 8 (2 each in 3 places) × c 2',
    largest: 'a',
  })
  expect(largestSize({ ...rulebook, knobs: { top: 4 } })).toMatchObject({ states: 80, largest: 'b' })
  expect(largestSize({ ...rulebook, text: 'state a' })).toBeNull()
})
