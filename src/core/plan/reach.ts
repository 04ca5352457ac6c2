import type { Model, RowPolicy } from '../model/model'

/**
 * States from which an ending can be reached with positive chance: [states] 1 or 0, and how many steps that takes
 * at the least: [states], -1 where there is no way. With a policy, only along rows it takes.
 *
 * A policy under which every state can reach an ending ends with certainty (the chain is finite); so where this is
 * 1 everywhere, values at discount 1 are finite.
 */
export function stepsToEnding(model: Model, policy?: RowPolicy): Int32Array {
  const { states, rowStart, outcomeStart, outcomeState } = model
  // Who may lead to each state, in compressed rows.
  const incoming = new Int32Array(states + 1)
  for (let r = 0; r < model.rows; r++)
    if (!policy || policy[r] > 0)
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) incoming[outcomeState[o] + 1]++
  for (let s = 0; s < states; s++) incoming[s + 1] += incoming[s]
  const fill = incoming.slice()
  const origin = new Int32Array(incoming[states])
  for (let s = 0; s < states; s++)
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++)
      if (!policy || policy[r] > 0)
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) origin[fill[outcomeState[o]]++] = s

  const steps = new Int32Array(states).fill(-1)
  const queue = new Int32Array(states)
  let length = 0
  for (let s = 0; s < states; s++)
    if (model.ending[s]) {
      steps[s] = 0
      queue[length++] = s
    }
  for (let i = 0; i < length; i++)
    for (let k = incoming[queue[i]]; k < incoming[queue[i] + 1]; k++)
      if (steps[origin[k]] < 0) {
        steps[origin[k]] = steps[queue[i]] + 1
        queue[length++] = origin[k]
      }
  return steps
}

/** The labels of the states where `steps` is -1. */
export function statesWithoutEnding(model: Model, steps: Int32Array): string[] {
  return model.labels.filter((_, s) => steps[s] < 0)
}
