import fc from 'fast-check'
import { expect, it } from 'vitest'
import { describeProblem, ProblemError } from '../problem'
import { parseTransitionList } from '../kinds/table/transition-list'
import { gridDocument } from '../testing/models'
import { checkEnvironment } from './document'
import { compileEnvironment } from './compile'
import { readEnvironment } from './read'
import { newTable, tableEnvironment } from '../kinds/table/blank'
import { newBandit } from '../kinds/bandit/blank'

/** Small documents with something of everything, to be damaged. */
const SEEDS: readonly object[] = [
  gridDocument(['..:.', '.#..', '....'], {
    starts: [{ at: 'A1', weight: 2 }],
    endings: [{ at: 'D3', reward: 5, name: 'door' }],
    bonuses: [{ at: 'B1', reward: 1, once: true, name: '' }],
    sendBacks: [{ at: 'C2', reward: -1, to: null, name: '' }],
    jumps: [{ at: 'A3', to: 'D1' }],
    tokens: [{ at: 'B3', name: 'key', reward: 0 }],
    gates: [{ at: 'C3', token: 'key' }],
    draughts: [{ at: 'A1', toward: 'east', strength: 2, chance: 0.5 }],
    veer: 0.2,
    stay: true,
  }),
  {
    ...newBandit('arms'),
    bandit: {
      ...newBandit('arms').bandit,
      arms: [
        { name: 'a', pays: [{ type: 'gaussian', mean: 1, deviation: 2 }] },
        {
          name: 'b',
          pays: [
            { type: 'uniform', low: 0, high: 1 },
            { type: 'bernoulli', chance: 0.5, reward: 1 },
          ],
        },
      ],
      contexts: [
        { name: 'x', weight: 1 },
        { name: 'y', weight: 2 },
      ],
      pulls: 3,
      drift: { type: 'walk', step: 0.5, seed: 1 },
    },
    knobs: [{ name: 'mean', sets: 'arms[a].mean', low: 0, high: 2, step: 0.1 }],
  },
  newTable('table'),
]

type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

/** Every place in a document, as the way to it. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path]
  return [
    path,
    ...Object.entries(value).flatMap(([key, field]) =>
      places(field, [...path, Array.isArray(value) ? Number(key) : key]),
    ),
  ]
}

function damaged(
  document: object,
  path: readonly (string | number)[],
  how: 'put' | 'drop' | 'double',
  put: Json,
): unknown {
  const copy = structuredClone(document)
  if (path.length === 0) return how === 'put' ? put : copy
  let holder = copy as Record<string | number, unknown>
  for (const key of path.slice(0, -1)) holder = holder[key] as Record<string | number, unknown>
  const last = path.at(-1)!
  if (how === 'drop') delete holder[last]
  else if (how === 'double' && Array.isArray(holder)) holder.push(holder[last])
  else holder[last] = put
  return copy
}

const nasty = fc.oneof(
  fc.jsonValue(),
  fc.constantFrom<Json>(
    ...[-1, 0, 0.5, 1, 2, 3.7, 1e9, -1e9, 1e300, 1e308, 4000, ''],
    ...[
      'A1',
      'D3',
      'Z99',
      '__proto__',
      'constructor',
      'key',
      'x'.repeat(10_000),
      '<b>&"',
      '\u0000',
      '#',
      '..',
      'north',
    ],
    ...[null, true, [], {}],
  ),
)

/** Runs something that may refuse its input, with a sentence, and may do nothing worse. */
function sound(run: () => void): void {
  try {
    run()
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    expect(error.problems.length).toBeGreaterThan(0)
    for (const problem of error.problems) {
      expect(describeProblem(problem)).not.toMatch(/undefined|NaN is|\[object/)
      expect(problem.cause.length).toBeLessThan(1000)
    }
  }
}

it('any damage to a document gives a document or problems, and a model without a number that is none', () => {
  const damage = fc.constantFrom(...SEEDS).chain((seed) =>
    fc.record({
      seed: fc.constant(seed),
      hits: fc.array(
        fc.record({
          path: fc.constantFrom(...places(seed)),
          how: fc.constantFrom('put' as const, 'put' as const, 'drop' as const, 'double' as const),
          put: nasty,
        }),
        { minLength: 1, maxLength: 3 },
      ),
    }),
  )
  fc.assert(
    fc.property(damage, ({ seed, hits }) => {
      let document: unknown = seed
      for (const { path, how, put } of hits)
        try {
          document = damaged(document as object, path, how, put as Json)
        } catch {
          // A second hit on what a first one took away.
        }
      sound(() => {
        const { model } = compileEnvironment(checkEnvironment(document))
        for (const numbers of [model.outcomeProbability, model.outcomeReward, model.startProbability])
          expect(numbers.every(Number.isFinite)).toBe(true)
        expect(new Set(model.labels).size).toBe(model.states)
      })
    }),
    { numRuns: 6000 },
  )
}, 120_000)

it('any text gives an environment or problems, whatever the file is called', () => {
  const list =
    'state,action,next_state,probability,reward\r\na,go,b,0.5,1\r\na,go,"c, d",0.5,-2\r\nb,go,a,1,0\r\n'
  const json = JSON.stringify(SEEDS[0])
  const cut = (text: string) =>
    fc
      .tuple(
        fc.nat(text.length),
        fc.nat(12),
        fc.oneof(
          fc.string({ unit: 'binary', maxLength: 8 }),
          fc.constantFrom('"', ',', '\n', '\r', ';', '1e999', 'NaN', '-', '\uFEFF', '{', ']'),
        ),
      )
      .map(([at, length, put]) => text.slice(0, at) + put + text.slice(at + length))
  const text = fc.oneof(
    { weight: 4, arbitrary: cut(list) },
    { weight: 2, arbitrary: cut(list).chain(cut) },
    { weight: 2, arbitrary: cut(json) },
    { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 80 }) },
  )
  fc.assert(
    fc.property(text, fc.constantFrom('', '.csv', '.json', '.txt', '.rules'), (given, ending) => {
      sound(() => {
        const document = readEnvironment(given, 'fuzz', ending)
        if (document.kind !== 'rulebook') compileEnvironment(document)
      })
    }),
    { numRuns: 4000 },
  )
}, 120_000)

it('a list of fifty thousand rows is read and compiled; one that is damaged says where', () => {
  const lines = Array.from({ length: 50_000 }, (_, i) => `s${i},go,s${(i + 1) % 50_000},1,${i % 7}`)
  const text = ['state,action,next_state,probability,reward', ...lines].join('\n')
  const transitions = parseTransitionList(text)
  expect(compileEnvironment(tableEnvironment('large', transitions)).model.states).toBe(50_000)
  const broken = text.replace('s40000,go,s40001,1,', 's40000,go,s40001,one,')
  expect(() => parseTransitionList(broken)).toThrow(
    /line 40002, column probability: "one" is not a number from 0 to 1/,
  )
})
