import { readEnvironment } from '../../environment/read'
import { compileEnvironment } from '../../environment/compile'
import fc from 'fast-check'
import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { checkEnvironment, parseEnvironment } from '../../environment/document'
import { ProblemError } from '../../problem'
import { RulebookCompiler } from './enumerate'
import { lex } from './lexer'
import { CLAUSE_WORDS } from './clause-words'
import { CALLS, RULES } from './vocabulary'

const BUDGET = { rows: 300, happenings: 3000 }

/** Compiles; anything but a model or problems with a line and a column is a fault of ours. */
function survives(text: string): void {
  try {
    const compiler = new RulebookCompiler(
      { text, knobs: {}, view: { across: null, up: null, others: {} } },
      10,
      BUDGET,
    )
    while (!compiler.advance(100));
    const { model } = compiler.finish()
    for (const x of [...model.outcomeProbability, ...model.outcomeReward])
      expect(Number.isFinite(x)).toBe(true)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    expect(error.problems.length).toBeGreaterThan(0)
    for (const { place, cause, remedy, span } of error.problems) {
      expect(place).toMatch(/^line \d+, column \d+$/)
      expect(cause.length).toBeGreaterThan(5)
      expect(`${cause}${remedy}`).not.toMatch(/undefined|\bNaN\b|\[object/)
      expect(remedy.length).toBeGreaterThan(5)
      expect(span!.from).toBeLessThanOrEqual(Math.max(span!.to, text.length))
    }
  }
}

const DEMOS = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((name) => parseEnvironment(readFileSync(`demo/${name}`, 'utf8')))
  .flatMap((document) => (document.kind === 'rulebook' ? [document.rulebook.text] : []))
const EXAMPLES = [...readFileSync('docs/rulebook.md', 'utf8').matchAll(/```rules\n([^]*?)```/g)].map(
  ([, text]) => text,
)

const word = fc.constantFrom(
  ...Object.keys(RULES),
  ...CLAUSE_WORDS,
  ...Object.keys(CALLS),
  ...[
    'left',
    'a',
    'b',
    'q',
    'dry',
    'wet',
    'n',
    '0',
    '1',
    '2',
    '3.5',
    '50%',
    '"text"',
    '1e300',
    '__proto__',
    'constructor',
    'item',
    'a: 0.5',
  ],
  ...[
    '=',
    '!=',
    '<',
    '<=',
    '+',
    '-',
    '*',
    '/',
    '^',
    '(',
    ')',
    '[',
    ']',
    ',',
    ':',
    '~',
    '\n',
    '\n',
    '\n  ',
    '#',
  ],
)
const soup = fc.array(word, { maxLength: 60 }).map((words) => words.join(' '))

/** A good rulebook with a few words changed, left out, doubled or exchanged. */
const mutant = fc
  .record({
    text: fc.constantFrom(...DEMOS, ...EXAMPLES),
    edits: fc.array(
      fc.record({
        at: fc.nat(),
        how: fc.constantFrom('drop', 'swap', 'put', 'number'),
        with: word,
        by: fc.double({ min: -20, max: 20, noNaN: true }),
      }),
      {
        minLength: 1,
        maxLength: 3,
      },
    ),
  })
  .map(({ text, edits }) =>
    edits.reduce((current, { at, how, with: other, by }) => {
      const tokens = lex(current).statements.flatMap((statement) => statement.tokens)
      if (!tokens.length) return current
      const token = tokens[at % tokens.length]
      const next = tokens[(at + 1) % tokens.length]
      const put =
        how === 'drop'
          ? ''
          : how === 'swap'
            ? next.text
            : how === 'put'
              ? other
              : String(Number(by.toFixed(2)))
      return current.slice(0, token.from) + put + current.slice(token.to)
    }, text),
  )

/** A good rulebook whose lines are repeated and moved, and whose declarations change their kind, length or domain. */
const rearranged = fc
  .record({
    text: fc.constantFrom(...DEMOS, ...EXAMPLES),
    edits: fc.array(
      fc.record({
        from: fc.nat(),
        to: fc.nat(),
        how: fc.constantFrom('repeat', 'move', 'kind', 'length', 'domain'),
        word: fc.constantFrom('knob', 'table', 'state', 'action', 'chance', 'let', 'measure', 'next'),
        domain: fc.constantFrom('yes or no', 'from 0 to 2', 'in dry, wet', 'from 0 to 1 in 3 buckets', '= 1'),
        length: fc.integer({ min: 1, max: 4 }),
      }),
      { minLength: 1, maxLength: 4 },
    ),
  })
  .map(({ text, edits }) => {
    const lines = lex(text).statements.map(({ from, to }) => text.slice(from, to))
    for (const { from, to, how, word, domain, length } of edits) {
      const line = lines[from % lines.length]
      const [first, name = 'a', ...rest] = line.split(/\s+/)
      const changed = {
        repeat: line,
        move: line,
        kind: [word, name, ...rest].join(' '),
        length: `${first} ${name} list of ${length} ${rest.join(' ').replace(/^list of \S+ /, '')}`,
        domain: `${first} ${name} ${domain}`,
      }[how]
      if (how === 'move') lines.splice(from % lines.length, 1)
      lines.splice(to % (lines.length + 1), 0, changed)
    }
    return lines.join('\n')
  })

describe('the parser and compiler survive', () => {
  it('declarations that are repeated, moved and changed in kind (2,500 cases)', () => {
    fc.assert(fc.property(rearranged, survives), { numRuns: 2500 })
  }, 120_000)

  it('any text (2,500 cases)', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 120 }), survives), { numRuns: 2500 })
  })

  it('the words of the language in any order (2,500 cases)', () => {
    fc.assert(fc.property(soup, survives), { numRuns: 2500 })
  })

  it('good rulebooks gone wrong (2,500 cases)', () => {
    fc.assert(fc.property(mutant, survives), { numRuns: 2500 })
  }, 120_000)
})

describe('the document loader survives', () => {
  const good = JSON.parse(readFileSync('demo/escalator-care.json', 'utf8')) as Record<string, unknown>
  const survivesDocument = (read: () => unknown) => {
    try {
      read()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      expect(error.problems[0].cause.length).toBeGreaterThan(5)
    }
  }

  it('any value in any place of a rulebook document (1,500 cases)', () => {
    const path = fc.constantFrom(
      'name',
      'note',
      'discount',
      'cap',
      'kind',
      'version',
      'rulebook',
      'rulebook.text',
      'rulebook.knobs',
      'rulebook.knobs.rush',
      'rulebook.view',
      'rulebook.view.across',
      'rulebook.view.others',
      'extra',
    )
    fc.assert(
      fc.property(path, fc.jsonValue(), (at, value) => {
        const document = structuredClone(good)
        const steps = at.split('.')
        let place: Record<string, unknown> = document
        for (const step of steps.slice(0, -1)) place = (place[step] ??= {}) as Record<string, unknown>
        place[steps.at(-1)!] = value
        survivesDocument(() => compileEnvironment(checkEnvironment(document), BUDGET))
      }),
      { numRuns: 1500 },
    )
  }, 60_000)

  it('any text that claims to be an environment, a rulebook or a list (1,000 cases)', () => {
    const start = fc.constantFrom(
      '',
      '{',
      '[',
      'state a from 0 to 3\n',
      '# remark\n',
      'state,action,next_state,probability,reward\n',
      JSON.stringify(good).slice(0, 300),
    )
    fc.assert(
      fc.property(start, fc.string({ maxLength: 100 }), (head, tail) => {
        survivesDocument(() => compileEnvironment(readEnvironment(head + tail, 'x'), BUDGET))
      }),
      { numRuns: 1000 },
    )
  })
})

describe('within a second', () => {
  const HEAD = 'knob n = 3 from 1 to 5\nstate left from 0 to 12\nstart left = n\naction sell\naction wait\n'
  it.each([
    ['a million characters', 'x'.repeat(1_000_000), /has 1000000 characters; 100000 are read/],
    ['a million characters in lines', `${HEAD}reward 1\n`.repeat(12_000), /characters; 100000 are read/],
    [
      'a trillion states',
      'state a list of 3 from 0 to 9999\nstart a = 0\naction x',
      /1 × 10\^12 combinations/,
    ],
    ['recursion', `${HEAD}let a = b + 1\nlet b = a`, /“b” is not known here yet/],
    ['a name in its own definition', `${HEAD}let a = a + 1`, /stands in its own definition/],
    ['a knob outside its range', HEAD.replace('= 3 from', '= 9 from'), /9 is not in the range 1 to 5/],
    [
      'endless chances',
      `${HEAD}chance dice list of 40 ~ uniform(1, 6)\nreward sum(dice)`,
      /more than 200000 outcomes/,
    ],
    ['very deep brackets', `${HEAD}reward ${'('.repeat(49_000)}`, /nested more than 120 deep/],
    ['thousands of faults', 'reward (\n'.repeat(9000), /Here should stand/],
    ['thousands of rules', `${HEAD}${'let\n'.repeat(20_000)}`, /Here should stand/],
  ])('refuses %s', (_, text, cause) => {
    const began = performance.now()
    expect(() => {
      const compiler = new RulebookCompiler(
        { text, knobs: {}, view: { across: null, up: null, others: {} } },
        10,
      )
      while (!compiler.advance(1000));
    }).toThrow(cause)
    // Loose, as machines differ: what is meant is that nothing hangs.
    expect(performance.now() - began).toBeLessThan(5000)
  })
})
