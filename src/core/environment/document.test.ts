import { readEnvironment } from './read'
import { compileEnvironment, tryCompile } from './compile'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decodeText } from '../formats/text'
import { ProblemError } from '../problem'
import { gridDocument } from '../testing/models'
import { checkEnvironment, parseEnvironment } from './document'

const plain = () => JSON.parse(JSON.stringify(gridDocument(['..', '.#'])))
const bytes = (text: string) => new TextEncoder().encode(text)

it('a failure of the compiler is a problem like any other: nothing is lost for it', () => {
  // A document that no door would let in, so that the compiler fails in itself.
  const broken = { ...gridDocument(['..']), grid: null } as never
  expect(() => compileEnvironment(broken)).toThrow(TypeError)
  const result = tryCompile(broken)
  expect(!result.ok && result.problems).toEqual([
    expect.objectContaining({
      place: 'the program',
      remedy: expect.stringContaining('what you wrote is kept'),
    }),
  ])
  expect(tryCompile(gridDocument(['..'])).ok).toBe(true)
})

describe('parseEnvironment', () => {
  it('reads what it wrote, and fills in what is left out', () => {
    expect(parseEnvironment(JSON.stringify(plain()))).toEqual(plain())
    const short = {
      format: 'jaunty-pawn/environment',
      version: 1,
      kind: 'grid',
      name: ' Hall ',
      grid: { floor: ['..'] },
    }
    const document = checkEnvironment({ ...short, name: 'Hall' })
    expect(document).toMatchObject({
      discount: 0.95,
      cap: 200,
      note: '',
      grid: { stepReward: 0, veer: 0, starts: [] },
    })
    expect(compileEnvironment(document).model.states).toBe(2)
  })

  it.each([
    ['{', /line 1, column 2: This is not valid JSON|end of the text: This is not valid JSON/],
    ['{"format": "jaunty-pawn/environment",\n "version": 1,,}', /line 2, column 15: This is not valid JSON/],
    ['[]', /document: It is not an object/],
    ['{"format":"other"}', /format: It is "other"/],
    ['{"format":"jaunty-pawn/environment","version":9}', /version: The document is of version 9/],
  ])('refuses %s', (text, message) => {
    expect(() => parseEnvironment(text)).toThrow(message)
  })

  it.each([
    [{ name: '' }, /name: It is not allowed to be empty/],
    [{ name: 'x'.repeat(10_000) }, /name: Its length must be less than or equal to 120/],
    [{ discount: 1.5 }, /discount: It must be less than or equal to 1/],
    [{ discount: '0.9' }, /discount: It must be a number/],
    [{ kind: 'maze' }, /kind: It must be one of/],
    [{ extra: 1 }, /extra: It is not allowed/],
    [{ cap: -1 }, /cap: /],
    [{ table: { transitions: [] } }, /table: It is not allowed/],
    [{ grid: { floor: [] } }, /grid.floor: It does not contain|grid.floor: It must contain/],
    [{ grid: { floor: ['..'], veer: NaN } }, /grid.veer: It must be a number/],
    [
      { grid: { floor: ['..'], grounds: [{ symbol: '##', name: 'x' }] } },
      /grid.grounds\[0\].symbol: It must be one character/,
    ],
    [
      { grid: { floor: ['..'], tokens: [{ at: 'A1', name: 'key, after B1' }] } },
      /grid.tokens\[0\].name: It must be a name, without a comma/,
    ],
    [{ grid: { floor: ['..'], endings: [{ at: 'A1', reward: 1e99 }] } }, /grid.endings\[0\].reward/],
  ])('refuses %j', (change, message) => {
    expect(() => checkEnvironment({ ...plain(), ...change })).toThrow(message)
  })

  it('answers any change of a document with a document or with problems', () => {
    const keys = ['name', 'discount', 'cap', 'kind', 'grid', 'version', 'note', 'table']
    fc.assert(
      fc.property(
        fc.constantFrom(...keys),
        fc.constantFrom('', 'floor', 'veer', 'starts', 'endings', 'grounds'),
        fc.jsonValue(),
        (key, inner, value) => {
          const document = plain()
          if (inner) document.grid[inner] = value
          else document[key] = value
          try {
            compileEnvironment(checkEnvironment(document))
          } catch (error) {
            expect(error).toBeInstanceOf(ProblemError)
          }
        },
      ),
      { numRuns: 2000 },
    )
  })
})

describe('readEnvironment', () => {
  it('tells a document from a transition list', () => {
    const list = 'state,action,next_state,probability,reward\na,go,b,1,2\n'
    expect(readEnvironment(list, 'My list')).toMatchObject({ kind: 'table', name: 'My list' })
    expect(readEnvironment(`\uFEFF ${JSON.stringify(plain())}`, 'x')).toMatchObject({
      kind: 'grid',
      name: 'test',
    })
    expect(readEnvironment(list, '  ').name).toBe('Imported table')
  })
})

describe('decodeText', () => {
  it('accepts UTF-8 and refuses everything else with the place', () => {
    expect(decodeText(bytes('Küche'))).toBe('Küche')
    expect(() => decodeText(bytes(''))).toThrow(/file: It is empty/)
    expect(() => decodeText(bytes(' \r\n\t'))).toThrow(/empty/)
    expect(() => decodeText(Uint8Array.of(0xff, 0xfe, 65, 0))).toThrow(/UTF-16/)
    expect(() => decodeText(Uint8Array.of(65, 66, 0, 67))).toThrow(/byte 3: There is a zero byte/)
    const broken = new Uint8Array([...bytes('abcdefgh'), 0xc3, 0x28, ...bytes('tail')])
    expect(() => decodeText(broken)).toThrow(/byte \d+: This is not UTF-8/)
    const place = /byte (\d+)/.exec(String(tryDecode(broken)))![1]
    expect(Math.abs(Number(place) - 9)).toBeLessThanOrEqual(4)
  })
})

function tryDecode(broken: Uint8Array) {
  try {
    return decodeText(broken)
  } catch (error) {
    return error
  }
}
