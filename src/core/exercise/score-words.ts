import { formatCount, formatNumber } from '../formats/number'
import type { LevelScore, Score } from './score'

/** A score in lines: one a level, then the points. */
export function scoreLines({ seed, levels, points, of }: Score): string[] {
  return [
    ...levels.map(levelLine),
    `${formatNumber(points)} of ${formatNumber(of)} points, played with seed ${seed}.`,
  ]
}

function levelLine(score: LevelScore): string {
  const { level, episodes, mean, interval, random, optimum, reference, share, points, of } = score
  const sure = interval ? `, 95 % from ${formatNumber(interval[0])} to ${formatNumber(interval[1])}` : ''
  const held = [
    `a random agent ${formatNumber(random)}`,
    ...(reference === null ? [] : [`the instructor’s policy ${formatNumber(reference)}`]),
    `possible ${formatNumber(optimum)}`,
  ].join(', ')
  return `${level}: ${formatNumber(mean)} on average over ${formatCount(episodes)} episodes${sure}; ${held}: ${shareWords(share)}, ${formatNumber(points)} of ${formatNumber(of)} points.`
}

/** How much of what is possible was won, for people. */
export function shareWords(share: number | null): string {
  if (share === null) return 'nothing can be won there'
  if (share < 0) return 'worse than random'
  return `${Math.round(100 * share)} % of what is possible`
}
