import { describe, expect, it } from 'vitest'
import { lex } from './lexer'
import { LineMap, nearestName } from './place'

const words = (text: string) =>
  lex(text).statements.map(({ tokens }) => tokens.map((token) => token.text).join(' '))

describe('statements', () => {
  it('begin at the margin; indented lines go on with the one above', () => {
    expect(words('let a = 1\n  + 2\n\n# a remark\nlet b = 3 # another')).toEqual([
      'let a = 1 + 2',
      'let b = 3',
    ])
  })

  it('may be indented all together', () => {
    expect(words('  let a = 1\n  let b = 2\n    + 1')).toEqual(['let a = 1', 'let b = 2 + 1'])
  })

  it('read every line end, a byte-order mark, blanks of all kinds and signs typed in other ways', () => {
    expect(words('\uFEFFlet a = 1\r\n\tlet\u00A0b\r\nlet c = 2 − 1 × 3 ≤ 4 ≠ 5')).toEqual([
      'let a = 1 let b',
      'let c = 2 - 1 * 3 <= 4 != 5',
    ])
  })

  it('know numbers, names in any script, texts', () => {
    const [{ tokens }] = lex('x 12 .5 3.25 1e3 größe_2 "two words"').statements
    expect(tokens.map(({ kind }) => kind)).toEqual([
      'name',
      'number',
      'number',
      'number',
      'number',
      'name',
      'text',
    ])
    expect(tokens.map(({ value }) => value).slice(1, 5)).toEqual([12, 0.5, 3.25, 1000])
  })

  it('tell signs that mean nothing and texts without an end, and go on', () => {
    const { statements, faults } = lex('let a = 1 ; 2\ncheck "open\nlet b = 1')
    expect(faults.map(({ cause }) => cause)).toEqual([
      'The sign ; means nothing here.',
      'This text has no end.',
    ])
    expect(statements).toHaveLength(3)
  })
})

it('counts lines and columns as people do, letters outside the basic plane as one', () => {
  const lines = new LineMap('ab\n😀x\n')
  expect([0, 1, 3, 5, 7].map((offset) => lines.place(offset))).toEqual([
    'line 1, column 1',
    'line 1, column 2',
    'line 2, column 1',
    'line 2, column 2',
    'line 3, column 1',
  ])
})

it('suggests the nearest name, and none that is far off', () => {
  expect(nearestName('lft', ['left', 'right'])).toBe('left')
  expect(nearestName('Callers', ['callers', 'calls'])).toBe('callers')
  expect(nearestName('queue', ['left', 'right'])).toBeUndefined()
})
