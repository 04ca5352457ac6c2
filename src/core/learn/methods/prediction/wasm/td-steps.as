// TD(0) and TD(λ) of ../td.ts for runs that nobody looks into, in AssemblyScript: the same draws and the same sums in the same order, so
// that values, traces, returns and streams have the same bits. Every state looks like itself here: observation, state, and their rows
// in the table and the model have the same numbers. Built by scripts/wasm.mjs into td-steps-code.ts.
// `at` is the address of a block of registers: addresses and whole numbers as i32, then numbers as f64. The order of both is
// that of INTS and REALS in fast-td.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, below } from '../../../../wasm/kernel'

const UNIT: f64 = 1.0 / 4294967296.0
/** As in traces.ts. */
const FORGOTTEN: f64 = 1e-9

// One function for each layout of what is drawn from: see row-draws.ts; and two with traces.
export function Four(at: usize): i32 { return steps(at, true, true, false) }
export function Few(at: usize): i32 { return steps(at, true, false, false) }
export function Many(at: usize): i32 { return steps(at, false, false, false) }
export function FewTraces(at: usize): i32 { return steps(at, true, false, true) }
export function ManyTraces(at: usize): i32 { return steps(at, false, false, true) }

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
@inline function steps(at: usize, few: bool, four: bool, traced: bool): i32 {
  const traces: usize = int(at, 33)
  const traceCells: usize = int(at, 34)
  const traceCount: usize = int(at, 35)
  const replacing = int(at, 36)
  // Traces, and the list of cells that have one, are read from one array and written to another, in turn: a step that diverges
  // leaves them as they were. Of cells that have no trace both arrays say 0.
  let now = traces
  let then: usize = int(at, 38)
  let list = traceCells
  let other: usize = int(at, 39)
  const gone: usize = int(at, 40)
  const lambda = real(at, 9)
  const rows: usize = int(at, 0)
  const cells: usize = int(at, 1)
  const links: usize = int(at, 2)
  const outcomeStart: usize = int(at, 3)
  const tableStart: usize = int(at, 4)
  const startState: usize = int(at, 5)
  const startThreshold: usize = int(at, 6)
  const startGuide: usize = int(at, 7)
  const policy: usize = int(at, 8)
  const values: usize = int(at, 9)
  const updates: usize = int(at, 10)
  const visits: usize = int(at, 11)
  const returns: usize = int(at, 12)
  const lengths: usize = int(at, 13)
  const environment: usize = int(at, 14)
  const exploration: usize = int(at, 15)
  const starts = int(at, 16)
  const byVisits = int(at, 17)
  const counts = int(at, 18)
  const cap = int(at, 19)
  const limit = int(at, 20)
  const until = int(at, 21)
  let state = int(at, 22)
  let age = int(at, 23)
  let episodes = int(at, 24)
  let lastState = int(at, 25)
  let lastRow = int(at, 26)
  let lastNext = int(at, 27)
  let lastEnded = int(at, 28)
  const discount = real(at, 0)
  const from = real(at, 1)
  const slowness = real(at, 2)
  const most = real(at, 3)
  let rate = real(at, 4)
  let returned = real(at, 5)
  let power = real(at, 6)
  let lastReward = real(at, 7)
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let eCounter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  const mostBits = reinterpret<u64>(most) << 1
  // Next states are given by the address of their value.
  const toStart: usize = tableStart - (values >> 1)
  let drawn: u32 = 0
  let taken: i32 = 0
  let value: f64 = 0
  let sound = true
  let last: usize = 0
  let lastOld: f64 = 0
  let live: i32 = traced ? load<i32>(traceCount) : 0
  let unsound: i32 = 0
  put(at, 29, 0)
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
      if (traced) {
        for (let i: i32 = 0; i < live; i++) {
          putAt(now, intAt(list, i), 0)
          putAt(then, intAt(list, i), 0)
        }
        live = 0
      }
      age = 0
      returned = 0
      power = 1
    }
    let here: usize = values + ((<usize>state) << 3)
    // As many steps as there may be before anything else can change; the last one's numbers are those that stay.
    const before = min(limit - taken, cap - age)
    let left = before
    while (true) {
      last = here
      drawn = xa + xb + xCounter++
      xa = xb ^ (xb >>> 9)
      xb = xc + (xc << 3)
      xc = ((xc << 21) | (xc >>> 11)) + drawn
      let row = load<i32>(toStart + (here >> 1))
      if (four) {
        // Without a branch that would often be predicted wrongly.
        const chances = policy + ((<usize>row) << 3)
        const first = <f64>drawn * UNIT
        const second = first - load<f64>(chances)
        const third = second - load<f64>(chances, 8)
        const beyondFirst = <i32>(first >= load<f64>(chances))
        const beyondSecond = beyondFirst & <i32>(second >= load<f64>(chances, 8))
        row += beyondFirst + beyondSecond + (beyondSecond & <i32>(third >= load<f64>(chances, 16)))
      } else {
        const final = load<i32>(toStart + (here >> 1), 4) - 1
        for (let rest = <f64>drawn * UNIT; row < final; row++) {
          const chance = realAt(policy, row)
          if (rest < chance) break
          rest -= chance
        }
      }
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
      if (counts) {
        if (counts & 1) putAt(visits, row, realAt(visits, row) + 1)
        if (byVisits) {
          const place = updates + (last - values)
          const updated = load<f64>(place) + 1
          store<f64>(place, updated)
          rate = (from * slowness) / (slowness + updated - 1)
        }
      }
      if (traced) {
        const seen = <i32>((last - values) >> 3)
        const error = lastReward + discount * load<f64>(here) - load<f64>(last)
        if (realAt(now, seen) == 0) putInt(list, live++, seen)
        putAt(now, seen, replacing ? 1 : realAt(now, seen) + 1)
        returned += power * lastReward
        power *= discount
        lastRow = row
        left--
        const fading = discount * lambda
        let step = rate * error
        let kept = other
        let lost: i32 = 0
        const end = list + ((<usize>live) << 2)
        for (let entry = list; entry < end; entry += 4) {
          const cell = load<i32>(entry)
          const offset = (<usize>cell) << 3
          const trace = load<f64>(now + offset)
          if (byVisits) {
            rate = (from * slowness) / (slowness + realAt(updates, cell) - 1)
            step = rate * error
          }
          value = load<f64>(values + offset) + step * trace
          if ((reinterpret<u64>(value) << 1) > mostBits) {
            sound = false
            unsound = cell
            lastOld = load<f64>(last)
            break
          }
          store<f64>(values + offset, value)
          const rest = trace * fading
          // Without a branch, which would be predicted wrongly once a step.
          const lasts = <i32>(rest > FORGOTTEN)
          store<f64>(then + offset, rest)
          store<i32>(kept, cell)
          kept += (<usize>lasts) << 2
          putInt(gone, lost, cell)
          lost += 1 - lasts
        }
        if (!sound) break
        if (byVisits) rate = (from * slowness) / (slowness + realAt(updates, seen) - 1)
        for (let i: i32 = 0; i < lost; i++) {
          putAt(now, intAt(gone, i), 0)
          putAt(then, intAt(gone, i), 0)
        }
        const read = now
        now = then
        then = read
        const emptied = list
        live = <i32>((kept - other) >> 2)
        list = other
        other = emptied
        if (<i32>(left == 0) | lastEnded) break
        continue
      }
      const old = load<f64>(last)
      lastOld = old
      value = old + rate * (lastReward + discount * load<f64>(here) - old)
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      store<f64>(last, value)
      // Larger in size than any number may be, or none at all: by the bits, without the sign.
      const diverged = (reinterpret<u64>(value) << 1) > mostBits
      if (<i32>diverged | <i32>(left == 0) | lastEnded) {
        sound = !diverged
        break
      }
    }
    state = <i32>((here - values) >> 3)
    lastState = <i32>((last - values) >> 3)
    lastNext = state
    taken += before - left
    age += before - left
    if (lastEnded || age >= cap) {
      putAt(returns, episodes, returned)
      putInt(lengths, episodes, lastEnded ? age : -age)
      episodes++
      state = -1
    }
    if (!sound) {
      // It is not written: the values are as they were.
      store<f64>(last, lastOld)
      put(at, 29, 1)
      put(at, 37, traced ? unsound : lastState)
      putReal(at, 8, value)
      break
    }
  }
  if (traced) {
    for (let i: i32 = 0; i < live; i++) {
      const cell = intAt(list, i)
      const trace = realAt(now, cell)
      putAt(then, cell, 0)
      putAt(now, cell, 0)
      putAt(traces, cell, trace)
      putInt(traceCells, i, cell)
    }
    store<i32>(traceCount, live)
  }
  store<u32>(environment, ea)
  store<u32>(environment, eb, 4)
  store<u32>(environment, ec, 8)
  store<u32>(environment, eCounter, 12)
  store<u32>(exploration, xa)
  store<u32>(exploration, xb, 4)
  store<u32>(exploration, xc, 8)
  store<u32>(exploration, xCounter, 12)
  put(at, 22, state)
  put(at, 23, age)
  put(at, 24, episodes)
  put(at, 25, lastState)
  put(at, 26, lastRow)
  put(at, 27, lastNext)
  put(at, 28, lastEnded)
  putReal(at, 4, rate)
  putReal(at, 5, returned)
  putReal(at, 6, power)
  putReal(at, 7, lastReward)
  return taken
}
