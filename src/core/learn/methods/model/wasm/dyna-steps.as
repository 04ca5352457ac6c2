// Dyna-Q of ../dyna-q.ts with epsilon-greedy exploration, for runs that nobody looks into, in AssemblyScript: the same draws and the
// same sums in the same order, so that tables, what is remembered, returns and streams have the same bits. Every state looks like
// itself here: observation, state, and their rows in the table and the model have the same numbers. Built by scripts/wasm.mjs
// into dyna-steps-code.ts. `at` is the address of a block of registers: addresses and whole numbers as i32, then numbers as f64.
// The order of both is that of INTS in fast-dyna-q.ts and of REALS in fast-one-step.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, below, breakTie } from '../../../../wasm/kernel'
import { renew } from '../../value/wasm/best-rows'

const UNIT: f64 = 1.0 / 4294967296.0

/** Writes a value, and what the state's best rows are now: as GreedyTable. @param record  of the state */
@inline function write(values: usize, tableStart: usize, record: usize, state: i32, row: i32, old: f64, value: f64): void {
  putAt(values, row, value)
  const start = intAt(tableStart, state)
  const size = intAt(tableStart, state + 1) - start
  // All four again: quicker than a branch on whether the best can have changed.
  if (size == 4) return renew(values, record, start, 4, true)
  const top = load<f64>(record)
  if (value > top) {
    store<f64>(record, value)
    store<i32>(record, row, 8)
    store<i32>(record, 1, 12)
  } else if (old == top ? value != top : value == top) renew(values, record, start, size, false)
}

// One function for each layout of what is drawn from: see row-draws.ts.
export function Few(at: usize): i32 { return steps(at, true) }
export function Many(at: usize): i32 { return steps(at, false) }

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
@inline function steps(at: usize, few: bool): i32 {
  const counts = int(at, 41)
  const seen: usize = int(at, 42)
  const total: usize = int(at, 43)
  const firstOfRow: usize = int(at, 44)
  const firstInto: usize = int(at, 45)
  const rowOf: usize = int(at, 46)
  const nextGroup: usize = int(at, 47)
  const times: usize = int(at, 48)
  const rewards: usize = int(at, 49)
  const carried: usize = int(at, 50)
  const nextOfRow: usize = int(at, 51)
  const nextInto: usize = int(at, 52)
  const picks: usize = int(at, 53)
  const updates: usize = int(at, 54)
  const stateOf: usize = int(at, 55)
  const planning = int(at, 56)
  let seenCount = int(at, 57)
  let entries = int(at, 58)
  const ties: usize = int(at, 19)
  // Of so many best actions the first is taken.
  const untied = int(at, 26) ? i32.MAX_VALUE : 1
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
  // A draw of 32 bits is below the level exactly where it is below this.
  const explores = <u64>ceil<f64>(level * 4294967296.0)
  let unsound: i32 = 0
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let eCounter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  let pa = load<u32>(picks)
  let pb = load<u32>(picks, 4)
  let pc = load<u32>(picks, 8)
  let pCounter = load<u32>(picks, 12)
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
      drawn = xa + xb + xCounter++
      xa = xb ^ (xb >>> 9)
      xb = xc + (xc << 3)
      xc = ((xc << 21) | (xc >>> 11)) + drawn
      exploring = <u64>drawn < explores ? 1 : 0
      if (exploring) {
        drawn = xa + xb + xCounter++
        xa = xb ^ (xb >>> 9)
        xb = xc + (xc << 3)
        xc = ((xc << 21) | (xc >>> 11)) + drawn
        const start = load<i32>(toStart + (here >> 2))
        row = start + below(drawn, load<i32>(toStart + (here >> 2), 4) - start)
      } else {
        row = load<i32>(here, 8)
        const equals = load<i32>(here, 12)
        if (equals > untied) row = breakTie(ties, values, row, equals, load<f64>(here))
      }
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
      if (counts) putAt(visits, row, realAt(visits, row) + 1)
      const next = <i32>((here - greedy) >> 4)
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      const updated = realAt(updates, row) + 1
      putAt(updates, row, updated)
      if (byVisits) rate = (from * slowness) / (slowness + updated - 1)
      const old = realAt(values, row)
      value = old + rate * (lastReward + discount * load<f64>(here) - old)
      // Larger in size than any number may be, or none at all: by the bits, without the sign.
      if ((reinterpret<u64>(value) << 1) > mostBits) {
        sound = false
        unsound = <i32>((last - greedy) >> 4)
        break
      }
      write(values, tableStart, last, <i32>((last - greedy) >> 4), row, old, value)
      // What was seen is remembered: as LearnedModel.add.
      const known = realAt(total, row)
      putAt(total, row, known + 1)
      if (known == 0) putInt(seen, seenCount++, row)
      let entry = intAt(firstOfRow, row)
      while (entry >= 0 && intAt(nextGroup, entry) != next) entry = intAt(nextOfRow, entry)
      if (entry < 0) {
        entry = entries++
        putInt(rowOf, entry, row)
        putInt(nextGroup, entry, next)
        putInt(nextOfRow, entry, intAt(firstOfRow, row))
        putInt(firstOfRow, row, entry)
        putInt(nextInto, entry, intAt(firstInto, next))
        putInt(firstInto, next, entry)
        putAt(carried, entry, 1)
      }
      const often = realAt(times, entry) + 1
      putAt(times, entry, often)
      putAt(rewards, entry, realAt(rewards, entry) + (lastReward - realAt(rewards, entry)) / often)
      for (let i: i32 = 0; i < planning; i++) {
        drawn = pa + pb + pCounter++
        pa = pb ^ (pb >>> 9)
        pb = pc + (pc << 3)
        pc = ((pc << 21) | (pc >>> 11)) + drawn
        const again = intAt(seen, below(drawn, seenCount))
        let entry = intAt(firstOfRow, again)
        if (intAt(nextOfRow, entry) >= 0) {
          drawn = pa + pb + pCounter++
          pa = pb ^ (pb >>> 9)
          pb = pc + (pc << 3)
          pc = ((pc << 21) | (pc >>> 11)) + drawn
          let rest = <f64>drawn * UNIT * realAt(total, again) - realAt(times, entry)
          while (rest >= 0 && intAt(nextOfRow, entry) >= 0) {
            entry = intAt(nextOfRow, entry)
            rest -= realAt(times, entry)
          }
        }
        const place = realAt(values, again)
        const updated = realAt(updates, again) + 1
        putAt(updates, again, updated)
        if (byVisits) rate = (from * slowness) / (slowness + updated - 1)
        const target = realAt(rewards, entry) + discount * load<f64>(greedy + ((<usize>intAt(nextGroup, entry)) << 4))
        value = place + rate * (target - place)
        const there = intAt(stateOf, again)
        if ((reinterpret<u64>(value) << 1) > mostBits) {
          sound = false
          unsound = there
          break
        }
        write(values, tableStart, greedy + ((<usize>there) << 4), there, again, place, value)
      }
      if (!sound) break
      if (<i32>(left == 0) | lastEnded) break
      drawn = xa + xb + xCounter++
      xa = xb ^ (xb >>> 9)
      xb = xc + (xc << 3)
      xc = ((xc << 21) | (xc >>> 11)) + drawn
      exploring = <u64>drawn < explores ? 1 : 0
      if (exploring) {
        drawn = xa + xb + xCounter++
        xa = xb ^ (xb >>> 9)
        xb = xc + (xc << 3)
        xc = ((xc << 21) | (xc >>> 11)) + drawn
        const start = load<i32>(toStart + (here >> 2))
        row = start + below(drawn, load<i32>(toStart + (here >> 2), 4) - start)
      } else {
        row = load<i32>(here, 8)
        const equals = load<i32>(here, 12)
        if (equals > untied) row = breakTie(ties, values, row, equals, load<f64>(here))
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
      put(at, 59, unsound)
      putReal(at, 10, value)
      break
    }
  }
  store<u32>(environment, ea)
  store<u32>(environment, eb, 4)
  store<u32>(environment, ec, 8)
  store<u32>(environment, eCounter, 12)
  store<u32>(picks, pa)
  store<u32>(picks, pb, 4)
  store<u32>(picks, pc, 8)
  store<u32>(picks, pCounter, 12)
  store<u32>(exploration, xa)
  store<u32>(exploration, xb, 4)
  store<u32>(exploration, xc, 8)
  store<u32>(exploration, xCounter, 12)
  put(at, 57, seenCount)
  put(at, 58, entries)
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
