import { exportsOf, moduleOf, Room } from '../../wasm/room'
import type { SweepChain, SweepForm } from '../sweep-form'
import type { Sweeper } from '../sweeper-kind'
import { sweepPatterns, type SweepPatterns } from './sweep-patterns'
import { SWEEPS_CODE } from './sweeps-code'

/** What sweeps.as exports; all numbers but lanes, widths and places are addresses. */
type Sweeps = Readonly<
  Record<
    | 'bestOfFour'
    | 'bestOfOne'
    | 'valuesOfFive'
    | 'bestOfFive'
    | 'valuesOfMore'
    | 'bestOfMore'
    | 'layOutAndSweep'
    | 'layOutPatternsAndSweep'
    | 'sweepChain',
    (...numbers: number[]) => number
  >
>

/** The kernels of a form on tables that live in their memory, by addresses. */
interface Kernels {
  readonly form: SweepForm
  /** Best backups from one table into another, or in place. */
  values(from: number, to: number): number
  /** Best backups in place, with the actions noted. */
  choose(values: number): number
  /** Lays out the chain of the actions noted, and makes the first sweep along it. */
  layOut(values: number): number
}

const sweepsModule = moduleOf(SWEEPS_CODE)

/** The sweeps of a form in WebAssembly; null where that is not to be had, or the form is too large for it. */
export function wasmSweeper(form: SweepForm, follows: boolean): Sweeper | null {
  const code = sweepsModule()
  if (!code) return null
  const places = form.order.length
  const { states } = form.model
  const patterns = sweepPatterns(form)
  const room = Room.of(
    4 * places +
      16 * states +
      4096 +
      (follows ? 4 * (2 * places + 1) + 8 * places + 12 * form.next.length : 0) +
      (patterns
        ? patterns.pattern.byteLength + patterns.next.byteLength + patterns.table.byteLength
        : 4 * (form.bundleStart.length + form.nextStart.length + form.next.length) +
          8 * (form.weight.length + form.reward.length)),
    20,
  )
  if (!room) return null
  const sweeps = exportsOf<Sweeps>(code, room, 'The sweeps')
  const { memory } = room
  const from = room.floats(states)
  // Addresses that are alike in their last twelve bits seem the same to a processor for a while: what is written must not be
  // that far from what is read around it.
  room.bytes((2 * 4096 + 2048 - ((8 * states) % 4096)) % 4096)
  const to = room.floats(states)
  const chain: SweepChain = {
    order: form.order,
    choice: room.ints(follows ? places : 0),
    nextStart: room.ints(follows ? places + 1 : 0),
    next: room.ints(follows ? form.next.length : 0),
    weight: room.floats(follows ? form.next.length : 0),
    reward: room.floats(follows ? places : 0),
  }
  const order = room.copied(form.order).byteOffset
  const chained = [chain.nextStart, chain.next, chain.weight, chain.reward].map((array) => array.byteOffset)
  const kernels = (patterns ? patternKernels : formKernels)({ form, patterns, room, sweeps, order, chain })
  /** Runs a sweep in place: on values that live in the memory right there, on others by way of a table. */
  const inPlace = (values: Float64Array, run: (address: number) => number) => {
    if (values.buffer === memory.buffer) return run(values.byteOffset)
    from.set(values)
    const change = run(from.byteOffset)
    values.set(from)
    return change
  }
  return {
    form: kernels.form,
    chain,
    tables: [from, to],
    best(source, target) {
      if (source === target) return inPlace(source, (address) => kernels.values(address, address))
      if (source.buffer === memory.buffer && target.buffer === memory.buffer)
        return kernels.values(source.byteOffset, target.byteOffset)
      // Endings are never written, and 0 everywhere.
      from.set(source)
      const change = kernels.values(from.byteOffset, to.byteOffset)
      target.set(to)
      return change
    },
    bestAndChoose: (values) => inPlace(values, kernels.choose),
    followFirst: (values) => inPlace(values, kernels.layOut),
    follow: (values) => inPlace(values, (address) => sweeps.sweepChain(order, ...chained, places, address)),
  }
}

interface Parts {
  readonly form: SweepForm
  readonly patterns: SweepPatterns | null
  readonly room: Room
  readonly sweeps: Sweeps
  /** Where the order of the sweep is. */
  readonly order: number
  readonly chain: SweepChain
}

/** Any form, its arrays moved. */
function formKernels({ form, room, sweeps, order, chain }: Parts): Kernels {
  const moved: SweepForm = {
    ...form,
    // The order is handed on to those who look at a sweep, and stays outside.
    bundleStart: room.copied(form.bundleStart),
    nextStart: room.copied(form.nextStart),
    next: room.copied(form.next),
    weight: room.copiedFloats(form.weight),
    reward: room.copiedFloats(form.reward),
  }
  const places = form.order.length
  const four = form.lanes === 4
  const best = four ? sweeps.bestOfFour : sweeps.bestOfOne
  const [bundleStart, nextStart, next, weight, reward] = [
    moved.bundleStart,
    moved.nextStart,
    moved.next,
    moved.weight,
    moved.reward,
  ].map((array) => array.byteOffset)
  const rows = [order, bundleStart, nextStart, next, weight, reward, places] as const
  const choice = chain.choice.byteOffset
  return {
    form: moved,
    values: (from, to) => best(...rows, from, to, 0),
    choose: (values) => best(...rows, values, values, choice),
    layOut: (values) =>
      sweeps.layOutAndSweep(
        ...[order, nextStart, next, weight, reward, four ? 2 : 0, choice],
        ...[chain.nextStart, chain.next, chain.weight, chain.reward].map((array) => array.byteOffset),
        ...[places, values],
      ),
  }
}

/** A form in which many places have the same weights and rewards: the form itself stays where it is. */
function patternKernels({ form, patterns, room, sweeps, order, chain }: Parts): Kernels {
  const { width, pattern, next, table } = patterns!
  const places = form.order.length
  const rows = [
    order,
    room.copied(pattern).byteOffset,
    room.copied(next).byteOffset,
    width,
    room.copiedFloats(table).byteOffset,
  ]
  const choice = chain.choice.byteOffset
  const five = width === 5
  return {
    form,
    values: (from, to) => (five ? sweeps.valuesOfFive : sweeps.valuesOfMore)(...rows, places, from, to, 0),
    choose: (values) =>
      (five ? sweeps.bestOfFive : sweeps.bestOfMore)(...rows, places, values, values, choice),
    layOut: (values) =>
      sweeps.layOutPatternsAndSweep(
        ...[...rows, choice],
        ...[chain.nextStart, chain.next, chain.weight, chain.reward].map((array) => array.byteOffset),
        ...[places, values],
      ),
  }
}
