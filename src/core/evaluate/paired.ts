import type { Trials } from './rollout'

/** How two policies differ over the same episodes: the mean of the differences of their returns. */
export interface PairedDifference {
  readonly mean: number
  /** Of that mean; null for a single episode. */
  readonly standardError: number | null
  readonly episodes: number
}

/**
 * Episode by episode, as all policies meet the same random numbers: what chance gives to both of them falls out (common
 * random numbers; Glasserman & Yao 1992). @returns null where they did not play as many episodes
 */
export function pairedDifference(
  one: Pick<Trials, 'returns'>,
  other: Pick<Trials, 'returns'>,
): PairedDifference | null {
  const episodes = one.returns.length
  if (episodes === 0 || other.returns.length !== episodes) return null
  const differences = one.returns.map((value, k) => value - other.returns[k])
  const mean = differences.reduce((sum, value) => sum + value, 0) / episodes
  const squares = differences.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  return {
    mean,
    standardError: episodes > 1 ? Math.sqrt(squares / (episodes - 1) / episodes) : null,
    episodes,
  }
}
