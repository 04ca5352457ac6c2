import { writeTransitionList } from './write-transition-list'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ProblemError } from '../../problem'
import { randomModel } from '../../testing/models'
import { compileTable } from './document'
import { parseTransitionList } from './transition-list'

const HEADER = 'state,action,next_state,probability,reward\n'

describe('parseTransitionList', () => {
  it('accepts BOM, CRLF, any column order, quotes, unicode and blanks', () => {
    const text =
      '\uFEFFreward, probability,next_state,action,state\r\n' +
      '-1.5,0.25,"the ""long"" gallery, north",étage 2,Küche\r\n' +
      ' 2e1 ,.75, end ,étage 2,Küche\r\n\r\n'
    expect(parseTransitionList(text).transitions).toEqual([
      ['Küche', 'étage 2', 'the "long" gallery, north', 0.25, -1.5],
      ['Küche', 'étage 2', 'end', 0.75, 20],
    ])
  })

  it.each([
    ['state,action,next_state,probability\na,b,c,1\n', /line 1: The column "reward" is missing/],
    [
      'state,action,next_state,probability,reward,note\na,b,c,1,0,x\n',
      /column 6: There is an extra column "note"/,
    ],
    ['state,action,next_state,probability,reward,state\n', /column 6: The column "state" stands twice/],
    [
      'foo,bar\n1,2\n',
      /^line 1: The file is neither a transition list nor the cells of a grid: it begins with "foo,bar"/,
    ],
    [HEADER, /header and no rows/],
    [`${HEADER}a,b,c,1\n`, /line 2: It has 4 fields where the header has 5/],
    [`${HEADER}a,b,c,1,0\na,b,c,NaN,0\n`, /line 3, column probability: "NaN" is not a number from 0 to 1/],
    [`${HEADER}a,b,c,1.5,0\n`, /"1.5" is not a number from 0 to 1/],
    [`${HEADER}a,b,c,1,1e999\n`, /column reward: "1e999" is not a finite number/],
    [`${HEADER}a,b,c,1,0x10\n`, /"0x10" is not a finite number/],
    [`${HEADER},b,c,1,0\n`, /line 2, column state: It is empty/],
    [`${HEADER}"a\nb",b,c,1,0\na,b,c,2,0\n`, /line 4, column probability/],
    [`${HEADER}"a,b,c,1,0\n`, /quoted field is not closed/],
    [`${HEADER}${'a'.repeat(1001)},b,c,1,0\n`, /has 1001 characters/],
    [
      HEADER.replaceAll(',', ';') + 'a;b;c;1;0\n',
      /separated by semicolons\. Save the list as CSV with commas/,
    ],
    [
      HEADER.replaceAll(',', '\t') + 'a\tb\tc\t1\t0\n',
      /separated by tabs\. Save the list as CSV with commas/,
    ],
    [`start,${HEADER}1,a,b,c,1,0\n2,a,d,c,1,0\n`, /line 3, column start: It says something else of "a"/],
    [`discount,${HEADER}1.5,a,b,c,1,0\n`, /column discount: "1.5" is not a number from 0 to 1/],
    [`${HEADER}${'a'.repeat(50_000_000)}\n`, /line 2: It is 50000000 characters long/],
  ])('refuses %#', (text, message) => {
    expect(() => parseTransitionList(text)).toThrow(message)
  })

  it('reads back what it writes, to the bit', () => {
    const { model } = randomModel(5, 9)
    const again = compileTable({ ...parseTransitionList(writeTransitionList(model)), places: {} }, model.cap)
    for (const key of ['outcomeProbability', 'outcomeReward'] as const)
      expect(again[key].length).toBe(model.outcomes)
    for (let s = 0; s < model.states; s++) {
      const t = again.labels.indexOf(model.labels[s])
      if (t < 0) continue
      expect(again.rowStart[t + 1] - again.rowStart[t]).toBe(model.rowStart[s + 1] - model.rowStart[s])
    }
    expect([...again.outcomeProbability].sort()).toEqual([...model.outcomeProbability].sort())
  })

  it('answers any text with rows or with problems, never with another error', () => {
    const piece = fc.oneof(
      fc.constantFrom(
        'state',
        'action',
        'next_state',
        'probability',
        'reward',
        ',',
        '\n',
        '"',
        '\r',
        '1',
        '0.5',
        ' ',
      ),
      fc.string({ maxLength: 6, unit: 'binary' }),
    )
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), fc.boolean(), (pieces, header) => {
        try {
          expect(
            parseTransitionList((header ? HEADER : '') + pieces.join('')).transitions.length,
          ).toBeGreaterThan(0)
        } catch (error) {
          expect(error).toBeInstanceOf(ProblemError)
        }
      }),
      { numRuns: 3000 },
    )
  })
})

describe('compileTable', () => {
  it('ends where no row begins, starts with the first state, and adds up repeated rows', () => {
    const model = compileTable(
      {
        ...parseTransitionList(`${HEADER}x,go,y,0.5,1\nx,go,y,0.5,3\ny,go,z,1,0\n`),
        places: {},
      },
      0,
    )
    expect(model.labels).toEqual(['x', 'y', 'z'])
    expect([...model.ending]).toEqual([0, 0, 1])
    expect(model.outcomes).toBe(2)
    expect(model.outcomeReward[0]).toBe(2)
    expect([...model.startState]).toEqual([0])
  })

  it('names rows that do not sum to 1 and starts that are not there', () => {
    expect(() =>
      compileTable({ transitions: [['x', 'go', 'y', 0.9, 0]], starts: [], places: {} }, 0),
    ).toThrow(/state "x", action "go".*sum to 0.9/)
    expect(() =>
      compileTable(
        { transitions: [['x', 'go', 'y', 1, 0]], starts: [{ state: 'q', weight: 1 }], places: {} },
        0,
      ),
    ).toThrow(/no state "q"/)
  })
})
