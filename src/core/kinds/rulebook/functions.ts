import { exponential } from '../../random/exponential'
import { placeWithin } from './look-up'
import type { Span } from './place'
import { RuleFault } from './place'
import { cosine, sine } from './trigonometry'
import {
  derived,
  hull,
  isList,
  joinTypes,
  numberType,
  UNKNOWN,
  type ListValue,
  type Run,
  type Scalar,
  type Value,
} from './values'

/** What a function sees of its call. */
export interface Call extends Span {
  readonly args: readonly Value[]
  /** An argument as a number; tells the fault and gives a stand-in when it is none. */
  number(i: number): Scalar
  whole(i: number): Scalar
  list(i: number): ListValue
  /** A list of numbers; or the arguments themselves, where one may write max(a, b). */
  numbers(): readonly Scalar[]
  fault(cause: string, remedy: string): Scalar
}

export interface BuiltIn {
  /** How it is written, for the editor and the documentation. */
  readonly form: string
  readonly says: string
  /** The least and the greatest number of arguments. */
  readonly count: readonly [number, number]
  apply(call: Call): Value
}

type Bounds = { readonly low: number; readonly high: number }

function bounds(value: Scalar): Bounds {
  return value.type.kind === 'number' ? value.type : { low: -Infinity, high: Infinity }
}

function isWhole(value: Scalar): boolean {
  return value.type.kind !== 'number' || value.type.whole
}

/** A function of one number that is monotone where it is told to be. */
function monotone(whole: boolean | 'as given', f: (x: number) => number): (call: Call) => Value {
  return (call) => {
    const x = call.number(0)
    const { low, high } = bounds(x)
    const run = x.run
    return derived(
      numberType(whole === 'as given' ? isWhole(x) : whole, ...hull([f(low), f(high)])),
      [x],
      (frame) => f(run(frame)),
    )
  }
}

function extreme(pick: (...values: number[]) => number): (call: Call) => Value {
  return (call) => {
    const items = call.numbers()
    if (!items.length) return UNKNOWN
    const type = numberType(
      items.every(isWhole),
      pick(...items.map((item) => bounds(item).low)),
      pick(...items.map((item) => bounds(item).high)),
    )
    if (items.length === 2) {
      const [a, b] = items.map((item) => item.run)
      return derived(type, items, (frame) => pick(a(frame), b(frame)))
    }
    const runs = items.map((item) => item.run)
    return derived(type, items, (frame) => {
      let best = runs[0](frame)
      for (let i = 1; i < runs.length; i++) best = pick(best, runs[i](frame))
      return best
    })
  }
}

/** A list with places changed by position: `at(i, positions)` says which item stands at place i. */
function picked(
  call: Call,
  positions: readonly Scalar[],
  at: (i: number, positions: number[]) => number,
): Value {
  const { items } = call.list(0)
  const runs = items.map((item) => item.run)
  const whens = positions.map((position) => position.run)
  const constant = positions.every((position) => position.constant !== undefined)
  if (constant) {
    const fixed = positions.map((position) => position.constant!)
    return { items: items.map((_, i) => items[at(i, fixed)]) }
  }
  const type = items.map((item) => item.type).reduce((one, other) => joinTypes(one, other) ?? one)
  return {
    items: items.map((_, i) =>
      derived(type, [...items, ...positions], (frame) =>
        runs[
          at(
            i,
            whens.map((when) => when(frame)),
          )
        ](frame),
      ),
    ),
  }
}

/** A position in a list, from 1; checked where it can be outside. */
function position(call: Call, i: number, length: number): Scalar {
  return placeWithin(call.whole(i), length, {
    from: call.from,
    to: call.to,
    tell: (...told) => call.fault(...told),
  })
}

function heldBetween({ run }: Scalar, low: number, high: number): Run {
  return (frame) => {
    const value = run(frame)
    return value < low ? (low < high ? low : high) : value > high ? high : value
  }
}

function sum(items: readonly Scalar[]): Scalar {
  const runs = items.map((item) => item.run)
  return derived(
    numberType(
      items.every(isWhole),
      items.reduce((total, item) => total + bounds(item).low, 0),
      items.reduce((total, item) => total + bounds(item).high, 0),
    ),
    items,
    (frame) => {
      let total = 0
      for (let i = 0; i < runs.length; i++) total += runs[i](frame)
      return total
    },
  )
}

/** Items that are truths; of anything else the fault is told. */
function truths(
  call: Call,
  name: string,
  remedy = `Write ${name}([x > 0 for x in list]).`,
): readonly Scalar[] {
  return call
    .list(0)
    .items.map((item) =>
      item.type.kind === 'truth' || item.type.kind === 'unknown'
        ? item
        : call.fault(`${name}(list) needs a list of truths.`, remedy),
    )
}

/** Truths for the items of a list that are equal to a value. */
function equalTo(call: Call, wanted: Value): readonly Scalar[] {
  return call.list(0).items.map((item) => {
    if (isList(wanted)) return call.fault('The value to look for is a list.', 'Give a single value.')
    if (wanted.type.kind !== item.type.kind && wanted.type.kind !== 'unknown' && item.type.kind !== 'unknown')
      return call.fault('The value is of another kind than the list.', 'Compare like with like.')
    return derived({ kind: 'truth' }, [item, wanted], (frame) =>
      item.run(frame) === wanted.run(frame) ? 1 : 0,
    )
  })
}

/** The item that stands at a place when they are sorted. */
function ranked(items: readonly Scalar[], at: number): Scalar {
  const bound = (end: 'low' | 'high') => items.map((item) => bounds(item)[end]).sort((a, b) => a - b)[at]
  const runs = items.map((item) => item.run)
  const scratch = new Float64Array(items.length)
  return derived(numberType(items.every(isWhole), bound('low'), bound('high')), items, (frame) => {
    for (let i = 0; i < runs.length; i++) scratch[i] = runs[i](frame)
    return scratch.sort()[at]
  })
}

/** A function over the reals with a range of its own; refuses what it cannot compute. */
function real(
  low: number,
  high: number,
  f: (x: number) => number,
  refuse: (x: number) => string | undefined,
) {
  return (call: Call): Value => {
    const x = call.number(0)
    const run = x.run
    const { from, to } = call
    return derived(numberType(false, low, high), [x], (frame) => {
      const value = run(frame)
      const cause = refuse(value)
      if (cause) throw new RuleFault({ from, to, cause, remedy: 'Guard it with max(…), min(…) or if.' })
      return f(value)
    })
  }
}

const TURN_LIMIT = 1e5
const tooLarge = (x: number) =>
  Math.abs(x) <= TURN_LIMIT ? undefined : `The angle is ${x}; up to ${TURN_LIMIT} either way is computed.`

/** The functions of the language, each once: the editor, the documentation and the compiler read them here. */
export const FUNCTIONS: Readonly<Record<string, BuiltIn>> = {
  min: {
    form: 'min(a, b, …) or min(list)',
    says: 'the smallest of the values',
    count: [1, 20],
    apply: extreme(Math.min),
  },
  max: {
    form: 'max(a, b, …) or max(list)',
    says: 'the largest of the values',
    count: [1, 20],
    apply: extreme(Math.max),
  },
  within: {
    form: 'within(x, low, high)',
    says: 'x, held between low and high',
    count: [3, 3],
    apply: (call) => {
      const [x, low, high] = [call.number(0), call.number(1), call.number(2)]
      return derived(
        numberType(
          isWhole(x) && isWhole(low) && isWhole(high),
          Math.min(Math.max(bounds(x).low, bounds(low).low), bounds(high).low),
          Math.min(Math.max(bounds(x).high, bounds(low).high), bounds(high).high),
        ),
        [x, low, high],
        low.constant !== undefined && high.constant !== undefined
          ? heldBetween(x, low.constant, high.constant)
          : (frame) => Math.min(Math.max(x.run(frame), low.run(frame)), high.run(frame)),
      )
    },
  },
  abs: {
    form: 'abs(x)',
    says: 'x without its sign',
    count: [1, 1],
    apply: (call) => {
      const x = call.number(0)
      const { low, high } = bounds(x)
      return derived(
        numberType(
          isWhole(x),
          low <= 0 && high >= 0 ? 0 : Math.min(Math.abs(low), Math.abs(high)),
          Math.max(Math.abs(low), Math.abs(high)),
        ),
        [x],
        (frame) => Math.abs(x.run(frame)),
      )
    },
  },
  round: {
    form: 'round(x)',
    says: 'the nearest whole number; a half goes up',
    count: [1, 1],
    apply: monotone(true, (x) => Math.floor(x + 0.5)),
  },
  floor: {
    form: 'floor(x)',
    says: 'the whole number at or below x',
    count: [1, 1],
    apply: monotone(true, Math.floor),
  },
  ceil: {
    form: 'ceil(x)',
    says: 'the whole number at or above x',
    count: [1, 1],
    apply: monotone(true, Math.ceil),
  },
  sqrt: {
    form: 'sqrt(x)',
    says: 'the square root of x, which must not be below 0',
    count: [1, 1],
    apply: real(0, Infinity, Math.sqrt, (x) =>
      x >= 0 ? undefined : `The square root of ${x} is no number.`,
    ),
  },
  exp: {
    form: 'exp(x)',
    says: 'e to the power x, for x up to 30',
    count: [1, 1],
    apply: real(0, 1.1e13, exponential, (x) => (x <= 30 ? undefined : `exp(${x}) is too large.`)),
  },
  sin: {
    form: 'sin(x)',
    says: 'the sine of an angle in radians',
    count: [1, 1],
    apply: real(-1, 1, sine, tooLarge),
  },
  cos: {
    form: 'cos(x)',
    says: 'the cosine of an angle in radians',
    count: [1, 1],
    apply: real(-1, 1, cosine, tooLarge),
  },
  sum: {
    form: 'sum(list)',
    says: 'all items of a list added up',
    count: [1, 1],
    apply: (call) => sum(call.numbers()),
  },
  count: {
    form: 'count(list, value)',
    says: 'how many items of a list are equal to a value; count(list) of truths counts the yes',
    count: [1, 2],
    apply: (call) => {
      const { items } = call.list(0)
      const wanted = call.args[1]
      const flags =
        wanted === undefined ? truths(call, 'count', 'Write count(list, value).') : equalTo(call, wanted)
      const total = sum(flags)
      return { ...total, type: numberType(true, 0, items.length) }
    },
  },
  place: {
    form: 'place(list, value)',
    says: 'the first place of a value in a list, 0 where it is nowhere; place(list) of truths: of the first yes',
    count: [1, 2],
    apply: (call) => {
      const wanted = call.args[1]
      const flags =
        wanted === undefined ? truths(call, 'place', 'Write place(list, value).') : equalTo(call, wanted)
      const runs = flags.map((flag) => flag.run)
      return derived(numberType(true, 0, runs.length), flags, (frame) => {
        for (let i = 0; i < runs.length; i++) if (runs[i](frame)) return i + 1
        return 0
      })
    },
  },
  any: {
    form: 'any(list)',
    says: 'whether any of a list of truths is yes',
    count: [1, 1],
    apply: (call) => {
      const flags = truths(call, 'any')
      const runs = flags.map((flag) => flag.run)
      return derived({ kind: 'truth' }, flags, (frame) => (runs.some((run) => run(frame)) ? 1 : 0))
    },
  },
  all: {
    form: 'all(list)',
    says: 'whether all of a list of truths are yes',
    count: [1, 1],
    apply: (call) => {
      const flags = truths(call, 'all')
      const runs = flags.map((flag) => flag.run)
      return derived({ kind: 'truth' }, flags, (frame) => (runs.every((run) => run(frame)) ? 1 : 0))
    },
  },
  sorted: {
    form: 'sorted(list)',
    says: 'the list with its numbers from the smallest to the largest',
    count: [1, 1],
    apply: (call) => {
      call.list(0)
      const items = call.numbers()
      return items.length ? { items: items.map((_, at) => ranked(items, at)) } : UNKNOWN
    },
  },
  length: {
    form: 'length(list)',
    says: 'how many items a list has',
    count: [1, 1],
    apply: (call) => {
      const n = call.list(0).items.length
      return derived(numberType(true, n, n), [], () => n)
    },
  },
  shift: {
    form: 'shift(list, new)',
    says: 'the list without its first item, and the new one at the end: for histories and orders on their way',
    count: [2, 2],
    apply: (call) => {
      const { items } = call.list(0)
      const added = call.args[1]
      if (isList(added)) return call.fault('The new item is a list.', 'Give a single value.')
      return { items: [...items.slice(1), added] }
    },
  },
  put: {
    form: 'put(list, place, new)',
    says: 'the list with another item at a place, counted from 1',
    count: [3, 3],
    apply: (call) => {
      const { items } = call.list(0)
      const at = position(call, 1, items.length)
      const added = call.args[2]
      if (isList(added)) return call.fault('The new item is a list.', 'Give a single value.')
      return {
        items: items.map((item, i) => {
          const type = joinTypes(item.type, added.type)
          if (!type)
            return call.fault('The new item is of another kind than the list.', 'Keep the items alike.')
          return derived(type, [item, added, at], (frame) =>
            at.run(frame) === i + 1 ? added.run(frame) : item.run(frame),
          )
        }),
      }
    },
  },
  swap: {
    form: 'swap(list, place, place)',
    says: 'the list with the items of two places exchanged',
    count: [3, 3],
    apply: (call) => {
      const { length } = call.list(0).items
      return picked(call, [position(call, 1, length), position(call, 2, length)], (i, [a, b]) =>
        i === a - 1 ? b - 1 : i === b - 1 ? a - 1 : i,
      )
    },
  },
  turn: {
    form: 'turn(list, steps)',
    says: 'the list turned round: with 1 the first item becomes the last, with -1 the last the first',
    count: [2, 2],
    apply: (call) => {
      const { length } = call.list(0).items
      return picked(call, [call.whole(1)], (i, [steps]) => (((i + steps) % length) + length) % length)
    },
  },
}
