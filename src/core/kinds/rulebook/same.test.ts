import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { solveOptimum } from '../../plan/solve'
import { problemsOf, rulebook } from '../../testing/rulebooks'
import { SameOrder } from './same-order'

/** Vans of the museum, each in a hall with so many boxes on it. */
const vans = (count: number, same: string) => `state at list of ${count} in cellar, attic, yard
state load list of ${count} from 0 to 1
start at = cellar, load = 0
${same}
action send with van from 1 to ${count}, to in cellar, attic, yard when at[van] != to
action fill with van from 1 to ${count} when at[van] = cellar and load[van] = 0
table way for cellar = 0.2, attic = 3, yard = 1
chance wanted ~ pick(attic: 0.5, yard: rest)
let sent = [if action = send and van = i then to else at[i] for i from 1 to ${count}]
let bringing = any([sent[i] = wanted and load[i] = 1 for i from 1 to ${count}])
let who = place([sent[i] = wanted and load[i] = 1 for i from 1 to ${count}])
reward -way[to] when action = send
reward 9 when bringing
next at = sent
next load = [if action = fill and van = i then 1 else if bringing and who = i then 0 else load[i] for i from 1 to ${count}]
`

/** A state with its items in order: `attic 0, cellar 1` */
const ordered = (label: string) => {
  const [at, load] = label.split(', ').map((part) => part.split(' ').slice(1))
  return at
    .map((hall, i) => `${['cellar', 'attic', 'yard'].indexOf(hall)} ${load[i]}`)
    .sort()
    .join(', ')
}

describe('items that may be exchanged', () => {
  it.each([2, 3])('make fewer states of the same worth: %i vans', (count) => {
    const plain = rulebook(vans(count, ''))
    const same = rulebook(vans(count, 'same at, load'))
    expect(plain.facts.unordered).toBeNull()
    expect(same.model.states).toBe(new Set(plain.model.labels.map(ordered)).size)
    // Of two vans 21 pairs of six kinds, but never one full in the attic and one full in the yard: one of them is wanted.
    if (count === 2) expect(same.model.states).toBe(20)
    // Of two full vans in a hall the first is emptied, so that of three not every order comes up: it is a bound.
    expect(same.facts.unordered).toBe(count === 2 ? plain.model.states : plain.model.states + 6)
    const values = new Map<string, number>()
    const optimum = solveOptimum(same.model, 0.9)!.values
    same.model.labels.forEach((label, s) => values.set(ordered(label), optimum[s]))
    expect(values.size).toBe(same.model.states)
    solveOptimum(plain.model, 0.9)!.values.forEach((value, s) =>
      expect(value).toBeCloseTo(values.get(ordered(plain.model.labels[s]))!, 8),
    )
  })

  it('are kept in the order of their values', () => {
    const { model } = rulebook(vans(2, 'same at, load'))
    expect(model.labels).toContain('at cellar attic, load 1 0')
    expect(model.labels).not.toContain('at attic cellar, load 0 1')
    expect(model.labels).toContain('at yard yard, load 0 1')
    expect(model.labels).not.toContain('at yard yard, load 1 0')
  })

  it('are refused where something depends on their place', () => {
    const [problem] = problemsOf(
      vans(2, 'same at, load')
        .replace('reward 9', 'reward 0.5 * at_first\nreward 9')
        .replace('let bringing', 'let at_first = if sent[1] = attic then 1 else 0\nlet bringing'),
    )
    expect(problem.cause).toContain(
      'The items of at and load are not interchangeable: exchanging items 1 and 2 changes what actions pay or where they lead, when at ',
    )
    expect(problem.place).toBe('line 4, column 1')
    expect(problem.path!.length).toBeGreaterThan(0)
    // Only where it can be chosen, or where it ends.
    for (const [from, to] of [
      ['when at[van] != to', 'when at[van] != to and van < 2'],
      ['next at = sent', 'next at = sent\nend when at[2] = attic'],
      ['next at = sent', 'next at = sent\nmeasure first = at[1] = attic'],
      [
        'next at = sent',
        'next at = sent\nimpossible actions are penalised by (if at[1] = attic then 1 else 2)',
      ],
    ])
      expect(problemsOf(vans(2, 'same at, load').replace(from, to))[0].cause).toContain('not interchangeable')
  })

  it('are lists of one length, each named once', () => {
    const told = (line: string) => {
      const [{ place, cause }] = problemsOf(
        `state a list of 2 from 0 to 1\nstate b list of 3 from 0 to 1\nstate c from 0 to 1\nstart a = 0, b = 0, c = 0\naction go\n${line}`,
      )
      return `${place}: ${cause}`
    }
    expect(told('same c')).toBe('line 6, column 6: c is no list.')
    expect(told('same a, b')).toBe('line 6, column 9: b has 3 items, a has 2.')
    expect(told('same a, a')).toBe('line 6, column 9: a is named in a “same” line already.')
    expect(told('same a\nsame a')).toBe('line 7, column 6: a is named in a “same” line already.')
    expect(told('same d')).toContain('There is no state variable “d”.')
  })
})

describe('the order of items', () => {
  it('is one for all states that differ in order alone, and counts them', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(2), fc.nat(3)), { minLength: 1, maxLength: 4 }), (items) => {
        const sizes = Float64Array.from([...items.map(() => 3), ...items.map(() => 4)])
        const radix = new Float64Array(sizes.length)
        let factor = 1
        for (let d = sizes.length - 1; d >= 0; d--) {
          radix[d] = factor
          factor *= sizes[d]
        }
        const n = items.length
        const group = { names: ['at', 'load'], items: items.map((_, i) => [i, n + i]), from: 0, to: 1 }
        const order = new SameOrder([group], radix, sizes)
        const codeOf = (list: readonly (readonly number[])[]) =>
          list.reduce((sum, [at, load], i) => sum + at * radix[i] + load * radix[n + i], 0)
        const all = new Set(permutations(items).map(codeOf))
        const sorted = codeOf([...items].sort((x, y) => x[0] - y[0] || x[1] - y[1]))
        for (const code of all) expect(order.ordered(code)).toBe(sorted)
        expect(order.orders(sorted)).toBe(all.size)
        if (n > 1)
          expect(order.exchanged(codeOf(items), group, 0)).toBe(
            codeOf([items[1], items[0], ...items.slice(2)]),
          )
      }),
    )
  })
})

function permutations<T>(items: readonly T[]): T[][] {
  if (items.length === 0) return [[]]
  return items.flatMap((item, i) => permutations(items.toSpliced(i, 1)).map((rest) => [item, ...rest]))
}
