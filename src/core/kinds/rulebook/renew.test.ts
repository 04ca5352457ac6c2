import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rulebook } from '../../testing/rulebooks'
import type { CompiledRulebook } from './facts'
import { renewRulebook } from './renew'

const view = { across: null, up: null, others: {} }

function renewed(
  before: string,
  after: string,
  knobs: [Record<string, number>, Record<string, number>] = [{}, {}],
): [CompiledRulebook, CompiledRulebook | null] {
  const compiled = rulebook(before, knobs[0])
  return [
    compiled,
    renewRulebook({ text: before, knobs: knobs[0], view }, compiled, { text: after, knobs: knobs[1], view }),
  ]
}

/** One of everything that tells where it stands. */
const RULES = [
  'knob most = 4 from 2 to 6',
  'knob enough = 2 from 0 to 6',
  'table pay from 0 = 1, 2, 3, 5, 8, 13, 21',
  'state left from 0 to most',
  'state day in mon, tue, wed',
  'start left = most, day ~ pick(mon: 0.5, tue: rest)',
  'action sell from 0 to 2 when sell <= left',
  'action close when left > 5',
  'chance wind ~ coin(0.25)',
  'chance rain ~ coin(0.5)',
  'reward pay[sell]',
  'next left = left - sell + if wind then 1 else 0 when left < most',
  'next left = left - sell when left = most',
  'measure sold = sell',
  'check "never empty": left > 0',
  'end when left = 0 and day = wed',
  'end after wind and left = 3 and sell = 2 "blown away"',
  'end after sell = 7 "flood"',
]
const POLICIES = [
  'policy "all": sell 2 when left > enough, sell 1 when left > 0, sell 0',
  'policy "none": sell 0',
  'policy "silent": sell 1 when left > 2',
]
const TEXT = [...RULES, ...POLICIES].join('\n')

const comments = fc.array(fc.constantFrom('', '# note', '  # in the line', '#', '\t'), { maxLength: 3 })

describe('a rulebook that is compiled again', () => {
  it('keeps its model, and is all that it would be from scratch, when comments, spaces and policies change', () => {
    fc.assert(
      fc.property(
        fc.subarray(POLICIES),
        fc.shuffledSubarray(POLICIES),
        fc.integer({ min: 0, max: RULES.length }),
        fc.array(comments, { minLength: RULES.length, maxLength: RULES.length }),
        fc.integer({ min: 0, max: 6 }),
        (some, others, cut, between, enough) => {
          const before = [...RULES, ...some].join('\n')
          // Policies in between where all they name stands above.
          const [first, last] = cut < 8 ? [[], others] : [others, []]
          const lines = RULES.map((rule, i) =>
            [...between[i], rule.replaceAll(' = ', i % 2 ? '   = ' : ' =  ')].join('\n'),
          )
          const after = [...lines.slice(0, cut), ...first, ...lines.slice(cut), ...last].join('\n')
          const [compiled, again] = renewed(before, after, [{}, { enough }])
          expect(again).toEqual(rulebook(after, { enough }))
          expect(again!.model).toBe(compiled.model)
          expect(again!.space).toBe(compiled.space)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('leaves states that pass by themselves, and what the agent sees, as they are', () => {
    const before = `state minute from 0 to 12
state lit yes or no
start minute = 0, lit = no
action light
action wait
chance wind ~ coin(0.5)
next minute = minute + 1
next lit = lit or (action = light and not wind)
pass when minute mod 3 != 0 discounted 0.9
observe lit
reward if lit then 1 else 0
end when minute = 12
policy "once": wait when lit, light`
    const after = `${before.replace('once": wait', 'always": light')} # again\npolicy "never": wait`
    const [compiled, again] = renewed(before, after)
    expect(compiled.model.states).toBeLessThan(12)
    expect(again).toEqual(rulebook(after))
    expect(again!.policies.map(({ policy }) => policy.reduce((x, y) => x + y))).toEqual([7, 7])
  })

  it('keeps its policies where nothing but comments and spaces change', () => {
    const after = `# first\n${TEXT.replaceAll('\n', '\n\n')}   # last`
    const [compiled, again] = renewed(TEXT, after)
    expect(again!.policies).toBe(compiled.policies)
    expect(again).toEqual(rulebook(after))
  })

  it('is compiled as a whole when anything else changes', () => {
    const changes: [string, string][] = [
      ['pay[sell]', 'pay[sell] + 1'],
      ['0.25', '0.26'],
      ['1, 2, 3, 5', '1, 2, 3, 6'],
      ['most = 4', 'most = 5'],
      ['"flood"', '"high water"'],
      ['measure sold', 'measure gone'],
      ['check "never empty"', 'check "not empty"'],
      ['\nchance rain ~ coin(0.5)', ''],
      ['\npolicy "none"', '\nreward 0\npolicy "none"'],
    ]
    for (const [from, to] of changes) {
      expect(TEXT).toContain(from)
      expect(renewed(TEXT, TEXT.replace(from, to))[1], to).toBeNull()
    }
    expect(renewed(TEXT, TEXT, [{}, { most: 5 }])[1]).toBeNull()
    // A knob that a used knob's range reads.
    const chained = `knob top = 5 from 1 to 9\n${TEXT.replace('from 2 to 6', 'from 2 to top')}`
    expect(renewed(chained, chained, [{}, { top: 6 }])[1]).toBeNull()
  })

  it('is compiled as a whole where something is wrong, so that this is told', () => {
    for (const after of [
      TEXT.replace('sell 2', 'sel 2'),
      TEXT.replace('"none"', '"all"'),
      `${TEXT} $`,
      `${TEXT}\npolicy "x": sell pay[left - 9]`,
    ]) {
      expect(() => rulebook(after)).toThrow()
      expect(renewed(TEXT, after)[1], after).toBeNull()
    }
  })
})
