import type { SweepForm } from '../sweep-form'

/** What many places of a form have in common: see `patterns` in sweeps.as. */
export interface SweepPatterns {
  /** Next states of each place, filled up with the place itself. */
  readonly width: number
  /** [places] where the pattern of each place begins in `table`, in bytes */
  readonly pattern: Int32Array
  /** [places x width] */
  readonly next: Int32Array
  /** [patterns x (1 + width) x 4] the rewards of the four actions, then their weights of each next state */
  readonly table: Float64Array
}

/** Next states that a place has at least: the kernel has those written out. */
const NARROWEST = 5
/** Wider ones would mostly be filled up. */
const WIDEST = 12
/** Places there have to be for each pattern, so that the table is small beside what it stands for. */
const SHARED = 8

/** @returns null where places have more than four actions, or too little in common */
export function sweepPatterns(form: SweepForm): SweepPatterns | null {
  const { order, nextStart, next, weight, reward, lanes } = form
  const places = order.length
  if (lanes !== 4 || nextStart.length !== places + 1) return null
  let width = NARROWEST
  for (let place = 0; place < places; place++)
    width = Math.max(width, nextStart[place + 1] - nextStart[place])
  if (width > WIDEST || width * places > 2 * next.length) return null
  const size = 4 * (1 + width)
  const most = Math.floor(places / SHARED)
  const pattern = new Int32Array(places)
  const padded = new Int32Array(width * places)
  let table = new Float64Array(size * 64)
  let count = 0
  // Open addressing: [slots] a pattern, or -1.
  let slots = new Int32Array(256).fill(-1)
  const hashes: number[] = []
  const one = new Float64Array(size)
  let usedBefore = -1
  const bits = new Int32Array(one.buffer)
  for (let place = 0; place < places; place++) {
    const from = nextStart[place]
    const used = nextStart[place + 1] - from
    for (let k = 0; k < width; k++) padded[width * place + k] = k < used ? next[from + k] : order[place]
    // Mostly a place is like the one before.
    if (used === usedBefore && isLike(one, reward, 4 * place, weight, 4 * from, 4 * used)) {
      pattern[place] = pattern[place - 1]
      continue
    }
    usedBefore = used
    for (let k = 0; k < 4; k++) one[k] = reward[4 * place + k]
    for (let k = 0; k < 4 * used; k++) one[4 + k] = weight[4 * from + k]
    one.fill(0, 4 + 4 * used)
    let hash = 0
    for (let k = 0; k < 8 + 8 * used; k++) hash = Math.imul(hash ^ bits[k], 0x9e3779b1) ^ (hash >>> 15)
    let slot = hash & (slots.length - 1)
    while (slots[slot] >= 0 && !(hashes[slots[slot]] === hash && same(table, size * slots[slot], one)))
      slot = (slot + 1) & (slots.length - 1)
    if (slots[slot] < 0) {
      if (count >= most) return null
      if (size * (count + 1) > table.length) table = grown(table, 2 * table.length)
      table.set(one, size * count)
      hashes.push(hash)
      slots[slot] = count++
      pattern[place] = 8 * size * (count - 1)
      if (2 * count > slots.length) slots = rehashed(hashes, 2 * slots.length)
    } else pattern[place] = 8 * size * slots[slot]
  }
  return { width, pattern, next: padded, table: table.slice(0, size * count) }
}

/** Whether it begins with four rewards and some weights. */
function isLike(
  one: Float64Array,
  reward: Float64Array,
  rewardAt: number,
  weight: Float64Array,
  weightAt: number,
  weights: number,
): boolean {
  for (let k = 0; k < 4; k++) if (one[k] !== reward[rewardAt + k]) return false
  for (let k = 0; k < weights; k++) if (one[4 + k] !== weight[weightAt + k]) return false
  return true
}

function same(table: Float64Array, at: number, one: Float64Array): boolean {
  for (let k = 0; k < one.length; k++) if (!Object.is(table[at + k], one[k])) return false
  return true
}

function grown(table: Float64Array, length: number): Float64Array<ArrayBuffer> {
  const larger = new Float64Array(length)
  larger.set(table)
  return larger
}

function rehashed(hashes: readonly number[], length: number): Int32Array<ArrayBuffer> {
  const slots = new Int32Array(length).fill(-1)
  hashes.forEach((hash, i) => {
    let slot = hash & (length - 1)
    while (slots[slot] >= 0) slot = (slot + 1) & (length - 1)
    slots[slot] = i
  })
  return slots
}
