import type { Model, RowPolicy } from '../model/model'

/**
 * States from which an ending can be reached with positive chance: how many steps that takes at the least: [states],
 * -1 where there is no way. With a policy, only along rows it takes.
 *
 * A policy under which every state can reach an ending ends with certainty (the chain is finite); so where no number is
 * -1, values at discount 1 are finite.
 * @param fading  count an outcome that discounts what follows as a way to an ending, which it is for values at discount 1
 */
export function stepsToEnding(model: Model, policy?: RowPolicy, fading = false): Int32Array {
  const { states, rowStart, outcomeStart, outcomeDiscount } = model
  const into = incoming(model, policy)
  const steps = new Int32Array(states).fill(-1)
  const queue = new Int32Array(states)
  let length = 0
  for (let s = 0; s < states; s++)
    if (model.ending[s]) {
      steps[s] = 0
      queue[length++] = s
    }
  if (fading && outcomeDiscount)
    for (let s = 0; s < states; s++)
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++)
        if (!policy || policy[r] > 0)
          for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
            if (outcomeDiscount[o] < 1 && steps[s] < 0) {
              steps[s] = 1
              queue[length++] = s
            }
  for (let i = 0; i < length; i++)
    for (let k = into.start[queue[i]]; k < into.start[queue[i] + 1]; k++)
      if (steps[into.origin[k]] < 0) {
        steps[into.origin[k]] = steps[queue[i]] + 1
        queue[length++] = into.origin[k]
      }
  return steps
}

/** The labels of the states where `steps` is -1. */
export function statesWithoutEnding(model: Model, steps: Int32Array): string[] {
  return model.labels.filter((_, s) => steps[s] < 0)
}

/**
 * Where a policy has no finite value.
 * @returns the steps to an ending under the policy, and [states] 1 for those that may, at discount 1, come to where no
 *   ending can be reached any more; below 1 there are none
 */
export function endlessUnder(
  model: Model,
  policy: RowPolicy,
  discount: number,
): { readonly steps: Int32Array; readonly endless: Uint8Array } {
  const steps = stepsToEnding(model, policy, true)
  const endless = new Uint8Array(model.states)
  if (discount < 1) return { steps, endless }
  const { start, origin } = incoming(model, policy)
  const queue: number[] = []
  steps.forEach((step, s) => {
    if (step >= 0) return
    endless[s] = 1
    queue.push(s)
  })
  for (let i = 0; i < queue.length; i++)
    for (let k = start[queue[i]]; k < start[queue[i] + 1]; k++)
      if (!endless[origin[k]]) {
        endless[origin[k]] = 1
        queue.push(origin[k])
      }
  return { steps, endless }
}

/** Who may lead to each state, in compressed rows. */
function incoming(model: Model, policy?: RowPolicy): { start: Int32Array; origin: Int32Array } {
  const { states, rowStart, outcomeStart, outcomeState } = model
  const start = new Int32Array(states + 1)
  for (let r = 0; r < model.rows; r++)
    if (!policy || policy[r] > 0)
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) start[outcomeState[o] + 1]++
  for (let s = 0; s < states; s++) start[s + 1] += start[s]
  const fill = start.slice()
  const origin = new Int32Array(start[states])
  for (let s = 0; s < states; s++)
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++)
      if (!policy || policy[r] > 0)
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) origin[fill[outcomeState[o]]++] = s
  return { start, origin }
}
