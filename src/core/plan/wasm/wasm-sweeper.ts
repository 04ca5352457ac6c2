import type { SweepChain, SweepForm } from '../sweep-form'
import type { Sweeper } from '../sweeper-kind'
import { SWEEPS_CODE } from './sweeps-code'

/** What sweeps.as exports; all numbers but the lanes and the places are addresses. */
interface Sweeps {
  bestOfFour(...addresses: number[]): number
  bestOfOne(...addresses: number[]): number
  layOutAndSweep(...addresses: number[]): number
  sweepChain(...addresses: number[]): number
}

/** Where data begins: the module has nothing of its own below. */
const BASE = 1024
const PAGE = 65_536
/** Bytes above which the memory is not asked for. */
const MOST = 1_500_000_000

let compiled: WebAssembly.Module | null | undefined

/** The module, compiled once; null where WebAssembly with SIMD is not to be had. */
function sweepsModule(): WebAssembly.Module | null {
  if (compiled === undefined)
    try {
      compiled = new WebAssembly.Module(Uint8Array.from(atob(SWEEPS_CODE), (char) => char.charCodeAt(0)))
    } catch {
      compiled = null
    }
  return compiled
}

/** The sweeps of a form in WebAssembly; null where that is not to be had, or the form is too large for it. */
export function wasmSweeper(form: SweepForm, follows: boolean): Sweeper | null {
  const code = sweepsModule()
  if (!code) return null
  const places = form.order.length
  const { states } = form.model
  const room = new Room()
  const at = {
    order: room.take(4 * places),
    bundleStart: room.take(4 * (places + 1)),
    nextStart: room.take(4 * form.nextStart.length),
    next: room.take(4 * form.next.length),
    weight: room.take(8 * form.weight.length),
    reward: room.take(8 * form.reward.length),
    from: room.take(8 * states),
    to: room.take(8 * states),
    choice: room.take(follows ? 4 * places : 0),
    chainStart: room.take(follows ? 4 * (places + 1) : 0),
    chainNext: room.take(follows ? 4 * form.next.length : 0),
    chainWeight: room.take(follows ? 8 * form.next.length : 0),
    chainReward: room.take(follows ? 8 * places : 0),
  }
  if (room.size > MOST) return null
  let memory: WebAssembly.Memory
  try {
    memory = new WebAssembly.Memory({ initial: Math.ceil(room.size / PAGE) })
  } catch {
    return null
  }
  const { exports } = new WebAssembly.Instance(code, {
    env: {
      memory,
      abort: () => {
        throw new Error('The sweeps in WebAssembly stopped.')
      },
    },
  })
  const sweeps = exports as unknown as Sweeps
  const ints = (address: number, length: number) => new Int32Array(memory.buffer, address, length)
  const floats = (address: number, length: number) => new Float64Array(memory.buffer, address, length)
  const moveInts = (array: Int32Array, address: number) => {
    const view = ints(address, array.length)
    view.set(array)
    return view
  }
  const moveFloats = (array: Float64Array, address: number) => {
    const view = floats(address, array.length)
    view.set(array)
    return view
  }
  const moved: SweepForm = {
    ...form,
    // The order is handed on to those who look at a sweep, and stays outside.
    bundleStart: moveInts(form.bundleStart, at.bundleStart),
    nextStart: moveInts(form.nextStart, at.nextStart),
    next: moveInts(form.next, at.next),
    weight: moveFloats(form.weight, at.weight),
    reward: moveFloats(form.reward, at.reward),
  }
  moveInts(form.order, at.order)
  const [from, to] = [floats(at.from, states), floats(at.to, states)]
  const chain: SweepChain = {
    order: form.order,
    choice: ints(at.choice, follows ? places : 0),
    nextStart: ints(at.chainStart, follows ? places + 1 : 0),
    next: ints(at.chainNext, follows ? form.next.length : 0),
    weight: floats(at.chainWeight, follows ? form.next.length : 0),
    reward: floats(at.chainReward, follows ? places : 0),
  }
  const kernel = form.lanes === 4 ? sweeps.bestOfFour : sweeps.bestOfOne
  const rows = [at.order, at.bundleStart, at.nextStart, at.next, at.weight, at.reward, places] as const
  /** Runs a sweep in place: on values that live in the memory right there, on others by way of a table. */
  const inPlace = (values: Float64Array, run: (address: number) => number) => {
    if (values.buffer === memory.buffer) return run(values.byteOffset)
    from.set(values)
    const change = run(at.from)
    values.set(from)
    return change
  }
  const chained = [at.chainStart, at.chainNext, at.chainWeight, at.chainReward, places] as const
  return {
    form: moved,
    chain,
    tables: [from, to],
    best(source, target) {
      if (source === target) return inPlace(source, (values) => kernel(...rows, values, values, 0))
      if (source.buffer === memory.buffer && target.buffer === memory.buffer)
        return kernel(...rows, source.byteOffset, target.byteOffset, 0)
      // Endings are never written, and 0 everywhere.
      from.set(source)
      const change = kernel(...rows, at.from, at.to, 0)
      target.set(to)
      return change
    },
    bestAndChoose: (values) => inPlace(values, (address) => kernel(...rows, address, address, at.choice)),
    followFirst: (values) =>
      inPlace(values, (address) =>
        sweeps.layOutAndSweep(
          ...[at.order, at.nextStart, at.next, at.weight, at.reward, form.lanes === 4 ? 2 : 0],
          ...[at.choice, ...chained, address],
        ),
      ),
    follow: (values) => inPlace(values, (address) => sweeps.sweepChain(at.order, ...chained, address)),
  }
}

/** Hands out addresses one after the other, each where numbers of any size may begin. */
class Room {
  size = BASE

  take(bytes: number): number {
    const address = this.size
    this.size += 16 * Math.ceil(bytes / 16)
    return address
  }
}
