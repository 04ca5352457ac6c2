// What is known of the best rows of a state, as in core/learn/greedy-table.ts: a record of 16 bytes with the largest value, the
// first row that has it, and how many have it. Taken in by scripts/wasm.mjs where a kernel imports it.

/** Finds the largest value of a state's rows, the first row that has it and how many have it, for its record. */
@inline export function renew(values: usize, record: usize, start: i32, size: i32, four: bool): void {
  const place = values + ((<usize>start) << 3)
  if (four) {
    const a = v128.load64_splat(place)
    const b = v128.load64_splat(place, 8)
    const c = v128.load64_splat(place, 16)
    const d = v128.load64_splat(place, 24)
    const top = f64x2.pmax(f64x2.pmax(a, b), f64x2.pmax(c, d))
    const ab = f64x2.eq(v128.shuffle<f64>(a, b, 0, 2), top)
    const cd = f64x2.eq(v128.shuffle<f64>(c, d, 0, 2), top)
    const mask = i64x2.bitmask(ab) | (i64x2.bitmask(cd) << 2)
    store<f64>(record, f64x2.extract_lane(top, 0))
    store<i32>(record, start + ctz(mask), 8)
    store<i32>(record, popcnt(mask), 12)
  } else {
    let highest = load<f64>(place)
    let where = start
    let shared: i32 = 1
    for (let r: i32 = 1; r < size; r++) {
      const other = load<f64>(place + ((<usize>r) << 3))
      if (other > highest) {
        highest = other
        where = start + r
        shared = 1
      } else if (other == highest) shared++
    }
    store<f64>(record, highest)
    store<i32>(record, where, 8)
    store<i32>(record, shared, 12)
  }
}
