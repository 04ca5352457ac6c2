import { ProblemError, type Problem } from '../problem'
import { compileRulebook } from '../kinds/rulebook/enumerate'
import type { CompiledRulebook } from '../kinds/rulebook/facts'
import type { Model } from '../model/model'

/** Compiles a rulebook for tests. */
export function rulebook(text: string, knobs: Record<string, number> = {}): CompiledRulebook {
  return compileRulebook({ text, knobs, view: { across: null, up: null, others: {} } }, 100)
}

/** What is wrong with a rulebook; fails the test when nothing is. */
export function problemsOf(text: string, knobs: Record<string, number> = {}): readonly Problem[] {
  try {
    rulebook(text, knobs)
  } catch (error) {
    if (error instanceof ProblemError) return error.problems
    throw error
  }
  throw new Error(`This compiled, and should not have: ${text}`)
}

/** The outcomes of an action in a state, by label: `{ "left 2": [probability, reward] }`. */
export function outcomesOf(model: Model, state: string, action: string): Record<string, [number, number]> {
  const s = model.labels.indexOf(state)
  for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
    if (model.actions[model.rowAction[r]] !== action) continue
    const found: Record<string, [number, number]> = {}
    for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
      found[model.labels[model.outcomeState[o]]] = [model.outcomeProbability[o], model.outcomeReward[o]]
    return found
  }
  throw new Error(`There is no action ${action} in ${state}: ${model.labels.join('; ')}`)
}

/** The actions a state offers. */
export function offered(model: Model, state: string): string[] {
  const s = model.labels.indexOf(state)
  return Array.from(
    model.rowAction.subarray(model.rowStart[s], model.rowStart[s + 1]),
    (a) => model.actions[a],
  )
}
