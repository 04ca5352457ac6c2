/** A bar of a histogram: values from `low` up to, not including, `high`; the last one includes its end. */
export interface Bar {
  readonly low: number
  readonly high: number
  readonly count: number
  /** The place of the first value in it; -1 for none. */
  readonly first: number
}

/** Below this share of the values themselves, bars of one width can no longer be told apart in doubles. */
const FINEST = 1e-13

/**
 * Counts of values: a bar a value where there are no more different ones than bars, else bars of one width on round
 * ends; a single bar for values that hardly differ. NaN is left out.
 */
export function histogramOf(values: ArrayLike<number>, bars = 24): Bar[] {
  const known = Array.from(values).filter((value) => Number.isFinite(value))
  if (!known.length) return []
  const different = [...new Set(known)].sort((a, b) => a - b)
  const filled = (edges: readonly (readonly [number, number])[]): Bar[] => {
    const counts = edges.map(([low, high]) => ({ low, high, count: 0, first: -1 }))
    for (let i = 0; i < values.length; i++) {
      const value = values[i]
      if (!Number.isFinite(value)) continue
      const bar = counts[indexOf(edges, value)]
      if (bar.count++ === 0) bar.first = i
    }
    return counts
  }
  if (different.length <= bars) return filled(different.map((value) => [value, value] as const))
  const [least, most] = [different[0], different[different.length - 1]]
  const share = (most - least) / bars
  if (share < Math.max(FINEST * Math.max(-least, most), 1e-300)) return filled([[least, most]])
  const width = roundUp(share)
  let from = Math.floor(least / width)
  let to = Math.floor(most / width) + 1
  // Quotients are rounded, so that a value just below an edge may seem to lie on it.
  while (from * width > least) from--
  while (to * width <= most) to++
  return filled(
    Array.from({ length: to - from }, (_, i) => [(from + i) * width, (from + i + 1) * width] as const),
  )
}

/** The bar of a value, by halving. */
function indexOf(edges: readonly (readonly [number, number])[], value: number): number {
  let [low, high] = [0, edges.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (edges[middle][0] <= value) low = middle
    else high = middle - 1
  }
  return low
}

/** The next of 1, 2 and 5 with some power of ten. */
function roundUp(width: number): number {
  const power = 10 ** Math.floor(Math.log10(width))
  const digit = [1, 2, 5, 10].find((each) => each * power >= width * (1 - 1e-12))!
  return digit * power
}
