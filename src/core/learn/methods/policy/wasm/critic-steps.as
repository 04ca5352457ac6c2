// The actor-critic of ../actor-critic.ts, and that with traces of ../trace-actor-critic.ts, with plain steps, for runs that nobody looks into, in AssemblyScript: the same
// draws and the same sums in the same order, so that preferences, values, traces, returns and streams have the same bits. Every state
// looks like itself here: observation, state, and their rows in the table and the model have the same numbers. Built by
// scripts/wasm.mjs into critic-steps-code.ts. `at` is the address of a block of registers: addresses and whole numbers as
// i32, then numbers as f64. The order of both is that of INTS and REALS in fast-actor-critic.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, below, exponential } from '../../../../wasm/kernel'
import { exponentials, PAIRS } from '../../../../wasm/exponentials'

const UNIT: f64 = 1.0 / 4294967296.0
/** As in traces.ts and trace-actor-critic.ts. */
const FORGOTTEN: f64 = 1e-9

/** The softmax of a state's rows, from their preferences: as SoftmaxTable.refresh. */
@inline function refresh(preferences: usize, probability: usize, tops: usize, sums: usize, state: i32, start: i32, end: i32, temperature: f64): void {
  let top: f64 = -Infinity
  for (let r = start; r < end; r++) if (realAt(preferences, r) > top) top = realAt(preferences, r)
  let total: f64 = 0
  for (let r = start; r < end; r++) {
    const power = exponential((realAt(preferences, r) - top) / temperature)
    putAt(probability, r, power)
    total += power
  }
  for (let r = start; r < end; r++) putAt(probability, r, realAt(probability, r) / total)
  putAt(tops, state, top)
  putAt(sums, state, total)
}

// One function for each layout of what is drawn from: see row-draws.ts; and two with traces.
export function Four(at: usize): i32 { return steps(at, true, true, false) }
export function Few(at: usize): i32 { return steps(at, true, false, false) }
export function Many(at: usize): i32 { return steps(at, false, false, false) }
export function FewTraces(at: usize): i32 { return steps(at, true, false, true) }
export function ManyTraces(at: usize): i32 { return steps(at, false, false, true) }

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
@inline function steps(at: usize, few: bool, four: bool, withTraces: bool): i32 {
  const traces: usize = int(at, 39)
  const traceCells: usize = int(at, 40)
  const traceCount: usize = int(at, 41)
  const rowTraces: usize = int(at, 42)
  const traced: usize = int(at, 43)
  const tracedCount: usize = int(at, 44)
  const replacing = int(at, 45)
  const lambda = real(at, 13)
  let live: i32 = withTraces ? load<i32>(traceCount) : 0
  let tracedLive: i32 = withTraces ? load<i32>(tracedCount) : 0
  let unsound: i32 = 0
  const rows: usize = int(at, 0)
  const cells: usize = int(at, 1)
  const links: usize = int(at, 2)
  const outcomeStart: usize = int(at, 3)
  const tableStart: usize = int(at, 4)
  const startState: usize = int(at, 5)
  const startThreshold: usize = int(at, 6)
  const startGuide: usize = int(at, 7)
  const probability: usize = int(at, 8)
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
  const preferences: usize = int(at, 33)
  const tops: usize = int(at, 34)
  const sums: usize = int(at, 35)
  const criticUpdates: usize = int(at, 36)
  const criticByVisits = int(at, 37)
  const equalWeights = int(at, 38)
  const temperature = real(at, 9)
  let criticRate = real(at, 10)
  const criticFrom = real(at, 11)
  const criticSlowness = real(at, 12)
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
      if (withTraces) {
        for (let i: i32 = 0; i < live; i++) putAt(traces, intAt(traceCells, i), 0)
        live = 0
        for (let i: i32 = 0; i < tracedLive; i++)
          for (let r = intAt(tableStart, intAt(traced, i)), end = intAt(tableStart, intAt(traced, i) + 1); r < end; r++) putAt(rowTraces, r, 0)
        tracedLive = 0
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
        const chances = probability + ((<usize>row) << 3)
        const first = <f64>drawn * UNIT
        const second = first - load<f64>(chances)
        const third = second - load<f64>(chances, 8)
        const beyondFirst = <i32>(first >= load<f64>(chances))
        const beyondSecond = beyondFirst & <i32>(second >= load<f64>(chances, 8))
        row += beyondFirst + beyondSecond + (beyondSecond & <i32>(third >= load<f64>(chances, 16)))
      } else {
        const final = load<i32>(toStart + (here >> 1), 4) - 1
        for (let rest = <f64>drawn * UNIT; row < final; row++) {
          const chance = realAt(probability, row)
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
      if (counts) putAt(visits, row, realAt(visits, row) + 1)
      if (withTraces) {
        const seen = <i32>((last - values) >> 3)
        const error = lastReward + discount * (lastEnded ? 0 : load<f64>(here)) - load<f64>(last)
        const weight = equalWeights ? 1 : power
        returned += power * lastReward
        power *= discount
        lastRow = row
        left--
        const updated = realAt(updates, row) + 1
        putAt(updates, row, updated)
        if (byVisits) rate = (from * slowness) / (slowness + updated - 1)
        // The step leaves its mark.
        if (realAt(traces, seen) == 0) {
          let known = false
          for (let i: i32 = 0; i < tracedLive && !known; i++) known = intAt(traced, i) == seen
          if (!known) putInt(traced, tracedLive++, seen)
          putInt(traceCells, live++, seen)
        }
        putAt(traces, seen, replacing ? 1 : realAt(traces, seen) + 1)
        for (let r = intAt(tableStart, seen), end = intAt(tableStart, seen + 1); r < end; r++)
          putAt(rowTraces, r, realAt(rowTraces, r) + (weight * ((r == row ? 1.0 : 0.0) - realAt(probability, r))) / temperature)
        if (criticByVisits) putAt(criticUpdates, seen, realAt(criticUpdates, seen) + 1)
        for (let i: i32 = 0; i < live; i++) {
          const o = intAt(traceCells, i)
          if (criticByVisits) criticRate = (criticFrom * criticSlowness) / (criticSlowness + max<f64>(1, realAt(criticUpdates, o)) - 1)
          value = realAt(values, o) + criticRate * error * realAt(traces, o)
          if ((reinterpret<u64>(value) << 1) > mostBits) {
            sound = false
            unsound = o
            break
          }
          putAt(values, o, value)
        }
        for (let i: i32 = 0; sound && i < tracedLive; i++) {
          const o = intAt(traced, i)
          const start = intAt(tableStart, o)
          const end = intAt(tableStart, o + 1)
          for (let r = start; sound && r < end; r++) {
            value = realAt(preferences, r) + rate * (error * realAt(rowTraces, r))
            sound = (reinterpret<u64>(value) << 1) <= mostBits
          }
          if (!sound) {
            unsound = o
            break
          }
          for (let r = start; r < end; r++) putAt(preferences, r, realAt(preferences, r) + rate * (error * realAt(rowTraces, r)))
          refresh(preferences, probability, tops, sums, o, start, end, temperature)
        }
        if (!sound) break
        const fading = discount * lambda
        let kept: i32 = 0
        for (let i: i32 = 0; i < live; i++) {
          const o = intAt(traceCells, i)
          const rest = realAt(traces, o) * fading
          if (rest > FORGOTTEN) {
            putAt(traces, o, rest)
            putInt(traceCells, kept++, o)
          } else putAt(traces, o, 0)
        }
        live = kept
        kept = 0
        for (let i: i32 = 0; i < tracedLive; i++) {
          const o = intAt(traced, i)
          const start = intAt(tableStart, o)
          const end = intAt(tableStart, o + 1)
          let most: f64 = 0
          for (let r = start; r < end; r++) {
            const rest = realAt(rowTraces, r) * fading
            putAt(rowTraces, r, rest)
            most = max<f64>(most, abs<f64>(rest))
          }
          if (most > FORGOTTEN) putInt(traced, kept++, o)
          else for (let r = start; r < end; r++) putAt(rowTraces, r, 0)
        }
        tracedLive = kept
        if (<i32>(left == 0) | lastEnded) break
        continue
      }
      // The value first, then the preferences.
      const old = load<f64>(last)
      const ahead = lastEnded ? 0 : load<f64>(here)
      const worth = lastReward + discount * ahead
      if (criticByVisits) {
        const place = criticUpdates + (last - values)
        const updated = load<f64>(place) + 1
        store<f64>(place, updated)
        criticRate = (criticFrom * criticSlowness) / (criticSlowness + max<f64>(1, updated) - 1)
      }
      value = old + criticRate * (worth - old)
      const weight = equalWeights ? 1 : power
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      // Larger in size than any number may be, or none at all: by the bits, without the sign.
      if ((reinterpret<u64>(value) << 1) > mostBits) {
        sound = false
        break
      }
      store<f64>(last, value)
      if (byVisits) {
        const updated = realAt(updates, row) + 1
        putAt(updates, row, updated)
        rate = (from * slowness) / (slowness + updated - 1)
      }
      let step = rate * weight * (worth - old)
      if (temperature != 1) step /= temperature
      value = realAt(preferences, row) + step
      if ((reinterpret<u64>(value) << 1) > mostBits) {
        sound = false
        break
      }
      const start = load<i32>(toStart + (last >> 1))
      const state = <i32>((last - values) >> 3)
      if (four) {
        const place = (<usize>start) << 3
        const isTaken = i64x2.splat(<i64>(row - start))
        const steps = f64x2.splat(step)
        const one = v128.load(PAIRS, 144)
        const chanceAB = v128.load(probability + place)
        const chanceCD = v128.load(probability + place, 16)
        const ab = f64x2.add(v128.load(preferences + place), f64x2.mul(steps, f64x2.sub(v128.and(i64x2.eq(isTaken, i64x2(0, 1)), one), chanceAB)))
        const cd = f64x2.add(v128.load(preferences + place, 16), f64x2.mul(steps, f64x2.sub(v128.and(i64x2.eq(isTaken, i64x2(2, 3)), one), chanceCD)))
        v128.store(preferences + place, ab)
        v128.store(preferences + place, cd, 16)
        let top = f64x2.pmax(ab, cd)
        top = f64x2.pmax(top, v128.shuffle<f64>(top, top, 1, 0))
        let x = f64x2.sub(ab, top)
        let y = f64x2.sub(cd, top)
        if (temperature != 1) {
          x = f64x2.div(x, f64x2.splat(temperature))
          y = f64x2.div(y, f64x2.splat(temperature))
        }
        let powersAB: v128
        let powersCD: v128
        if (v128.any_true(v128.not(f64x2.ge(f64x2.pmin(x, y), v128.load(PAIRS, 192))))) {
          powersAB = f64x2.replace_lane(f64x2.splat(exponential(f64x2.extract_lane(x, 0))), 1, exponential(f64x2.extract_lane(x, 1)))
          powersCD = f64x2.replace_lane(f64x2.splat(exponential(f64x2.extract_lane(y, 0))), 1, exponential(f64x2.extract_lane(y, 1)))
        } else {
          powersAB = exponentials(x)
          powersCD = exponentials(y)
        }
        const total = f64x2.extract_lane(powersAB, 0) + f64x2.extract_lane(powersAB, 1) + f64x2.extract_lane(powersCD, 0) + f64x2.extract_lane(powersCD, 1)
        v128.store(probability + place, f64x2.div(powersAB, f64x2.splat(total)))
        v128.store(probability + place, f64x2.div(powersCD, f64x2.splat(total)), 16)
        putAt(tops, state, f64x2.extract_lane(top, 0))
        putAt(sums, state, total)
      } else {
        const end = load<i32>(toStart + (last >> 1), 4)
        for (let r = start; r < end; r++)
          putAt(preferences, r, realAt(preferences, r) + step * ((r == row ? 1.0 : 0.0) - realAt(probability, r)))
        refresh(preferences, probability, tops, sums, state, start, end, temperature)
      }
      if (<i32>(left == 0) | lastEnded) break
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
      put(at, 29, 1)
      put(at, 46, withTraces ? unsound : lastState)
      putReal(at, 8, value)
      break
    }
  }
  if (withTraces) {
    store<i32>(traceCount, live)
    store<i32>(tracedCount, tracedLive)
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
