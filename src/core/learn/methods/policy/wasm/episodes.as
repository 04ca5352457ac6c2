// REINFORCE with a plain step once more, in AssemblyScript: the same draws and the same sums in the same order as
// ../reinforce.ts takes, so that both give the same bits. Built by scripts/wasm.mjs into episodes-code.ts.
// `at` is the address of a block of registers: addresses and whole numbers as i32, then numbers as f64. The order of both
// is that of INTS and REALS in fast-reinforce.ts.

import { int, put, real, putReal, intAt, realAt, putAt, exponential } from '../../../../wasm/kernel'
import { exponentials, PAIRS } from '../../../../wasm/exponentials'

const UNIT: f64 = 1.0 / 4294967296.0
const HALF_UNIT: f64 = 1.0 / 2147483648.0
/** Changed cells that are remembered of a step, as in tabular-learner.ts. */
const REMEMBERED: i32 = 4096

const CONSTANT_BASELINE: i32 = 1
const MEAN_BASELINE: i32 = 2

export function run(at: usize): i32 { return steps(at, true, false) }
export function lean(at: usize): i32 { return steps(at, false, false) }
export function leanFour(at: usize): i32 { return steps(at, false, true) }

/**
 * Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken
 * `keeps`: what updates were made of is kept. `four`: every observation is a state of four rows that lead to up to three
 * outcomes each, drawn from records as in ../../value/wasm/row-draws.ts.
 */
@inline function steps(at: usize, keeps: bool, four: bool): i32 {
  const stateRecords: usize = int(at, 0)
  const outcomeRecords: usize = int(at, 1)
  const tableStart: usize = int(at, 2)
  const outcomeStart: usize = int(at, 3)
  const startState: usize = int(at, 4)
  const startThreshold: usize = int(at, 5)
  const startGuide: usize = int(at, 6)
  const preferences: usize = int(at, 7)
  const probability: usize = int(at, 8)
  const tops: usize = int(at, 9)
  const sums: usize = int(at, 10)
  const visits: usize = int(at, 11)
  const slots: usize = int(at, 12)
  const returns: usize = int(at, 13)
  const lengths: usize = int(at, 14)
  const environment: usize = int(at, 15)
  const exploration: usize = int(at, 16)
  const starts = int(at, 17)
  const cap = int(at, 18)
  const limit = int(at, 19)
  const until = int(at, 20)
  const byVisits = int(at, 21)
  const equalWeights = int(at, 22)
  const baselineKind = int(at, 23)
  const slotSize = <usize>int(at, 24)
  const seenObservation: usize = int(at, 25)
  const seenRow: usize = int(at, 26)
  const seenReward: usize = int(at, 27)
  const worth: usize = int(at, 28)
  const beforePreference: usize = int(at, 29)
  const beforeProbability: usize = int(at, 30)
  const updates: usize = int(at, 31)
  const changedCells: usize = int(at, 32)
  const changedBefore: usize = int(at, 33)
  let state = int(at, 34)
  let age = int(at, 35)
  let episodes = int(at, 36)
  let lastState = int(at, 37)
  let lastRow = int(at, 38)
  let lastNext = int(at, 39)
  let lastEnded = int(at, 40)
  const discount = real(at, 0)
  const temperature = real(at, 1)
  const baselineConstant = real(at, 2)
  const from = real(at, 3)
  const slowness = real(at, 4)
  const most = real(at, 5)
  let rate = real(at, 6)
  let returned = real(at, 7)
  let power = real(at, 8)
  let lastReward = real(at, 9)
  let seen = real(at, 10)
  let mean = real(at, 11)
  let taken: i32 = 0
  let changed: i32 = 0
  const rows: usize = int(at, 43)
  const counts = int(at, 44)
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let counter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  put(at, 41, -1)
  while (taken < limit && episodes < until) {
    if (state < 0) {
      if (starts == 1) state = intAt(startState, 0)
      else {
        const drawn = ea + eb + counter++
        ea = eb ^ (eb >>> 9)
        eb = ec + (ec << 3)
        ec = ((ec << 21) | (ec >>> 11)) + drawn
        const half = <i32>(drawn >>> 1)
        let i = intAt(startGuide, <i32>(<f64>half * <f64>starts * HALF_UNIT))
        while (half > intAt(startThreshold, i)) i++
        state = intAt(startState, i)
      }
      age = 0
      returned = 0
      power = 1
    }
    changed = 0
    // A state is a record: its observation, that one's first and last row, its own first row in the model.
    const record = stateRecords + ((<usize>state) << 4)
    const group = load<i32>(record)
    const groupStart = load<i32>(record, 4)
    const lastOfGroup = load<i32>(record, 8)
    let drawn = xa + xb + xCounter++
    xa = xb ^ (xb >>> 9)
    xb = xc + (xc << 3)
    xc = ((xc << 21) | (xc >>> 11)) + drawn
    let row = groupStart
    let to: i32
    let reward: f64
    if (four) {
      // Without a branch that would often be predicted wrongly.
      const chances = probability + ((<usize>groupStart) << 3)
      const first = <f64>drawn * UNIT
      const second = first - load<f64>(chances)
      const third = second - load<f64>(chances, 8)
      const beyondFirst = <i32>(first >= load<f64>(chances))
      const beyondSecond = beyondFirst & <i32>(second >= load<f64>(chances, 8))
      row += beyondFirst + beyondSecond + (beyondSecond & <i32>(third >= load<f64>(chances, 16)))
      const drawsOf = rows + <usize>row * 48
      let place: usize = 0
      if (load<i32>(drawsOf, 20)) {
        drawn = ea + eb + counter++
        ea = eb ^ (eb >>> 9)
        eb = ec + (ec << 3)
        ec = ((ec << 21) | (ec >>> 11)) + drawn
        const half = <i32>(drawn >>> 1)
        place = <usize>(half > load<i32>(drawsOf)) + <usize>(half > load<i32>(drawsOf, 4))
      }
      to = load<i32>(drawsOf + (place << 2), 8)
      reward = load<f64>(drawsOf + (place << 3), 24)
    } else {
      for (let left = <f64>drawn * UNIT; row < lastOfGroup; row++) {
        const chance = realAt(probability, row)
        if (left < chance) break
        left -= chance
      }
      const modelRow = load<i32>(record, 12) + row - groupStart
      const firstOutcome = intAt(outcomeStart, modelRow)
      // An outcome is one: last draw that falls on it, next state (less than 0, all bits turned, for an ending), reward.
      let outcome = outcomeRecords + ((<usize>firstOutcome) << 4)
      if (intAt(outcomeStart, modelRow + 1) - firstOutcome > 1) {
        drawn = ea + eb + counter++
        ea = eb ^ (eb >>> 9)
        eb = ec + (ec << 3)
        ec = ((ec << 21) | (ec >>> 11)) + drawn
        const half = <i32>(drawn >>> 1)
        while (half > load<i32>(outcome)) outcome += 16
      }
      to = load<i32>(outcome, 4)
      reward = load<f64>(outcome, 8)
    }
    const ended = <i32>(to < 0)
    const next = ended ? ~to : to
    if (counts) putAt(visits, row, realAt(visits, row) + 1)
    store<i32>(seenObservation + ((<usize>age) << 2), group)
    store<i32>(seenRow + ((<usize>age) << 2), row)
    putAt(seenReward, age, reward)
    returned += power * reward
    power *= discount
    age++
    taken++
    lastState = state
    lastRow = row
    lastNext = next
    lastReward = reward
    lastEnded = ended
    state = next
    if (!ended && age < cap) continue
    // The returns, counted backwards, and an update for each step.
    let sum: f64 = 0
    for (let t = age - 1; t >= 0; t--) {
      sum = realAt(seenReward, t) + discount * sum
      putAt(worth, t, sum)
    }
    let weight: f64 = 1
    let sound = true
    for (let t: i32 = 0; t < age; t++) {
      const o = intAt(seenObservation, t)
      const r = intAt(seenRow, t)
      const g = realAt(worth, t)
      const baseline = baselineKind == MEAN_BASELINE ? mean : baselineKind == CONSTANT_BASELINE ? baselineConstant : 0
      const counted = equalWeights ? 1 : weight
      if (keeps || byVisits) {
        const updated = realAt(updates, r) + 1
        putAt(updates, r, updated)
        if (byVisits) rate = (from * slowness) / (slowness + updated - 1)
      }
      let step = rate * counted * (g - baseline)
      if (temperature != 1) step /= temperature
      const value = realAt(preferences, r) + step
      if (!(abs<f64>(value) <= most)) {
        sound = false
        put(at, 41, o)
        putReal(at, 12, value)
        break
      }
      const start = intAt(tableStart, o)
      if (four) {
        // All four at once.
        const place = (<usize>start) << 3
        const isTaken = i64x2.splat(<i64>(r - start))
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
        putAt(tops, o, f64x2.extract_lane(top, 0))
        putAt(sums, o, total)
        weight *= discount
        continue
      }
      const end = intAt(tableStart, o + 1)
      if (keeps) for (let k = start; k < end; k++) {
        if (changed < REMEMBERED) {
          store<i32>(changedCells + ((<usize>changed) << 2), k)
          putAt(changedBefore, changed, realAt(preferences, k))
        }
        changed++
      }
      // Two at a time, and the last one alone where the number is odd.
      const steps = f64x2.splat(step)
      let tops2 = f64x2.splat(-Infinity)
      let k = start
      for (; k + 1 < end; k += 2) {
        const place = (<usize>k) << 3
        const old = v128.load(preferences + place)
        const chance = v128.load(probability + place)
        if (keeps) {
          v128.store(beforePreference + place, old)
          v128.store(beforeProbability + place, chance)
        }
        const isTaken = v128.and(i64x2.eq(i64x2.splat(<i64>(r - k)), i64x2(0, 1)), f64x2.splat(1))
        const moved = f64x2.add(old, f64x2.mul(steps, f64x2.sub(isTaken, chance)))
        v128.store(preferences + place, moved)
        tops2 = f64x2.pmax(tops2, moved)
      }
      let top = f64x2.extract_lane(tops2, 0)
      if (f64x2.extract_lane(tops2, 1) > top) top = f64x2.extract_lane(tops2, 1)
      if (k < end) {
        const old = realAt(preferences, k)
        const chance = realAt(probability, k)
        if (keeps) {
          putAt(beforePreference, k, old)
          putAt(beforeProbability, k, chance)
        }
        const moved = old + step * ((k == r ? 1.0 : 0.0) - chance)
        putAt(preferences, k, moved)
        if (moved > top) top = moved
      }
      if (keeps) {
        const slot = slots + (<usize>o * slotSize << 3)
        store<f64>(slot, <f64>r)
        store<f64>(slot, <f64>t, 8)
        store<f64>(slot, g, 16)
        store<f64>(slot, counted, 24)
        store<f64>(slot, <f64>(episodes + 1), 32)
        store<f64>(slot, rate, 40)
        if (slotSize > 6) store<f64>(slot, baseline, 48)
      }
      let total: f64 = 0
      k = start
      for (; k + 1 < end; k += 2) {
        let x = f64x2.sub(v128.load(preferences + ((<usize>k) << 3)), f64x2.splat(top))
        if (temperature != 1) x = f64x2.div(x, f64x2.splat(temperature))
        let powers: v128
        if (v128.any_true(v128.not(f64x2.ge(x, v128.load(PAIRS, 192)))))
          powers = f64x2.replace_lane(f64x2.splat(exponential(f64x2.extract_lane(x, 0))), 1, exponential(f64x2.extract_lane(x, 1)))
        else powers = exponentials(x)
        v128.store(probability + ((<usize>k) << 3), powers)
        total += f64x2.extract_lane(powers, 0)
        total += f64x2.extract_lane(powers, 1)
      }
      if (k < end) {
        const last = exponential((realAt(preferences, k) - top) / temperature)
        putAt(probability, k, last)
        total += last
      }
      k = start
      for (; k + 1 < end; k += 2) {
        const place = probability + ((<usize>k) << 3)
        v128.store(place, f64x2.div(v128.load(place), f64x2.splat(total)))
      }
      if (k < end) putAt(probability, k, realAt(probability, k) / total)
      putAt(tops, o, top)
      putAt(sums, o, total)
      weight *= discount
    }
    if (sound && baselineKind == MEAN_BASELINE)
      for (let t: i32 = 0; t < age; t++) {
        seen++
        mean += (realAt(worth, t) - mean) / seen
      }
    putAt(returns, episodes, returned)
    store<i32>(lengths + ((<usize>episodes) << 2), ended ? age : -age)
    episodes++
    state = -1
    if (!sound) break
  }
  store<u32>(environment, ea)
  store<u32>(environment, eb, 4)
  store<u32>(environment, ec, 8)
  store<u32>(environment, counter, 12)
  store<u32>(exploration, xa)
  store<u32>(exploration, xb, 4)
  store<u32>(exploration, xc, 8)
  store<u32>(exploration, xCounter, 12)
  put(at, 34, state)
  put(at, 35, age)
  put(at, 36, episodes)
  put(at, 37, lastState)
  put(at, 38, lastRow)
  put(at, 39, lastNext)
  put(at, 40, lastEnded)
  put(at, 42, changed)
  putReal(at, 6, rate)
  putReal(at, 7, returned)
  putReal(at, 8, power)
  putReal(at, 9, lastReward)
  putReal(at, 10, seen)
  putReal(at, 11, mean)
  return taken
}
