import type { Allocate } from '../learn/greedy-table'

/** Where arrays begin: modules have nothing of their own below but their registers. */
const BASE = 2048
/** Registers of a module: whole numbers and addresses first, then numbers. */
export const REGISTERS = 1024
const REALS_AT = REGISTERS + 256
const PAGE = 65_536
/** Bytes above which a memory is not asked for. */
const MOST = 1_500_000_000

/** A memory that is given out piece by piece, for a kernel in WebAssembly and for whoever works beside it. */
export class Room implements Allocate {
  private next = BASE

  private constructor(readonly memory: WebAssembly.Memory) {}

  /**
   * @param bytes  what the arrays take together
   * @param arrays  how many there are at the most
   * @returns null where there is not enough memory
   */
  static of(bytes: number, arrays: number): Room | null {
    const size = BASE + bytes + 16 * arrays
    if (size > MOST) return null
    try {
      return new Room(new WebAssembly.Memory({ initial: Math.ceil(size / PAGE) }))
    } catch {
      return null
    }
  }

  floats(length: number): Float64Array {
    return new Float64Array(this.memory.buffer, this.take(8 * length), length)
  }

  ints(length: number): Int32Array {
    return new Int32Array(this.memory.buffer, this.take(4 * length), length)
  }

  bytes(length: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, this.take(length), length)
  }

  /** The same numbers in this memory. */
  copied(array: Int32Array): Int32Array {
    const copy = this.ints(array.length)
    copy.set(array)
    return copy
  }

  copiedFloats(array: Float64Array): Float64Array {
    const copy = this.floats(array.length)
    copy.set(array)
    return copy
  }

  /** Registers by name: arrays stand there by their addresses. */
  registers<I extends string, R extends string>(ints: readonly I[], reals: readonly R[]): Registers<I, R> {
    return new Registers(this.memory, ints, reals)
  }

  private take(size: number): number {
    const address = this.next
    this.next += 16 * Math.ceil(size / 16)
    return address
  }
}

/** Numbers that are handed to a kernel and back, by name. */
export class Registers<I extends string, R extends string> {
  /** In the order of their names. */
  readonly whole: Int32Array
  readonly reals: Float64Array
  readonly int: Readonly<Record<I, number>>
  readonly real: Readonly<Record<R, number>>

  constructor(memory: WebAssembly.Memory, ints: readonly I[], reals: readonly R[]) {
    this.whole = new Int32Array(memory.buffer, REGISTERS, ints.length)
    this.reals = new Float64Array(memory.buffer, REALS_AT, reals.length)
    this.int = Object.fromEntries(ints.map((name, i) => [name, i])) as Record<I, number>
    this.real = Object.fromEntries(reals.map((name, i) => [name, i])) as Record<R, number>
  }

  set(values: Partial<Record<I, number | ArrayBufferView>> & Partial<Record<R, number>>): void {
    for (const [name, value] of Object.entries(values) as [I & R, number | ArrayBufferView][])
      if (name in this.int) this.whole[this.int[name]] = typeof value === 'number' ? value : value.byteOffset
      else this.reals[this.real[name]] = value as number
  }
}

/** A module that is compiled once, when it is first asked for; null where WebAssembly is not to be had. */
export function moduleOf(code: string): () => WebAssembly.Module | null {
  let compiled: WebAssembly.Module | null | undefined
  return () => {
    if (compiled === undefined)
      try {
        compiled = new WebAssembly.Module(Uint8Array.from(atob(code), (char) => char.charCodeAt(0)))
      } catch {
        compiled = null
      }
    return compiled
  }
}

/** What a module exports, working in a memory. */
export function exportsOf<T>(code: WebAssembly.Module, { memory }: Room, what: string): T {
  const abort = () => {
    throw new Error(`${what} in WebAssembly stopped.`)
  }
  return new WebAssembly.Instance(code, { env: { memory, abort } }).exports as T
}
