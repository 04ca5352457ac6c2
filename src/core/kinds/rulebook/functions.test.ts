import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rulebook } from '../../testing/rulebooks'
import { FUNCTIONS, type Call } from './functions'
import { RuleFault } from './place'
import { BY_STATE, constantNumber, isList, numberType, slotValue, type Scalar, type Value } from './values'

/** What a function is given for one try: a value, and the interval it is declared to lie in. */
interface Given {
  readonly value: number
  readonly low: number
  readonly high: number
}

/** Whole numbers, or quarters where they need not be, so that sums are exact. */
function given(whole: boolean, least = -20, most = 20): fc.Arbitrary<Given> {
  const step = whole ? 1 : 0.25
  return fc
    .array(fc.integer({ min: least / step, max: most / step }), { minLength: 3, maxLength: 3 })
    .map((three) => three.toSorted((a, b) => a - b).map((x) => x * step))
    .map(([low, value, high]) => ({ low, value, high }))
}

/** A call with arguments that stand in the frame, one slot each; a list takes as many as it has items. */
class Tried implements Call {
  readonly from = 3
  readonly to = 9
  readonly faults: string[] = []
  readonly args: readonly Value[]
  private readonly values: number[] = []

  constructor(args: readonly (Given | readonly Given[])[], whole: boolean, constant = false) {
    const one = ({ value, low, high }: Given): Scalar => {
      if (constant) return constantNumber(value)
      this.values.push(value)
      return slotValue(this.values.length - 1, numberType(whole, low, high), BY_STATE)
    }
    this.args = args.map((arg) => ('value' in arg ? one(arg) : { items: arg.map(one) }))
  }

  get frame(): Float64Array {
    return Float64Array.from(this.values)
  }

  number(i: number): Scalar {
    const arg = this.args[i]
    if (isList(arg)) throw new Error(`Argument ${i} is a list.`)
    return arg
  }

  whole(i: number): Scalar {
    return this.number(i)
  }

  list(i: number) {
    const arg = this.args[i]
    if (!isList(arg)) throw new Error(`Argument ${i} is no list.`)
    return arg
  }

  numbers(): readonly Scalar[] {
    return isList(this.args[0]) ? this.args[0].items : this.args.map((_, i) => this.number(i))
  }

  fault(cause: string): Scalar {
    this.faults.push(cause)
    return constantNumber(0)
  }
}

/** What comes out, as numbers; every one must lie where its type says. */
function outcome(name: string, call: Tried): number[] {
  const value = FUNCTIONS[name].apply(call)
  const items = isList(value) ? value.items : [value]
  return items.map(({ type, run, constant }) => {
    const x = run(call.frame)
    if (type.kind !== 'number') throw new Error(`${name} gives ${type.kind}.`)
    expect(x).toBeGreaterThanOrEqual(type.low)
    expect(x).toBeLessThanOrEqual(type.high)
    if (type.whole) expect(Number.isInteger(x)).toBe(true)
    if (constant !== undefined) expect(x).toBe(constant)
    return x
  })
}

const either = fc.boolean()
const numbers = (whole: boolean, count: number) =>
  fc.array(given(whole), { minLength: count, maxLength: count })

describe('of numbers', () => {
  const one: [name: string, (x: number) => number][] = [
    ['abs', (x) => (x < 0 ? -x : x)],
    ['round', (x) => (x - Math.floor(x) < 0.5 ? Math.floor(x) : Math.floor(x) + 1)],
    ['floor', (x) => x - (((x % 1) + 1) % 1)],
    ['ceil', (x) => x + (((-x % 1) + 1) % 1)],
    ['sin', Math.sin],
    ['cos', Math.cos],
    ['exp', Math.exp],
  ]
  it.each(one)('%s is what it says, within the bounds it tells', (name, reference) => {
    fc.assert(
      fc.property(
        either.chain((whole) => fc.tuple(fc.constant(whole), given(whole), either)),
        ([whole, x, constant]) => {
          const [y] = outcome(name, new Tried([x], whole, constant))
          expect(Math.abs(y - reference(x.value))).toBeLessThanOrEqual(1e-14 * Math.max(1, Math.abs(y)))
        },
      ),
    )
  })

  it.each([
    ['min', (a: number, b: number) => (a < b ? a : b)],
    ['max', (a: number, b: number) => (a > b ? a : b)],
  ] as const)('%s takes its arguments and the items of a list alike', (name, reference) => {
    fc.assert(
      fc.property(
        either,
        fc.integer({ min: 1, max: 5 }).chain((count) => numbers(false, count)),
        (constant, items) => {
          const wanted = items.map(({ value }) => value).reduce(reference)
          expect(outcome(name, new Tried(items, false, constant))).toEqual([wanted])
          expect(outcome(name, new Tried([items], false, constant))).toEqual([wanted])
        },
      ),
    )
  })

  it('within holds a number between two others; where these are crossed, the upper one counts', () => {
    fc.assert(
      fc.property(either, numbers(true, 3), (constant, three) => {
        const [x, low, high] = three.map(({ value }) => value)
        const wanted = high < low ? high : x < low ? low : x > high ? high : x
        expect(outcome('within', new Tried(three, true, constant))).toEqual([wanted])
      }),
    )
  })

  it('within knows fixed limits', () => {
    for (const [low, high, wanted] of [
      [0, 5, 5],
      [9, 12, 9],
      [0, 20, 7],
      [5, 2, 2],
    ]) {
      const { model } = rulebook(
        `state x from 0 to 9\nstart x = 7\naction wait\nreward within(x, ${low}, ${high})`,
      )
      expect(model.outcomeReward[0]).toBe(wanted)
    }
  })

  it('refuse what they cannot compute, where it happens', () => {
    const at = (name: string, value: number) => () =>
      outcome(name, new Tried([{ value, low: -1e9, high: 1e9 }], false))
    expect(at('sqrt', -0.25)).toThrow(RuleFault)
    expect(at('sqrt', 0)()).toEqual([0])
    expect(at('sqrt', 2.25)()).toEqual([1.5])
    expect(at('exp', 30)()[0] / Math.exp(30)).toBeCloseTo(1, 14)
    expect(at('exp', 30.1)).toThrow(RuleFault)
    expect(at('exp', -800)()).toEqual([0])
    expect(at('sin', 1e5)()[0]).toBeCloseTo(Math.sin(1e5), 10)
    expect(at('cos', -100_001)).toThrow(RuleFault)
  })
})

describe('of lists', () => {
  const list = fc.integer({ min: 1, max: 6 }).chain((count) => numbers(true, count))
  const place = (items: readonly Given[]) =>
    fc.integer({ min: 1, max: items.length }).map((value) => ({ value, low: 1, high: items.length }))
  const plain = (items: readonly Given[]) => items.map(({ value }) => value)

  it('sum and length', () => {
    fc.assert(
      fc.property(list, either, (items, constant) => {
        let total = 0
        for (const { value } of items) total += value
        expect(outcome('sum', new Tried([items], true, constant))).toEqual([total])
        expect(outcome('length', new Tried([items], true, constant))).toEqual([items.length])
      }),
    )
  })

  it('count what equals a value', () => {
    fc.assert(
      fc.property(list, given(true, -3, 3), either, (items, wanted, constant) => {
        const equal = items.filter(({ value }) => value === wanted.value)
        expect(outcome('count', new Tried([items, wanted], true, constant))).toEqual([equal.length])
      }),
    )
  })

  it('place tells where a value comes first, 0 where it is nowhere', () => {
    fc.assert(
      fc.property(list, given(true, -3, 3), either, (items, wanted, constant) => {
        let place = 0
        plain(items).forEach((value, i) => {
          if (place === 0 && value === wanted.value) place = i + 1
        })
        expect(outcome('place', new Tried([items, wanted], true, constant))).toEqual([place])
      }),
    )
  })

  it('sorted has the same numbers, none before a smaller one', () => {
    fc.assert(
      fc.property(either, list, either, (whole, items, constant) => {
        const sorted = outcome('sorted', new Tried([items], whole, constant))
        for (let i = 1; i < sorted.length; i++) expect(sorted[i - 1]).toBeLessThanOrEqual(sorted[i])
        for (const x of plain(items))
          expect(sorted.filter((y) => y === x)).toHaveLength(plain(items).filter((y) => y === x).length)
      }),
    )
  })

  it('shift drops the first and adds at the end', () => {
    fc.assert(
      fc.property(list, given(true), (items, added) => {
        expect(outcome('shift', new Tried([items, added], true))).toEqual([
          ...plain(items).slice(1),
          added.value,
        ])
      }),
    )
  })

  it('put and swap change the places named, and no others', () => {
    const cases = list.chain((items) =>
      fc.tuple(fc.constant(items), place(items), place(items), given(true), either),
    )
    fc.assert(
      fc.property(cases, ([items, one, other, added, constant]) => {
        const changed = plain(items)
        changed[one.value - 1] = added.value
        expect(outcome('put', new Tried([items, one, added], true, constant))).toEqual(changed)

        const swapped = plain(items)
        ;[swapped[one.value - 1], swapped[other.value - 1]] = [
          swapped[other.value - 1],
          swapped[one.value - 1],
        ]
        expect(outcome('swap', new Tried([items, one, other], true, constant))).toEqual(swapped)
      }),
    )
  })

  it('turn one step at a time, either way, and back', () => {
    fc.assert(
      fc.property(list, given(true, -15, 15), either, (items, steps, constant) => {
        const wanted = plain(items)
        for (let i = 0; i < Math.abs(steps.value); i++)
          if (steps.value > 0) wanted.push(wanted.shift()!)
          else wanted.unshift(wanted.pop()!)
        expect(outcome('turn', new Tried([items, steps], true, constant))).toEqual(wanted)
      }),
    )
  })

  it('refuse a place outside: at once where it always is, else where it happens', () => {
    const three = [1, 2, 3].map((value) => ({ value, low: 0, high: 9 }))
    const added = { value: 8, low: 8, high: 8 }
    for (const [low, high] of [
      [4, 7],
      [-2, 0],
    ]) {
      const call = new Tried([three, { value: low, low, high }, added], true)
      FUNCTIONS.put.apply(call)
      expect(call.faults).toEqual(['The list has the places 1 to 3.'])
    }
    const sometimes = (value: number) => () =>
      outcome('put', new Tried([three, { value, low: 0, high: 4 }, added], true))
    expect(sometimes(2)()).toEqual([1, 8, 3])
    expect(sometimes(0)).toThrow('The place is 0, the list has the places 1 to 3.')
    expect(sometimes(4)).toThrow(RuleFault)
  })
})
