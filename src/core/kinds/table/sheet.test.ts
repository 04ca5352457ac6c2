import { describe, expect, it } from 'vitest'
import { blankRow, pasteFields, putField, readField } from './sheet'
import type { Transition } from './transition'

const rows: readonly Transition[] = [
  ['a', 'go', 'b', 0.5, 1],
  ['a', 'go', 'c', 0.5, -2],
]

describe('putField', () => {
  it('reads names and numbers as people write them', () => {
    expect(putField(rows, 0, 2, '  hall, east ')[0][2]).toBe('hall, east')
    expect(putField(rows, 0, 3, '0,25')[0][3]).toBe(0.25)
    expect(putField(rows, 1, 4, '−1.5e2')[1][4]).toBe(-150)
    expect(putField(rows, 0, 0, 'a')).toBe(rows)
  })

  it.each([
    [3, '1.5', /row 1, probability: “1.5” is not a number from 0 to 1/],
    [3, '', /not a number from 0 to 1/],
    [4, 'ten', /row 1, reward: “ten” is not a finite number/],
    [4, '1e999', /not a finite number/],
    [0, 'x'.repeat(10_000), /The name has 10000 characters/],
  ])('refuses field %i with %j', (column, text, message) => {
    expect(() => readField(text, 0, column)).toThrow(message)
  })
})

describe('pasteFields', () => {
  it('fills in from a field on, and adds lines at the end', () => {
    const pasted = pasteFields(rows, { row: 1, column: 3 }, [['1', '0'], ['0.5', '7'], ['']])
    expect(pasted).toEqual([rows[0], ['a', 'go', 'c', 1, 0], ['a', 'go', '', 0.5, 7]])
    expect(rows[1][3]).toBe(0.5)
  })

  it('takes a list with its header as the whole sheet, columns in any order', () => {
    const list = [
      ['reward', 'Next State', 'state', 'action', 'probability'],
      ['3', 'y', 'x', 'go', '1'],
    ]
    expect(pasteFields(rows, { row: 1, column: 4 }, list)).toEqual([['x', 'go', 'y', 1, 3]])
  })

  it('changes nothing when something does not fit, and says where', () => {
    const paste = () =>
      pasteFields(rows, { row: 0, column: 3 }, [
        ['0.5', 'much'],
        ['2', '0'],
        ['1', '1', '1'],
      ])
    expect(paste).toThrow(/row 1, reward: “much” is not a finite number/)
    expect(paste).toThrow(/row 2, probability: “2” is not a number from 0 to 1/)
    expect(paste).toThrow(/row 3: It has 3 fields where 2 fit/)
  })

  it('refuses what no sheet can hold', () => {
    const many = Array.from({ length: 200_001 }, () => ['a'])
    expect(() => pasteFields(rows, { row: 0, column: 0 }, many)).toThrow(/It has 200001 lines/)
  })
})

it('begins a new line with the state and action of the one above', () => {
  expect(blankRow(rows[0])).toEqual(['a', 'go', '', 1, 0])
  expect(blankRow(undefined)).toEqual(['', '', '', 1, 0])
})
