/** Returns of many runs, summed up episode by episode. */
export interface RunBand {
  readonly mean: number[]
  /** Lower and upper quartile over the runs. */
  readonly lower: number[]
  readonly upper: number[]
}

/** @param runs each [episodes], all equally long, at least one */
export function bandOfRuns(runs: readonly Float64Array[]): RunBand {
  const band: RunBand = { mean: [], lower: [], upper: [] }
  const column = new Float64Array(runs.length)
  for (let episode = 0; episode < runs[0].length; episode++) {
    let sum = 0
    for (let run = 0; run < runs.length; run++) sum += column[run] = runs[run][episode]
    column.sort()
    band.mean.push(sum / runs.length)
    band.lower.push(quantile(column, 0.25))
    band.upper.push(quantile(column, 0.75))
  }
  return band
}

/** The quantile of sorted numbers, between neighbours in proportion (definition 7 of Hyndman & Fan 1996). */
export function quantile(sorted: Float64Array, part: number): number {
  const at = (sorted.length - 1) * part
  const below = Math.floor(at)
  const above = Math.min(below + 1, sorted.length - 1)
  return sorted[below] + (at - below) * (sorted[above] - sorted[below])
}
