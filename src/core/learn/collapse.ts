import type { Model, RowPolicy } from '../model/model'

/** A policy that takes one action with more than this hardly tries the others any more. */
export const SETTLED = 0.9999

/**
 * Where a policy has collapsed: the states that were visited, have a choice, and in which one action is nearly certain.
 * @param rowVisits [rows] how often each action was taken
 * @param settled  how likely one action is where a policy counts as collapsed
 */
export function collapsedStates(
  { states, rowStart, observation }: Model,
  policy: RowPolicy,
  rowVisits: Float64Array,
  settled = SETTLED,
): { readonly collapsed: readonly number[]; readonly of: number } {
  const collapsed: number[] = []
  const seen = new Set<number>()
  let of = 0
  for (let s = 0; s < states; s++) {
    // States that look alike have one policy.
    if (rowStart[s + 1] - rowStart[s] < 2 || seen.has(observation[s])) continue
    let visits = 0
    let most = 0
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
      visits += rowVisits[r]
      most = Math.max(most, policy[r])
    }
    if (visits === 0) continue
    seen.add(observation[s])
    of++
    if (most > settled) collapsed.push(s)
  }
  return { collapsed, of }
}
