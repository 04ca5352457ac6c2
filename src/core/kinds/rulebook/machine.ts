import { isPmfFault, type Pmf } from './distributions'
import { listNames } from '../../problem'
import { RuleFault, type Span } from './place'
import type { ChanceStep, Choice, Program } from './program'
import { SameOrder } from './same-order'
import { HUGE, type Run } from './values'
import { indexOfValue, shareBuckets, valueAt, type BucketShare, type Dimension } from './variables'

/** Outcomes that one action in one state may have before equal ones are added up. */
const LEAF_LIMIT = 200_000
/** How far the chances of a pick may be from 1 in sum. */
const SUM_SLACK = 1e-9

/**
 * The probability and the reward of what has just fallen, and the discount of what follows. Numbers in an array: handed from function to function they
 * would be put into objects of their own, millions of times.
 */
export type Now = Float64Array

/** Where the machine tells what an action can lead to. */
export interface OutcomeSink {
  /** @param code  of the next state, or -1 - k for the k-th way to end after a step */
  outcome(code: number, now: Now): void
  /** After the chances have fallen, before the outcome is told: measures and checks look at the frame here. */
  happened(now: Now): void
}

/** What a value does that leaves its range. */
export type Overflow = 'fault' | 'hold'

/** Runs a program: one action in one state at a time, over every way in which chance can fall. */
export class RuleMachine {
  readonly frame: Float64Array
  readonly dimensions: readonly Dimension[]
  /** What a step of each dimension's value adds to a state's code. */
  private readonly radix: Float64Array
  /** The dimensions once more, in arrays: where they are all whole numbers, these are all it takes. */
  private readonly plain: boolean
  private readonly lows: Float64Array
  private readonly sizes: Float64Array
  private readonly nextSlots: Int32Array
  private readonly watched: boolean
  /** Of lists whose items may be exchanged. */
  readonly order: SameOrder
  private readonly operationSlots: readonly Int32Array[]
  private readonly operationRuns: readonly (readonly Run[])[]
  /** [chances + 1] the probability of what has fallen so far, and the reward of it */
  private readonly chances: Float64Array
  private readonly earned: Float64Array
  private readonly now: Now = Float64Array.of(0, 0, 1)
  private readonly caches: readonly PmfCache[]
  private readonly shares: BucketShare[]
  private sink!: OutcomeSink
  private overflow: Overflow = 'fault'
  private leaves = 0
  /** How many chances have fallen so far. */
  private fell = 0
  /** Set while a state is scrambled: no step ends an episode then. */
  endless = false

  constructor(readonly program: Program) {
    this.frame = new Float64Array(program.frameSize)
    this.dimensions = program.variables.flatMap((variable) => variable.dimensions)
    this.radix = new Float64Array(this.dimensions.length)
    let factor = 1
    for (let d = this.dimensions.length - 1; d >= 0; d--) {
      this.radix[d] = factor
      factor *= this.dimensions[d].size
    }
    this.plain = this.dimensions.every(({ kind }) => kind === 'whole')
    this.lows = Float64Array.from(this.dimensions, ({ low }) => low)
    this.sizes = Float64Array.from(this.dimensions, ({ size }) => size)
    this.nextSlots = Int32Array.from(this.dimensions, ({ nextSlot }) => nextSlot)
    this.order = new SameOrder(program.same, this.radix, this.sizes)
    this.watched = program.measures.length + program.checks.length > 0
    this.operationSlots = program.operations.map((each) => Int32Array.from(each, ({ slot }) => slot))
    this.operationRuns = program.operations.map((each) => each.map(({ value }) => value.run))
    this.chances = new Float64Array(program.chances.length + 1)
    this.earned = new Float64Array(program.chances.length + 1)
    this.caches = program.chances.map((chance) => new PmfCache(chance))
    this.shares = this.dimensions.map(() => ({ index: 0, share: 0 }))
  }

  /** Puts a state into the frame and computes what follows from it alone. */
  load(code: number): void {
    const { frame, dimensions, radix } = this
    let rest = code
    for (let d = 0; d < dimensions.length; d++) {
      const index = Math.floor(rest / radix[d])
      rest -= index * radix[d]
      frame[dimensions[d].slot] = valueAt(dimensions[d], index)
    }
    for (const { slot, value } of this.program.byState) frame[slot] = value.run(frame)
  }

  /** The number of a dimension's value in a state. */
  indexIn(code: number, d: number): number {
    return Math.floor(code / this.radix[d]) % this.dimensions[d].size
  }

  /** The code of the state whose dimensions have these values, by their numbers. */
  codeOf(indexOf: (d: number) => number): number {
    return this.radix.reduce((code, factor, d) => code + factor * indexOf(d), 0)
  }

  /** Sets the frame for a choice, or for passing by itself. */
  choose(choice: Choice | null): void {
    const { frame, program } = this
    const { levelSlots } = program
    for (let i = 0; i < levelSlots.length; i++) frame[levelSlots[i]] = NaN
    frame[program.actionSlot] = choice ? choice.action : program.passWord
    if (!choice) return
    const { given } = choice
    for (let i = 0; i < given.length; i++) frame[given[i].slot] = given[i].value
  }

  /** Whether the choice that is set can be taken here. */
  possible({ when }: Choice): boolean {
    return !when || when.run(this.frame) === 1
  }

  /** Goes through all outcomes of the choice that is set. */
  run(sink: OutcomeSink, overflow: Overflow): void {
    this.sink = sink
    this.overflow = overflow
    this.leaves = 0
    this.chances[0] = 1
    this.descend(0)
  }

  private descend(depth: number): void {
    const { frame } = this
    this.fell = depth
    const slots = this.operationSlots[depth]
    const runs = this.operationRuns[depth]
    for (let i = 0; i < runs.length; i++) frame[slots[i]] = runs[i](frame)
    const parts = this.program.rewards[depth]
    let reward = depth > 0 ? this.earned[depth - 1] : 0
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]
      if (part.when && part.when.run(frame) === 0) continue
      const value = part.value.run(frame)
      if (!(Math.abs(value) <= HUGE)) this.refuseNumber(part, 'The reward', value)
      reward += value
    }
    this.earned[depth] = reward
    if (depth === this.program.chances.length) {
      this.arrive(depth)
      return
    }
    const { slot } = this.program.chances[depth]
    const { values, chances } = this.caches[depth].pmf(frame)
    const sofar = this.chances[depth]
    for (let i = 0; i < values.length; i++) {
      frame[slot] = values[i]
      this.chances[depth + 1] = sofar * chances[i]
      this.descend(depth + 1)
    }
  }

  private arrive(depth: number): void {
    const { frame, program, sink, now } = this
    if (++this.leaves > LEAF_LIMIT)
      throw new RuleFault({
        ...program.chances[0],
        cause: `One action has more than ${LEAF_LIMIT} outcomes: the chances ${listNames(program.chances.map(({ name }) => name))} multiply.`,
        remedy: 'Use fewer chances, or cut them off with “up to”.',
      })
    now[0] = this.chances[depth]
    now[1] = this.earned[depth]
    if (program.discounts.length) now[2] = this.discountNow()
    if (this.watched) sink.happened(now)
    if (!this.endless)
      for (let k = 0; k < program.endsAfter.length; k++)
        if (program.endsAfter[k].value.run(frame) === 1) {
          sink.outcome(-1 - k, now)
          return
        }
    if (this.plain) this.settlePlain()
    else this.settle(0, 0, now[0])
  }

  /** The product of all discounts that hold. */
  private discountNow(): number {
    const { frame, program } = this
    let product = 1
    for (const { when, value, from, to } of program.discounts) {
      if (when && when.run(frame) === 0) continue
      const discount = value.run(frame)
      if (!(discount >= 0 && discount <= 1))
        throw new RuleFault({
          from,
          to,
          cause: `The discount is ${Number.isNaN(discount) ? 'no number' : Number(discount.toPrecision(10))}.`,
          remedy: 'Keep it from 0 to 1: max(0, min(1, …)), or exp(-0.01 * minutes).',
        })
      product *= discount
    }
    return product
  }

  private settlePlain(): void {
    const { frame, lows, sizes, nextSlots, radix } = this
    let code = 0
    for (let d = 0; d < lows.length; d++) {
      const value = frame[nextSlots[d]]
      let index = value - lows[d]
      if (!(index >= 0 && index < sizes[d]) || index !== Math.floor(index))
        index = this.held(d, value) - lows[d]
      code += index * radix[d]
    }
    this.arriveIn(code)
  }

  private arriveIn(code: number): void {
    this.sink.outcome(this.program.same.length ? this.order.ordered(code) : code, this.now)
  }

  /** The next state's code, dimension by dimension; a real value may be shared by two buckets. */
  private settle(from: number, begun: number, probability: number): void {
    const { frame, dimensions, radix, now } = this
    let code = begun
    for (let d = from; d < dimensions.length; d++) {
      const dimension = dimensions[d]
      const value = frame[dimension.nextSlot]
      if (dimension.kind === 'buckets') {
        const share = this.shares[d]
        if (!shareBuckets(dimension, value, share)) shareBuckets(dimension, this.held(d, value), share)
        const { index, share: part } = share
        if (part > 0) {
          this.settle(d + 1, code + (index + 1) * radix[d], probability * part)
          this.settle(d + 1, code + index * radix[d], probability * (1 - part))
          return
        }
        code += index * radix[d]
        continue
      }
      let index = dimension.kind === 'whole' ? value - dimension.low : indexOfValue(dimension, value)
      if (!(index >= 0 && index < dimension.size) || index !== Math.floor(index))
        index = indexOfValue(dimension, this.held(d, value))
      code += index * radix[d]
    }
    now[0] = probability
    this.arriveIn(code)
  }

  /** Finds the states that the values set in the frame stand for: several where a real one lies between buckets. */
  arriveAt(span: Span, found: (code: number, now: Now) => void): void {
    this.overflow = 'fault'
    this.sink = { outcome: found, happened: () => {} }
    try {
      this.settle(0, 0, 1)
    } catch (error) {
      // The fault belongs to the line that said so, not to the rule of a step.
      if (!(error instanceof RuleFault)) throw error
      throw new RuleFault({ ...error.fault, from: span.from, to: span.to })
    }
  }

  /** A value that left its range: held at the nearest end where that is asked for, else refused. */
  private held(d: number, value: number): number {
    const dimension = this.dimensions[d]
    const span = this.program.nextSpans[d]
    const { name, kind, low, high, values, texts } = dimension
    if (!(Math.abs(value) <= HUGE)) this.refuseNumber(span, `What ${name} will be`, value)
    if (this.overflow === 'hold') {
      if (kind === 'set')
        return values.reduce((best, each) => (Math.abs(each - value) < Math.abs(best - value) ? each : best))
      return Math.min(high, Math.max(low, kind === 'whole' ? Math.round(value) : value))
    }
    const shown = Number(value.toPrecision(10))
    if (kind === 'set')
      throw new RuleFault({
        ...span,
        breaks: 'bounds',
        cause: `${name} can become ${shown}, and is one of ${texts.join(', ')}.`,
        remedy: `Add ${shown} to its values, or change the rule.`,
      })
    const below = value < low
    throw new RuleFault({
      ...span,
      breaks: 'bounds',
      cause: `${name} can reach ${shown}, and its range is ${low} to ${high}.`,
      remedy: below
        ? `Write max(${low}, …) around it, or widen the range of ${name}.`
        : `Write min(${high}, …) around it, or widen the range of ${name}.`,
    })
  }

  private refuseNumber({ from, to }: Span, what: string, value: number): never {
    throw new RuleFault({
      from,
      to,
      cause: Number.isNaN(value) ? `${what} is no number.` : `${what} is ${value}, which is too large.`,
      remedy: 'Look for a division by something very small, or for numbers that multiply.',
    })
  }

  /** [chances] what each has come to, in words; those that have not fallen yet are left out */
  drawn(): string[] {
    return this.program.chances.slice(0, this.fell).map(({ slot, write }) => write(this.frame[slot]))
  }

  /** What has fallen so far, for messages: `callers = 15, weather = damp`. */
  fallen(): string {
    const fallen = this.program.chances.slice(0, this.fell)
    return listNames(
      fallen.map(({ name, slot, write }) => `${name} = ${write(this.frame[slot])}`),
      12,
    )
  }
}

/** The outcomes of one chance, kept for parameters that were met before. */
class PmfCache {
  private readonly known = new Map<number | string, Pmf>()
  private readonly inputs: readonly { run(frame: Float64Array): number; constant?: number }[]
  private fixed: Pmf | undefined

  constructor(private readonly chance: ChanceStep) {
    const { draw } = chance
    this.inputs =
      draw.type === 'distribution'
        ? draw.parameters
        : [...draw.values, ...draw.chances.filter((each) => each !== null)]
  }

  pmf(frame: Float64Array): Pmf {
    if (this.fixed) return this.fixed
    const { inputs } = this
    let key: number | string
    if (inputs.length === 1) key = inputs[0].run(frame)
    else {
      key = ''
      for (const input of inputs) key += `${input.run(frame)},`
    }
    let pmf = this.known.get(key)
    if (!pmf) {
      pmf = this.make(frame)
      // Real parameters can take any number of values: what is kept stays bounded.
      if (this.known.size > 10_000) this.known.clear()
      this.known.set(key, pmf)
      if (inputs.every(({ constant }) => constant !== undefined)) this.fixed = pmf
    }
    return pmf
  }

  private make(frame: Float64Array): Pmf {
    const { draw, from, to } = this.chance
    if (draw.type === 'distribution') {
      const pmf = draw.kind.make(
        draw.parameters.map((parameter) => parameter.run(frame)),
        draw.cut,
      )
      if (isPmfFault(pmf)) throw new RuleFault({ from, to, ...pmf })
      return pmf
    }
    const stated = draw.chances.map((chance) => chance && chance.run(frame))
    const sum = stated.reduce<number>((total, chance) => total + (chance ?? 0), 0)
    const bad = stated.find((chance) => chance !== null && !(chance >= 0 && chance <= 1 + SUM_SLACK))
    if (bad !== undefined)
      throw new RuleFault({
        from,
        to,
        breaks: 'probabilities',
        cause: `One of the chances is ${bad}.`,
        remedy: 'Keep every chance from 0 to 1.',
      })
    const open = stated.includes(null)
    if (open ? sum > 1 + SUM_SLACK : Math.abs(sum - 1) > SUM_SLACK)
      throw new RuleFault({
        from,
        to,
        breaks: 'probabilities',
        cause: `The chances sum to ${Number(sum.toPrecision(12))}.`,
        remedy: open
          ? 'Leave something for the rest.'
          : 'Make them sum to 1 in every state, or write rest for one of them.',
      })
    const values: number[] = []
    const chances: number[] = []
    stated.forEach((chance, i) => {
      const p = chance ?? Math.max(0, 1 - sum)
      if (p === 0) return
      values.push(draw.values[i].run(frame))
      chances.push(p)
    })
    return { values, chances }
  }
}
