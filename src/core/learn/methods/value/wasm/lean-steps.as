// The kernel of ../one-step.ts for runs that nobody looks into, in AssemblyScript: the same draws and the same sums in the
// same order, so that tables, returns and streams have the same bits; no workings, and visits only where they are asked for.
// Every state looks like itself here: observation, state, and their rows in the table and the model have the same numbers.
// Built by scripts/wasm.mjs into lean-steps-code.ts. `at` is the address of a block of registers: addresses and whole
// numbers as i32, then numbers as f64. The order of both is that of INTS and REALS in fast-one-step.ts.

import { int, put, real, putReal, intAt, putInt, realAt, putAt, below, breakTie } from '../../../../wasm/kernel'

const BEST: i32 = 0
const TAKEN: i32 = 1
const EXPECTED: i32 = 2

/** The mean of a state's action values, as the agent would act. */
@inline function expected(values: usize, start: i32, size: i32, level: f64, equals: i32, top: f64, firstOfTies: i32, first: i32): f64 {
  const even = level / <f64>size
  const greedy = firstOfTies ? 1 - level : (1 - level) / <f64>equals
  let sum: f64 = 0
  for (let r = start; r < start + size; r++) {
    const value = realAt(values, r)
    const picked = firstOfTies ? r == first : value == top
    sum += (even + (picked ? greedy : 0)) * value
  }
  return sum
}

/** The same of four rows. @param even  level / 4 @param greedy  what each of the best has besides */
@inline function expectedOfFour(place: usize, even: f64, greedy: f64, top: f64): f64 {
  const ab = v128.load(place)
  const cd = v128.load(place, 16)
  const tops = f64x2.splat(top)
  const evens = f64x2.splat(even)
  const shares = f64x2.splat(greedy)
  const first = f64x2.mul(f64x2.add(evens, v128.and(f64x2.eq(ab, tops), shares)), ab)
  const second = f64x2.mul(f64x2.add(evens, v128.and(f64x2.eq(cd, tops), shares)), cd)
  // One after the other, as the plain learner adds them.
  return 0 + f64x2.extract_lane(first, 0) + f64x2.extract_lane(first, 1) + f64x2.extract_lane(second, 0) + f64x2.extract_lane(second, 1)
}

// One function for each target, layout and whether visits are counted: each is compiled, and made faster while it runs, by itself.
export function bestFour(at: usize): i32 { return steps(at, BEST, true, true, false) }
export function bestFourCounted(at: usize): i32 { return steps(at, BEST, true, true, true) }
export function bestFew(at: usize): i32 { return steps(at, BEST, true, false, false) }
export function bestFewCounted(at: usize): i32 { return steps(at, BEST, true, false, true) }
export function bestMany(at: usize): i32 { return steps(at, BEST, false, false, false) }
export function bestManyCounted(at: usize): i32 { return steps(at, BEST, false, false, true) }
export function takenFour(at: usize): i32 { return steps(at, TAKEN, true, true, false) }
export function takenFourCounted(at: usize): i32 { return steps(at, TAKEN, true, true, true) }
export function takenFew(at: usize): i32 { return steps(at, TAKEN, true, false, false) }
export function takenFewCounted(at: usize): i32 { return steps(at, TAKEN, true, false, true) }
export function takenMany(at: usize): i32 { return steps(at, TAKEN, false, false, false) }
export function takenManyCounted(at: usize): i32 { return steps(at, TAKEN, false, false, true) }
export function expectedFour(at: usize): i32 { return steps(at, EXPECTED, true, true, false) }
export function expectedFourCounted(at: usize): i32 { return steps(at, EXPECTED, true, true, true) }
export function expectedFew(at: usize): i32 { return steps(at, EXPECTED, true, false, false) }
export function expectedFewCounted(at: usize): i32 { return steps(at, EXPECTED, true, false, true) }
export function expectedMany(at: usize): i32 { return steps(at, EXPECTED, false, false, false) }
export function expectedManyCounted(at: usize): i32 { return steps(at, EXPECTED, false, false, true) }

/**
 * Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken
 * `few`: rows are records of up to three outcomes, 48 bytes: two thresholds, three next states (all bits turned for an
 * ending), whether there is anything to draw, three rewards. Else a row has as many cells of 32 bytes as outcomes, one for
 * each equal part of the range: the two outcomes a draw may fall on there, as two thresholds, two next states, two rewards;
 * what falls beyond is looked for among all. `four`: every state has four rows.
 * `counts`: visits are counted.
 */
@inline function steps(at: usize, target: i32, few: bool, four: bool, counts: bool): i32 {
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
  // What each of so many best rows is chosen with besides its part of what is explored; divided once.
  const quarter = level / 4
  const toOne = 1 - level
  const toTwo = (1 - level) / 2
  const toThree = (1 - level) / 3
  const toFour = (1 - level) / 4
  const from = real(at, 2)
  const slowness = real(at, 3)
  const most = real(at, 4)
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
  let drawn: u32 = 0
  let taken: i32 = 0
  let value: f64 = 0
  let sound = true
  let lastOld: f64 = 0
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
    let tied: i32 = 0
    while (true) {
      const start = load<i32>(toStart + (here >> 2))
      if (target == TAKEN) lastExplored = exploring
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
      let ahead = load<f64>(here)
      if (target == TAKEN) {
        chosen = -1
        if (to >= 0) {
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
            chosen = nextStart + (four ? <i32>(drawn >>> 30) : below(drawn, load<i32>(toStart + (here >> 2), 4) - nextStart))
          } else {
            exploring = 0
            chosen = load<i32>(here, 8)
            const equals = load<i32>(here, 12)
            if (equals > untied) chosen = breakTie(ties, values, chosen, equals, ahead)
          }
          ahead = realAt(values, chosen)
        }
      }
      if (target == EXPECTED && to >= 0) {
        const nextStart = load<i32>(toStart + (here >> 2))
        const equals = load<i32>(here, 12)
        if (four && !firstOfTies)
          ahead = expectedOfFour(
            values + ((<usize>nextStart) << 3), quarter,
            equals == 1 ? toOne : equals == 2 ? toTwo : equals == 3 ? toThree : toFour, ahead,
          )
        else ahead = expected(
          values, nextStart, four ? 4 : load<i32>(toStart + (here >> 2), 4) - nextStart,
          level, equals, ahead, firstOfTies, load<i32>(here, 8),
        )
      }
      if (counts) {
        const visited = realAt(visits, row) + 1
        putAt(visits, row, visited)
        if (byVisits) rate = (from * slowness) / (slowness + visited - 1)
      }
      const old = realAt(values, row)
      lastOld = old
      value = old + rate * (lastReward + discount * ahead - old)
      returned += power * lastReward
      power *= discount
      lastRow = row
      left--
      putAt(values, row, value)
      if (four) {
        const place = values + ((<usize>start) << 3)
        const a = v128.load64_splat(place)
        const b = v128.load64_splat(place, 8)
        const c = v128.load64_splat(place, 16)
        const d = v128.load64_splat(place, 24)
        const top = f64x2.pmax(f64x2.pmax(a, b), f64x2.pmax(c, d))
        const ab = f64x2.eq(v128.shuffle<f64>(a, b, 0, 2), top)
        const cd = f64x2.eq(v128.shuffle<f64>(c, d, 0, 2), top)
        const mask = i64x2.bitmask(ab) | (i64x2.bitmask(cd) << 2)
        store<f64>(last, f64x2.extract_lane(top, 0))
        store<i32>(last, start + ctz(mask), 8)
        store<i32>(last, popcnt(mask), 12)
      } else {
          const size = load<i32>(toStart + (last >> 2), 4) - start
          const place = values + ((<usize>start) << 3)
          let mask: u32 = 0
          if (size == 1) {
            store<f64>(last, value)
          } else {
          const end = (<usize>(size - 2)) << 3
          let k: usize = 0
          let tops = v128.load(place + end)
          for (; k + 16 < end; k += 32) tops = f64x2.pmax(f64x2.pmax(tops, v128.load(place + k)), v128.load(place + k, 16))
          if (k < end) tops = f64x2.pmax(tops, v128.load(place + k))
          tops = f64x2.pmax(tops, v128.shuffle<f64>(tops, tops, 1, 0))
          mask = i64x2.bitmask(f64x2.eq(tops, v128.load(place + end))) << (size - 2)
          for (k = 0; k + 16 < end; k += 32) mask |= (i64x2.bitmask(f64x2.eq(tops, v128.load(place + k))) | (i64x2.bitmask(f64x2.eq(tops, v128.load(place + k, 16))) << 2)) << (k >> 3)
          if (k < end) mask |= i64x2.bitmask(f64x2.eq(tops, v128.load(place + k))) << (k >> 3)
          store<f64>(last, f64x2.extract_lane(tops, 0))
          store<i32>(last, start + ctz(mask), 8)
          store<i32>(last, popcnt(mask), 12)
          }
      }
      // Larger in size than any number may be, or none at all: by the bits, without the sign.
      const diverged = (reinterpret<u64>(value) << 1) > mostBits
      if (<i32>diverged | <i32>(left == 0) | <i32>lastEnded) {
        sound = !diverged
        break
      }
      if (target == TAKEN) {
        row = chosen
        continue
      }
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
        row = nextStart + (four ? <i32>(drawn >>> 30) : below(drawn, load<i32>(toStart + (here >> 2), 4) - nextStart))
      } else {
        exploring = 0
        row = load<i32>(here, 8)
        if (load<i32>(here, 12) > untied) {
          tied = 1
          break
        }
      }
    }
    state = <i32>((here - greedy) >> 4)
    lastState = <i32>((last - greedy) >> 4)
    lastNext = state
    if (target != TAKEN) {
      lastExplored = exploring
      chosen = tied ? breakTie(ties, values, row, load<i32>(here, 12), load<f64>(here)) : -1
    }
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
      // It is not written: the table is as it was, and its maximum is found again outside.
      putAt(values, lastRow, lastOld)
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
