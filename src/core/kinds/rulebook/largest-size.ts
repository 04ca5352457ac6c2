import { ProblemError } from '../../problem'
import type { RulebookDocument } from './document'
import { readRules } from './read-rules'
import { contributions, variableSize } from './sizes'

/** How large a rulebook can become, told before a single state is worked out. */
export interface LargestSize {
  /** All values of all variables together: no more states can be reached, but for endings after a step. */
  readonly states: number
  /** Values of the table: each action in each of those states. */
  readonly values: number
  /** What each variable contributes. */
  readonly contributions: string
  /** The variable to shrink first. */
  readonly largest: string
}

/** @returns null while the rules are faulty */
export function largestSize(document: RulebookDocument): LargestSize | null {
  try {
    const { variables, choices } = readRules(document).program
    const states = variables.reduce((product, variable) => product * variableSize(variable), 1)
    const largest = variables.reduce((x, y) => (variableSize(y) > variableSize(x) ? y : x))
    return {
      states,
      values: states * choices.length,
      contributions: contributions(variables),
      largest: largest.name,
    }
  } catch (error) {
    if (error instanceof ProblemError) return null
    throw error
  }
}
