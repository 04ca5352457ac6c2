// One-step control of ../one-step.ts with softmax exploration or by upper bounds, for runs that nobody looks into, in AssemblyScript:
// the same draws and the same sums in the same order, so that tables, returns and streams have the same bits; no workings, and
// visits only where they are asked for, or bounds go by them. Every state looks like itself here: observation, state, and their rows in the table and the model
// have the same numbers. Built by scripts/wasm.mjs into soft-steps-code.ts. `at` is the address of a block of registers:
// addresses and whole numbers as i32, then numbers as f64. The order of both is that of INTS and REALS in fast-one-step.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, draw, below, exponential, logarithm } from '../../../../wasm/kernel'

const UNIT: f64 = 1.0 / 4294967296.0

const BEST: i32 = 0
const EXPECTED: i32 = 2

// Ways to explore by bounds; the other one is the count bonus.
const UCB1: i32 = 1

/** The chances of a state's rows, into `chances`, each in proportion to e to the power of its value / level. */
@inline function softmax(place: usize, chances: usize, size: i32, top: f64, level: f64): void {
  let sum: f64 = 0
  for (let k: i32 = 0; k < size; k++) {
    const weight = exponential((realAt(place, k) - top) / level)
    putAt(chances, k, weight)
    sum += weight
  }
  for (let k: i32 = 0; k < size; k++) putAt(chances, k, realAt(chances, k) / sum)
}

/** Which of a state's rows a draw falls on. */
@inline function picked(place: usize, chances: usize, size: i32, top: f64, level: f64, drawn: u32): i32 {
  softmax(place, chances, size, top, level)
  let k: i32 = 0
  for (let left = <f64>drawn * UNIT; k < size - 1 && left >= realAt(chances, k); k++) left -= realAt(chances, k)
  return k
}

/** How good a row may still be, by the ways of ../../../explore/, which know their numbers. */
@inline function boundOf(way: i32, value: f64, visited: f64, level: f64, logOfAll: f64): f64 {
  if (visited == 0) return Infinity
  return value + (way == UCB1 ? level * sqrt<f64>((2 * logOfAll) / visited) : level / sqrt<f64>(visited))
}

/** The bounds of a state's rows, into `bounds`. @returns the largest */
function fillBounds(place: usize, visited: usize, bounds: usize, size: i32, level: f64, way: i32): f64 {
  let total: f64 = 0
  for (let k: i32 = 0; k < size; k++) total += realAt(visited, k)
  const logOfAll = way == UCB1 ? logarithm(total) : 0
  let most = -Infinity
  for (let k: i32 = 0; k < size; k++) {
    const bound = boundOf(way, realAt(place, k), realAt(visited, k), level, logOfAll)
    putAt(bounds, k, bound)
    if (bound > most) most = bound
  }
  return most
}

/** Which of a state's rows has the largest bound; of several, one by a draw where `ties` is a stream. */
function boldest(place: usize, visited: usize, bounds: usize, size: i32, level: f64, way: i32, ties: usize): i32 {
  const most = fillBounds(place, visited, bounds, size, level, way)
  let k: i32 = 0
  let skip: i32 = 0
  if (ties) {
    let count: i32 = 0
    for (let j: i32 = 0; j < size; j++) if (realAt(bounds, j) == most) count++
    if (count > 1) skip = below(draw(ties), count)
  }
  while (realAt(bounds, k) != most || skip-- > 0) k++
  return k
}

/** The chances of a state's rows where the largest bound is followed. */
function boldChances(place: usize, visited: usize, chances: usize, size: i32, level: f64, way: i32, ties: usize): void {
  const most = fillBounds(place, visited, chances, size, level, way)
  let count: i32 = 0
  for (let k: i32 = 0; k < size; k++) if (realAt(chances, k) == most) count++
  const each = 1 / <f64>count
  let first = true
  for (let k: i32 = 0; k < size; k++) {
    const chosen = realAt(chances, k) == most
    putAt(chances, k, chosen ? (ties ? each : first ? 1 : 0) : 0)
    if (chosen) first = false
  }
}

// One function for each layout of what is drawn from, see row-draws.ts, and way to choose.
export function Few(at: usize): i32 { return steps(at, true, false) }
export function Many(at: usize): i32 { return steps(at, false, false) }
export function FewBounds(at: usize): i32 { return steps(at, true, true) }
export function ManyBounds(at: usize): i32 { return steps(at, false, true) }

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
@inline function steps(at: usize, few: bool, bounds: bool): i32 {
  const target = int(at, 24)
  const scratch: usize = int(at, 41)
  const counts = int(at, 42)
  const way = int(at, 43)
  const ties: usize = int(at, 26) ? 0 : int(at, 19)
  const rows: usize = int(at, 38)
  const cells: usize = int(at, 39)
  const links: usize = int(at, 40)
  const outcomeStart: usize = int(at, 4)
  const tableStart: usize = int(at, 2)
  const startState: usize = int(at, 8)
  const startThreshold: usize = int(at, 9)
  const startGuide: usize = int(at, 10)
  const values: usize = int(at, 11)
  const greedy: usize = int(at, 12)
  const visits: usize = int(at, 13)
  const returns: usize = int(at, 15)
  const lengths: usize = int(at, 16)
  const environment: usize = int(at, 17)
  const exploration: usize = int(at, 18)
  const starts = int(at, 20)
  const byVisits = int(at, 25)
  const cap = int(at, 21)
  const limit = int(at, 22)
  const until = int(at, 23)
  let state = int(at, 27)
  let chosen = int(at, 28)
  let age = int(at, 29)
  let exploring = int(at, 30)
  let episodes = int(at, 31)
  let lastState = int(at, 32)
  let lastRow = int(at, 33)
  let lastNext = int(at, 34)
  let lastEnded = int(at, 35)
  let lastExplored = int(at, 36)
  const discount = real(at, 0)
  const level = real(at, 1)
  const from = real(at, 2)
  const slowness = real(at, 3)
  const most = real(at, 4)
  let rate = real(at, 5)
  let returned = real(at, 6)
  let power = real(at, 7)
  let lastReward = real(at, 9)
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let eCounter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  let drawn: u32 = 0
  let taken: i32 = 0
  let value: f64 = 0
  let sound = true
  const toStart: usize = tableStart - (greedy >> 2)
  const mostBits = reinterpret<u64>(most) << 1
  let last: usize = 0
  put(at, 37, 0)
  while (taken < limit && episodes < until) {
    if (state < 0) {
      if (starts == 1) state = intAt(startState, 0)
      else {
        drawn = ea + eb + eCounter++
        ea = eb ^ (eb >>> 9)
        eb = ec + (ec << 3)
        ec = ((ec << 21) | (ec >>> 11)) + drawn
        let i = intAt(startGuide, below(drawn & ~1, starts))
        while (<i32>(drawn >>> 1) > intAt(startThreshold, i)) i++
        state = intAt(startState, i)
      }
      chosen = -1
      age = 0
      returned = 0
      power = 1
    }
    let here: usize = greedy + ((<usize>state) << 4)
    let row = chosen
    if (row < 0) {
      const start = load<i32>(toStart + (here >> 2))
      const size = load<i32>(toStart + (here >> 2), 4) - start
      const place = values + ((<usize>start) << 3)
      if (bounds) row = start + boldest(place, visits + ((<usize>start) << 3), scratch, size, level, way, ties)
      else {
        drawn = xa + xb + xCounter++
        xa = xb ^ (xb >>> 9)
        xb = xc + (xc << 3)
        xc = ((xc << 21) | (xc >>> 11)) + drawn
        row = start + picked(place, scratch, size, load<f64>(here), level, drawn)
      }
      exploring = realAt(values, row) != load<f64>(here) ? 1 : 0
    }
    // As many steps as there may be before anything else can change; the last one's numbers are those that stay.
    const before = min(limit - taken, cap - age)
    let left = before
    while (true) {
      lastExplored = exploring
      last = here
      let to: i32
      if (few) {
        const record = rows + <usize>row * 48
        let place: usize = 0
        if (load<i32>(record, 20)) {
          drawn = ea + eb + eCounter++
          ea = eb ^ (eb >>> 9)
          eb = ec + (ec << 3)
          ec = ((ec << 21) | (ec >>> 11)) + drawn
          const half = <i32>(drawn >>> 1)
          place = <usize>(half > load<i32>(record)) + <usize>(half > load<i32>(record, 4))
        }
        to = load<i32>(record + (place << 2), 8)
        lastReward = load<f64>(record + (place << 3), 24)
      } else {
        const begin = intAt(outcomeStart, row)
        const size = intAt(outcomeStart, row + 1) - begin
        let cell = cells + ((<usize>begin) << 5)
        let half: i32 = 0
        if (size > 1) {
          drawn = ea + eb + eCounter++
          ea = eb ^ (eb >>> 9)
          eb = ec + (ec << 3)
          ec = ((ec << 21) | (ec >>> 11)) + drawn
          half = <i32>(drawn >>> 1)
          cell += (<usize>below(drawn & ~1, size)) << 5
        }
        // What falls beyond both of its outcomes is in the cell that it is linked to.
        while (half > load<i32>(cell, 4)) cell = cells + <usize>load<i32>(links + ((cell - cells) >> 3))
        const second = <usize>(half > load<i32>(cell))
        to = load<i32>(cell + (second << 2), 8)
        lastReward = load<f64>(cell + (second << 3), 16)
      }
      lastEnded = to >>> 31
      here = <usize>(to ^ (to >> 31))
      chosen = -1
      // Before the next action is chosen: bounds go by it.
      if (counts) {
        const visited = realAt(visits, row) + 1
        putAt(visits, row, visited)
        if (byVisits) rate = (from * slowness) / (slowness + visited - 1)
      }
      let ahead = load<f64>(here)
      if (target != BEST && to >= 0) {
        const top = ahead
        const start = load<i32>(toStart + (here >> 2))
        const size = load<i32>(toStart + (here >> 2), 4) - start
        const place = values + ((<usize>start) << 3)
        if (target == EXPECTED) {
          if (bounds) boldChances(place, visits + ((<usize>start) << 3), scratch, size, level, way, ties)
          else softmax(place, scratch, size, top, level)
          ahead = 0
          for (let k: i32 = 0; k < size; k++) ahead += realAt(scratch, k) * realAt(place, k)
        } else {
          if (bounds) chosen = start + boldest(place, visits + ((<usize>start) << 3), scratch, size, level, way, ties)
          else {
            drawn = xa + xb + xCounter++
            xa = xb ^ (xb >>> 9)
            xb = xc + (xc << 3)
            xc = ((xc << 21) | (xc >>> 11)) + drawn
            chosen = start + picked(place, scratch, size, top, level, drawn)
          }
          ahead = realAt(values, chosen)
          exploring = ahead != top ? 1 : 0
        }
      }
      const old = realAt(values, row)
      value = old + rate * (lastReward + discount * ahead - old)
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      // Larger in size than any number may be, or none at all: by the bits, without the sign.
      if ((reinterpret<u64>(value) << 1) > mostBits) {
        sound = false
        break
      }
      putAt(values, row, value)
      const top = load<f64>(last)
      if (value > top) {
        store<f64>(last, value)
        store<i32>(last, row, 8)
        store<i32>(last, 1, 12)
      } else if (old == top ? value != top : value == top) {
        const start = load<i32>(toStart + (last >> 2))
        const end = load<i32>(toStart + (last >> 2), 4)
        let highest = realAt(values, start)
        let where = start
        let shared: i32 = 1
        for (let r = start + 1; r < end; r++) {
          const other = realAt(values, r)
          if (other > highest) {
            highest = other
            where = r
            shared = 1
          } else if (other == highest) shared++
        }
        store<f64>(last, highest)
        store<i32>(last, where, 8)
        store<i32>(last, shared, 12)
      }
      if (<i32>(left == 0) | lastEnded) break
      if (chosen >= 0) row = chosen
      else {
        const start = load<i32>(toStart + (here >> 2))
        const size = load<i32>(toStart + (here >> 2), 4) - start
        const place = values + ((<usize>start) << 3)
        if (bounds) row = start + boldest(place, visits + ((<usize>start) << 3), scratch, size, level, way, ties)
        else {
          drawn = xa + xb + xCounter++
          xa = xb ^ (xb >>> 9)
          xb = xc + (xc << 3)
          xc = ((xc << 21) | (xc >>> 11)) + drawn
          row = start + picked(place, scratch, size, load<f64>(here), level, drawn)
        }
        exploring = realAt(values, row) != load<f64>(here) ? 1 : 0
      }
    }
    state = <i32>((here - greedy) >> 4)
    lastState = <i32>((last - greedy) >> 4)
    lastNext = state
    taken += before - left
    age += before - left
    if (lastEnded || age >= cap) {
      putAt(returns, episodes, returned)
      putInt(lengths, episodes, lastEnded ? age : -age)
      episodes++
      state = -1
      chosen = -1
    }
    if (!sound) {
      put(at, 37, 1)
      putReal(at, 10, value)
      break
    }
  }
  store<u32>(environment, ea)
  store<u32>(environment, eb, 4)
  store<u32>(environment, ec, 8)
  store<u32>(environment, eCounter, 12)
  store<u32>(exploration, xa)
  store<u32>(exploration, xb, 4)
  store<u32>(exploration, xc, 8)
  store<u32>(exploration, xCounter, 12)
  put(at, 27, state)
  put(at, 28, chosen)
  put(at, 29, age)
  put(at, 30, exploring)
  put(at, 31, episodes)
  put(at, 32, lastState)
  put(at, 33, lastRow)
  put(at, 34, lastNext)
  put(at, 35, lastEnded)
  put(at, 36, lastExplored)
  putReal(at, 5, rate)
  putReal(at, 6, returned)
  putReal(at, 7, power)
  putReal(at, 8, real(at, 8) + <f64>taken)
  putReal(at, 9, lastReward)
  return taken
}
