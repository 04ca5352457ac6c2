import type { StepRule } from '../../../settings/policy-settings'

/** Keeps Adam from dividing by 0. */
const SMALL = 1e-8

/**
 * Turns gradients into steps: plain, with momentum (Polyak 1964), or by Adam (Kingma & Ba 2015, algorithm 1). What it
 * remembers of a row moves only when that row has a gradient.
 */
export class Ascent {
  private readonly first: Float64Array | null
  private readonly second: Float64Array | null
  private readonly count: Float64Array | null

  constructor(
    private readonly rule: StepRule,
    rows: number,
  ) {
    this.first = rule.kind === 'plain' ? null : new Float64Array(rows)
    this.second = rule.kind === 'adam' ? new Float64Array(rows) : null
    this.count = rule.kind === 'adam' ? new Float64Array(rows) : null
  }

  /** The step of a row along its gradient. */
  step(row: number, gradient: number, rate: number): number {
    const { rule, first, second, count } = this
    switch (rule.kind) {
      case 'plain':
        return rate * gradient
      case 'momentum':
        return rate * (first![row] = rule.keep * first![row] + gradient)
      case 'adam': {
        const n = ++count![row]
        first![row] = rule.first * first![row] + (1 - rule.first) * gradient
        second![row] = rule.second * second![row] + (1 - rule.second) * gradient * gradient
        const mean = first![row] / (1 - power(rule.first, n))
        const square = second![row] / (1 - power(rule.second, n))
        return (rate * mean) / (Math.sqrt(square) + SMALL)
      }
    }
  }

  /** All there is to it, for snapshots. */
  kept(): Record<string, Float64Array> {
    const { first, second, count } = this
    return {
      ...(first ? { firstMoment: first } : {}),
      ...(second ? { secondMoment: second } : {}),
      ...(count ? { momentCount: count } : {}),
    }
  }
}

/** By squaring: engines may round powers differently. */
function power(base: number, exponent: number): number {
  let result = 1
  for (let factor = base, left = exponent; left > 0; left = Math.floor(left / 2)) {
    if (left % 2 === 1) result *= factor
    factor *= factor
  }
  return result
}
