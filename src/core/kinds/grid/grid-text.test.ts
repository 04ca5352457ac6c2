import { readGridText } from './read-grid-text'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readEnvironment } from '../../environment/read'
import { ProblemError } from '../../problem'
import { gridDocument } from '../../testing/models'
import { DIRECTION_NAMES } from './directions'
import type { Grid } from './document'
import { emptyGrid } from './empty-grid'
import { paintCell, type Brush } from './edit'
import { writeGridCsv, writeGridMap } from './grid-text'

const base = gridDocument(['..'], { veer: 0.3 }).grid

describe('readGridText', () => {
  it('reads a map with its legend, and keeps the rules of moving', () => {
    const grid = readGridText(
      'S.#\r\n.~X\r\n\r\n~ = ground mud, cost 2.5, veer 0.4\r\nS = start 2; draught east 2 0.5\r\nX = ending 10 charging cupboard\r\n',
      base,
    )
    expect(grid).toMatchObject({
      floor: ['..#', '.~.'],
      veer: 0.3,
      starts: [{ at: 'A1', weight: 2 }],
      draughts: [{ at: 'A1', toward: 'east', strength: 2, chance: 0.5 }],
      endings: [{ at: 'C2', reward: 10, name: 'charging cupboard' }],
    })
    expect(grid.grounds.find(({ symbol }) => symbol === '~')).toEqual({
      symbol: '~',
      name: 'mud',
      cost: 2.5,
      veer: 0.4,
    })
  })

  it('reads what a spreadsheet gives: fields by comma or tab, grounds by name', () => {
    const fields = [
      ['start', 'wall', '', 'ground carpet; bonus 3 always'],
      ['#', 'carpet', 'send-back -5 to A1 wet floor', 'jump to c1'],
    ]
    const wanted = {
      floor: ['.#.:', '#:..'],
      starts: [{ at: 'A1', weight: 1 }],
      bonuses: [{ at: 'D1', reward: 3, once: false, name: '' }],
      sendBacks: [{ at: 'C2', reward: -5, to: 'A1', name: 'wet floor' }],
      jumps: [{ at: 'D2', to: 'C1' }],
    }
    expect(readGridText(fields.map((row) => row.join('\t')).join('\n'), base)).toMatchObject(wanted)
    expect(readGridText(fields.map((row) => row.join(',')).join('\r\n'), base)).toMatchObject(wanted)
  })

  it.each([
    ['', /line 1: There is no text/],
    ['..\n.', /grid.floor\[1\]: The row has 1 cells/],
    ['..\n\nsees = nothing', /sees: It must be one of \[cell, around\]/],
    ['.X', /line 1, column 2: Nothing says what “X” is/],
    ['.X\n\nX = ending ten', /line 3: “ten” is not a number/],
    ['.X\n\nX = lake', /line 3: “lake” is neither a ground nor a thing/],
    ['.X\n\nfour words, no sense', /line 3: “four words, no sense” does not say what a character stands for/],
    ['.X\n\nX = draught up', /line 3: “up” is no direction/],
    ['.X\n\nX = bonus 3 sometimes', /line 3: A bonus pays “once” or “always”/],
    ['.X\n\nX = start; start 2', /line 3: It has two of a kind/],
    ['start,ending x', /row 1, field 2 \(B1\): “x” is not a number/],
    ['.X\n\nX = draught east 9 1', /draughts.0.strength: It must be less than or equal to 3/],
    ['.X\n\nX = jump to Z9', /grid.jumps\[0\].to: There is no cell "Z9"/],
    ['.X\n\nX = ending 1 "oops', /line 3: The quotes in "oops are not closed/],
  ])('refuses %j', (text, message) => {
    expect(() => readGridText(text, base)).toThrow(message)
  })

  it('is what a .txt file is read as', () => {
    expect(readEnvironment('S..\n\nS = start', 'hall', '.txt')).toMatchObject({
      kind: 'grid',
      name: 'hall',
      grid: { floor: ['...'], starts: [{ at: 'A1' }] },
    })
  })
})

it('what is written reads back the same, whatever was drawn', () => {
  const name = fc.constantFrom('', 'door', 'a; b', ' padded ', 'to C4', 'with "quotes"', 'x = y, z', 'ten\n')
  const brush: fc.Arbitrary<Brush> = fc.oneof(
    fc.constantFrom<Brush>(
      { type: 'wall' },
      { type: 'ground', symbol: ':' },
      { type: 'start', weight: 2.5 },
      { type: 'bonus', reward: 1, once: true },
      { type: 'bonus', reward: -2, once: false },
      { type: 'token', reward: 0.5 },
      { type: 'gate', token: 'key' },
      { type: 'jump', to: 'C2' },
      { type: 'sendBack', reward: -3, to: null },
      { type: 'sendBack', reward: -3, to: 'A1' },
    ),
    fc
      .double({ min: -1e6, max: 1e6, noNaN: true })
      .map((reward): Brush => ({ type: 'ending', reward: reward + 0 })),
    fc
      .constantFrom(...DIRECTION_NAMES)
      .map((toward): Brush => ({ type: 'draught', toward, strength: 2, chance: 0.25 })),
  )
  const sorted = (grid: Grid) =>
    Object.fromEntries(
      Object.entries(grid).map(([key, value]) => [
        key,
        Array.isArray(value) && typeof value[0] === 'object'
          ? [...value].sort((x, y) => (JSON.stringify(x) < JSON.stringify(y) ? -1 : 1))
          : value,
      ]),
    )
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(4), fc.nat(3), brush), { maxLength: 24 }),
      name,
      (strokes, called) => {
        const drawn = strokes.reduce((g, [c, r, with_]) => paintCell(g, c, r, with_), emptyGrid(5, 4))
        const grid: Grid = {
          ...drawn,
          grounds: [...drawn.grounds, { symbol: ',', name: 'comma', cost: 1, veer: 0.5 }],
          endings: drawn.endings.map((ending) => ({ ...ending, name: called })),
        }
        expect(sorted(readGridText(writeGridCsv(grid), grid))).toEqual(sorted(grid))
        const map = readGridText(writeGridMap(grid), { ...grid, grounds: [] })
        // A ground whose symbol would be misread has another one in the map.
        expect(sorted({ ...map, grounds: [] })).toEqual(sorted({ ...grid, grounds: [] }))
        expect(map.grounds.map(({ name, cost, veer }) => [name, cost, veer])).toEqual(
          grid.grounds.map(({ name, cost, veer }) => [name, cost, veer]),
        )
      },
    ),
    { numRuns: 400 },
  )
})

it('answers any text with a grid or with problems', () => {
  const piece = fc.constantFrom(
    '.',
    '#',
    ':',
    'S',
    '\n',
    '\n\n',
    ' = ',
    'start',
    'ending 4',
    ',',
    '\t',
    '"',
    ';',
    'gate',
    'to',
    'A1',
    '9',
    'é',
    '\u0000',
  )
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string({ unit: 'binary', maxLength: 60 }),
        fc.array(piece, { maxLength: 40 }).map((p) => p.join('')),
      ),
      (text) => {
        try {
          expect(readGridText(text, base).floor.length).toBeGreaterThan(0)
        } catch (error) {
          expect(error).toBeInstanceOf(ProblemError)
        }
      },
    ),
    { numRuns: 3000 },
  )
})
