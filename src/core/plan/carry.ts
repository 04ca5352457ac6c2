import type { Model } from '../model/model'

/**
 * Values of one model for the states of another, by name: where an edited environment begins to be planned from.
 * @returns [states of `to`] 0 for states that are new and for endings
 */
export function carryValues(from: Model, values: Float64Array, to: Model): Float64Array {
  const found = stateMatcher(from, to)
  return Float64Array.from({ length: to.states }, (_, s) => {
    const other = found(s)
    return other < 0 || to.ending[s] || !Number.isFinite(values[other]) ? 0 : values[other]
  })
}

/** For each state of `to` the state of `from` with the same name, -1 where there is none. */
export function stateMatcher(from: Pick<Model, 'labels'>, to: Model): (state: number) => number {
  if (from === to || from.labels === to.labels) return (s) => s
  // Mostly the names stand in the same order; only where they do not, are they looked up.
  let index: Map<string, number> | undefined
  return (s) => {
    if (from.labels[s] === to.labels[s]) return s
    index ??= new Map(from.labels.map((label, i) => [label, i]))
    return index.get(to.labels[s]) ?? -1
  }
}
