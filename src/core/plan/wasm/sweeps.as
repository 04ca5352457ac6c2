// The sweeps of ../sweep-form.ts once more, in AssemblyScript: the same sums in the same order, so that both give the
// same bits; four actions at a time in two pairs of lanes. Built by scripts/wasm.mjs into sweeps-code.ts.
// All arguments are addresses in the module's memory, laid out as the arrays of a SweepForm or a SweepChain.

/** Best backups of bundles of four actions. `choice` 0: the chosen actions are not written down. */
export function bestOfFour(
  order: usize, bundleStart: usize, nextStart: usize, next: usize, weight: usize, reward: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  let largest: f64 = 0
  let bundle: i32 = 0
  let k: i32 = 0
  for (let place: i32 = 0; place < places; place++) {
    let best: f64 = -Infinity
    let chosen: i32 = 0
    const end = load<i32>(bundleStart + ((<usize>place) << 2), 4)
    for (; bundle < end; bundle++) {
      let ab = v128.load(reward + ((<usize>bundle) << 5))
      let cd = v128.load(reward + ((<usize>bundle) << 5), 16)
      const last = load<i32>(nextStart + ((<usize>bundle) << 2), 4)
      for (; k < last; k++) {
        const value = v128.load64_splat(from + ((<usize>load<i32>(next + ((<usize>k) << 2))) << 3))
        const parts = weight + ((<usize>k) << 5)
        ab = f64x2.add(ab, f64x2.mul(v128.load(parts), value))
        cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 16), value))
      }
      const a = f64x2.extract_lane(ab, 0)
      const b = f64x2.extract_lane(ab, 1)
      const c = f64x2.extract_lane(cd, 0)
      const d = f64x2.extract_lane(cd, 1)
      if (a > best) { best = a; chosen = bundle << 2 }
      if (b > best) { best = b; chosen = (bundle << 2) + 1 }
      if (c > best) { best = c; chosen = (bundle << 2) + 2 }
      if (d > best) { best = d; chosen = (bundle << 2) + 3 }
    }
    if (choice) store<i32>(choice + ((<usize>place) << 2), chosen)
    const state = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    const change = Math.abs(best - load<f64>(from + state))
    if (change > largest) largest = change
    store<f64>(to + state, best)
  }
  return largest
}

/**
 * Best backups where every place has one bundle of four actions, and many places have the same weights and rewards: their
 * *pattern*, which stands in `table` once as the four rewards and then four weights for each of `width` next states. A place has
 * the offset of its pattern and `width` next states. `width` is at least five: what fills up has weight 0.
 * `choice` as above; 0 where the values alone are wanted, which is quicker.
 */
@inline function patterns(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  places: i32, from: usize, to: usize, choice: usize, five: bool, chooses: bool,
): f64 {
  let largest = f64x2.splat(0)
  for (let place: i32 = 0; place < places; place++) {
    let parts = table + <usize>load<i32>(pattern + ((<usize>place) << 2))
    let ab = v128.load(parts)
    let cd = v128.load(parts, 16)
    const v0 = v128.load64_splat(from + ((<usize>load<i32>(next)) << 3))
    const v1 = v128.load64_splat(from + ((<usize>load<i32>(next, 4)) << 3))
    const v2 = v128.load64_splat(from + ((<usize>load<i32>(next, 8)) << 3))
    const v3 = v128.load64_splat(from + ((<usize>load<i32>(next, 12)) << 3))
    const v4 = v128.load64_splat(from + ((<usize>load<i32>(next, 16)) << 3))
    ab = f64x2.add(ab, f64x2.mul(v128.load(parts, 32), v0))
    cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 48), v0))
    ab = f64x2.add(ab, f64x2.mul(v128.load(parts, 64), v1))
    cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 80), v1))
    ab = f64x2.add(ab, f64x2.mul(v128.load(parts, 96), v2))
    cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 112), v2))
    ab = f64x2.add(ab, f64x2.mul(v128.load(parts, 128), v3))
    cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 144), v3))
    ab = f64x2.add(ab, f64x2.mul(v128.load(parts, 160), v4))
    cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 176), v4))
    if (five) next += 20
    else {
      parts += 192
      const end = next + ((<usize>width) << 2)
      for (let k = next + 20; k < end; k += 4, parts += 32) {
        const value = v128.load64_splat(from + ((<usize>load<i32>(k)) << 3))
        ab = f64x2.add(ab, f64x2.mul(v128.load(parts), value))
        cd = f64x2.add(cd, f64x2.mul(v128.load(parts, 16), value))
      }
      next += (<usize>width) << 2
    }
    let best = f64x2.pmax(ab, cd)
    best = f64x2.pmax(best, v128.shuffle<f64>(best, best, 1, 0))
    if (chooses) {
      const mask = i64x2.bitmask(f64x2.eq(ab, best)) | (i64x2.bitmask(f64x2.eq(cd, best)) << 2)
      store<i32>(choice + ((<usize>place) << 2), (place << 2) + ctz(mask))
    }
    const state = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    largest = f64x2.pmax(largest, f64x2.abs(f64x2.sub(best, v128.load64_zero(from + state))))
    v128.store64_lane(to + state, best, 0)
  }
  return f64x2.extract_lane(largest, 0)
}

export function valuesOfFive(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  return patterns(order, pattern, next, width, table, places, from, to, choice, true, false)
}
export function bestOfFive(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  return patterns(order, pattern, next, width, table, places, from, to, choice, true, true)
}
export function valuesOfMore(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  return patterns(order, pattern, next, width, table, places, from, to, choice, false, false)
}
export function bestOfMore(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  return patterns(order, pattern, next, width, table, places, from, to, choice, false, true)
}

/** As layOutAndSweep, of patterns. */
export function layOutPatternsAndSweep(
  order: usize, pattern: usize, next: usize, width: i32, table: usize,
  choice: usize, chainStart: usize, chainNext: usize, chainWeight: usize, chainReward: usize,
  places: i32, values: usize,
): f64 {
  let largest: f64 = 0
  let filled: i32 = 0
  for (let place: i32 = 0; place < places; place++) {
    const lane = (<usize>(load<i32>(choice + ((<usize>place) << 2)) & 3)) << 3
    let parts = table + <usize>load<i32>(pattern + ((<usize>place) << 2)) + lane
    let sum = load<f64>(parts)
    store<f64>(chainReward + ((<usize>place) << 3), sum)
    for (const end = next + ((<usize>width) << 2); next < end; next += 4) {
      parts += 32
      const part = load<f64>(parts)
      if (part == 0) continue
      const state = load<i32>(next)
      sum += part * load<f64>(values + ((<usize>state) << 3))
      store<i32>(chainNext + ((<usize>filled) << 2), state)
      store<f64>(chainWeight + ((<usize>filled) << 3), part)
      filled++
    }
    store<i32>(chainStart + ((<usize>place) << 2), filled, 4)
    const at = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    const change = Math.abs(sum - load<f64>(values + at))
    if (change > largest) largest = change
    store<f64>(values + at, sum)
  }
  return largest
}

/** As bestOfFour, where every action has a list of its own. */
export function bestOfOne(
  order: usize, bundleStart: usize, nextStart: usize, next: usize, weight: usize, reward: usize,
  places: i32, from: usize, to: usize, choice: usize,
): f64 {
  let largest: f64 = 0
  let row: i32 = 0
  let k: i32 = 0
  for (let place: i32 = 0; place < places; place++) {
    let best: f64 = -Infinity
    let chosen: i32 = 0
    const end = load<i32>(bundleStart + ((<usize>place) << 2), 4)
    for (; row < end; row++) {
      let sum = load<f64>(reward + ((<usize>row) << 3))
      const last = load<i32>(nextStart + ((<usize>row) << 2), 4)
      for (; k < last; k++)
        sum += load<f64>(weight + ((<usize>k) << 3)) * load<f64>(from + ((<usize>load<i32>(next + ((<usize>k) << 2))) << 3))
      if (sum > best) { best = sum; chosen = row }
    }
    if (choice) store<i32>(choice + ((<usize>place) << 2), chosen)
    const state = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    const change = Math.abs(best - load<f64>(from + state))
    if (change > largest) largest = change
    store<f64>(to + state, best)
  }
  return largest
}

/** Lays out the chain of `choice` and makes the first sweep in place along it. `shift`: 2 for four lanes, 0 for one. */
export function layOutAndSweep(
  order: usize, nextStart: usize, next: usize, weight: usize, reward: usize, shift: i32,
  choice: usize, chainStart: usize, chainNext: usize, chainWeight: usize, chainReward: usize,
  places: i32, values: usize,
): f64 {
  let largest: f64 = 0
  let filled: i32 = 0
  for (let place: i32 = 0; place < places; place++) {
    const chosen = load<i32>(choice + ((<usize>place) << 2))
    const bundle = chosen >> shift
    const lane = chosen - (bundle << shift)
    let sum = load<f64>(reward + ((<usize>chosen) << 3))
    store<f64>(chainReward + ((<usize>place) << 3), sum)
    const last = load<i32>(nextStart + ((<usize>bundle) << 2), 4)
    for (let k = load<i32>(nextStart + ((<usize>bundle) << 2)); k < last; k++) {
      const part = load<f64>(weight + ((<usize>((k << shift) + lane)) << 3))
      if (part == 0) continue
      const state = load<i32>(next + ((<usize>k) << 2))
      sum += part * load<f64>(values + ((<usize>state) << 3))
      store<i32>(chainNext + ((<usize>filled) << 2), state)
      store<f64>(chainWeight + ((<usize>filled) << 3), part)
      filled++
    }
    store<i32>(chainStart + ((<usize>place) << 2), filled, 4)
    const at = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    const change = Math.abs(sum - load<f64>(values + at))
    if (change > largest) largest = change
    store<f64>(values + at, sum)
  }
  return largest
}

/** One sweep in place along a chain. */
export function sweepChain(
  order: usize, chainStart: usize, chainNext: usize, chainWeight: usize, chainReward: usize,
  places: i32, values: usize,
): f64 {
  let largest: f64 = 0
  let k: i32 = 0
  for (let place: i32 = 0; place < places; place++) {
    let sum = load<f64>(chainReward + ((<usize>place) << 3))
    const last = load<i32>(chainStart + ((<usize>place) << 2), 4)
    for (; k < last; k++)
      sum += load<f64>(chainWeight + ((<usize>k) << 3)) * load<f64>(values + ((<usize>load<i32>(chainNext + ((<usize>k) << 2))) << 3))
    const at = (<usize>load<i32>(order + ((<usize>place) << 2))) << 3
    const change = Math.abs(sum - load<f64>(values + at))
    if (change > largest) largest = change
    store<f64>(values + at, sum)
  }
  return largest
}
