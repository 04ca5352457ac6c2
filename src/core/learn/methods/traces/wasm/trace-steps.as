// SARSA(λ) and Watkins's Q(λ) of ../trace-control.ts for runs that nobody looks into, in AssemblyScript: the same draws and the
// same sums in the same order, so that tables, traces, returns and streams have the same bits; no workings, and visits only
// where they are asked for. Every state looks like itself here: observation, state, and their rows in the table and the model
// have the same numbers. Built by scripts/wasm.mjs into trace-steps-code.ts. `at` is the address of a block of registers:
// addresses and whole numbers as i32, then numbers as f64. The order of both is that of INTS and REALS in fast-trace-control.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, below, breakTie } from '../../../../wasm/kernel'
import { renew } from '../../value/wasm/best-rows'

/** As in traces.ts. */
const FORGOTTEN: f64 = 1e-9

/** Renews the record of a state that is told by its number. */
function renewState(values: usize, greedy: usize, tableStart: usize, state: i32): void {
  const start = intAt(tableStart, state)
  const size = intAt(tableStart, state + 1) - start
  const record = greedy + ((<usize>state) << 4)
  if (size == 4) renew(values, record, start, 4, true)
  else renew(values, record, start, size, false)
}

// One function for each layout of what is drawn from: see row-draws.ts.
export function Few(at: usize): i32 { return steps(at, true) }
export function Many(at: usize): i32 { return steps(at, false) }

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
@inline function steps(at: usize, few: bool): i32 {
  const traces: usize = int(at, 41)
  const traceCells: usize = int(at, 42)
  const traceCount: usize = int(at, 43)
  const stateOf: usize = int(at, 44)
  const offPolicy = int(at, 45)
  const replacing = int(at, 46)
  const counts = int(at, 47)
  // Traces, and the list of cells that have one, are read from one array and written to another, in turn: a step that diverges
  // leaves them as they were. Of cells that have no trace both arrays say 0.
  let now = traces
  let then: usize = int(at, 49)
  let list = traceCells
  let other: usize = int(at, 50)
  const gone: usize = int(at, 51)
  const lambda = real(at, 11)
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
  const ties: usize = int(at, 19)
  const starts = int(at, 20)
  const byVisits = int(at, 25)
  const firstOfTies = int(at, 26)
  // Of so many best actions the first is taken.
  const untied = firstOfTies ? i32.MAX_VALUE : 1
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
  const largest = real(at, 4)
  let rate = real(at, 5)
  let returned = real(at, 6)
  let power = real(at, 7)
  let lastReward = real(at, 9)
  // A draw of 32 bits is below the level exactly where it is below this.
  const explores = <u64>ceil<f64>(level * 4294967296.0)
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let eCounter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  let live = load<i32>(traceCount)
  let unsoundState: i32 = 0
  let drawn: u32 = 0
  let taken: i32 = 0
  let value: f64 = 0
  let sound = true
  const toStart: usize = tableStart - (greedy >> 2)
  const mostBits = reinterpret<u64>(largest) << 1
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
      for (let i: i32 = 0; i < live; i++) {
        const cell = intAt(list, i)
        renewState(values, greedy, tableStart, intAt(stateOf, cell))
        putAt(now, cell, 0)
        putAt(then, cell, 0)
      }
      live = 0
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
    const most = min(limit - taken, cap - age)
    let left = most
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
      let ahead: f64 = 0
      let isBest = false
      if (to >= 0) {
        // Records of states whose cells have a trace are renewed where they are read, and when the trace is gone.
        renewState(values, greedy, tableStart, <i32>((here - greedy) >> 4))
        const top = load<f64>(here)
        drawn = xa + xb + xCounter++
        xa = xb ^ (xb >>> 9)
        xb = xc + (xc << 3)
        xc = ((xc << 21) | (xc >>> 11)) + drawn
        if (<u64>drawn < explores) {
          drawn = xa + xb + xCounter++
          xa = xb ^ (xb >>> 9)
          xb = xc + (xc << 3)
          xc = ((xc << 21) | (xc >>> 11)) + drawn
          exploring = 1
          const nextStart = load<i32>(toStart + (here >> 2))
          chosen = nextStart + below(drawn, load<i32>(toStart + (here >> 2), 4) - nextStart)
        } else {
          exploring = 0
          chosen = load<i32>(here, 8)
          const equals = load<i32>(here, 12)
          if (equals > untied) chosen = breakTie(ties, values, chosen, equals, top)
        }
        // A choice among equals is as good as the best one.
        const next = realAt(values, chosen)
        isBest = next == top
        ahead = offPolicy ? top : next
      }
      if (counts) putAt(visits, row, realAt(visits, row) + 1)
      const error = lastReward + discount * ahead - realAt(values, row)
      if (realAt(now, row) == 0) putInt(list, live++, row)
      putAt(now, row, replacing ? 1 : realAt(now, row) + 1)
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      const fading = offPolicy && !isBest ? 0 : discount * lambda
      let step = rate * error
      let kept = other
      let lost: i32 = 0
      const end = list + ((<usize>live) << 2)
      for (let entry = list; entry < end; entry += 4) {
        const cell = load<i32>(entry)
        const offset = (<usize>cell) << 3
        const trace = load<f64>(now + offset)
        if (byVisits) {
          rate = (from * slowness) / (slowness + realAt(visits, cell) - 1)
          step = rate * error
        }
        value = load<f64>(values + offset) + step * trace
        // Larger in size than any number may be, or none at all: by the bits, without the sign.
        if ((reinterpret<u64>(value) << 1) > mostBits) {
          sound = false
          unsoundState = intAt(stateOf, cell)
          break
        }
        store<f64>(values + offset, value)
        const rest = trace * fading
        if (rest > FORGOTTEN) {
          store<f64>(then + offset, rest)
          store<i32>(kept, cell)
          kept += 4
        } else putInt(gone, lost++, cell)
      }
      if (!sound) {
        chosen = -1
        break
      }
      if (byVisits) rate = (from * slowness) / (slowness + realAt(visits, row) - 1)
      for (let i: i32 = 0; i < lost; i++) {
        const cell = intAt(gone, i)
        putAt(now, cell, 0)
        putAt(then, cell, 0)
        renewState(values, greedy, tableStart, intAt(stateOf, cell))
      }
      const read = now
      now = then
      then = read
      live = <i32>((kept - other) >> 2)
      const emptied = list
      list = other
      other = emptied
      if (<i32>(left == 0) | lastEnded) break
      row = chosen
    }
    state = <i32>((here - greedy) >> 4)
    lastState = <i32>((last - greedy) >> 4)
    lastNext = state
    taken += most - left
    age += most - left
    if (lastEnded || age >= cap) {
      putAt(returns, episodes, returned)
      putInt(lengths, episodes, lastEnded ? age : -age)
      episodes++
      state = -1
      chosen = -1
    }
    if (!sound) {
      put(at, 37, 1)
      put(at, 48, unsoundState)
      putReal(at, 10, value)
      break
    }
  }
  for (let i: i32 = 0; i < live; i++) {
    const cell = intAt(list, i)
    renewState(values, greedy, tableStart, intAt(stateOf, cell))
    const trace = realAt(now, cell)
    putAt(then, cell, 0)
    putAt(now, cell, 0)
    putAt(traces, cell, trace)
    putInt(traceCells, i, cell)
  }
  store<i32>(traceCount, live)
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
  putReal(at, 9, lastReward)
  return taken
}
