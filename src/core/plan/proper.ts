import type { Model, RowPolicy } from '../model/model'
import { endlessUnder } from './reach'

/**
 * One action a state out of those a policy allows, such that an ending comes with certainty at discount 1 wherever that
 * can be had: the first allowed action, but where that never ends, the first that gets nearer to where it does.
 *
 * Among optimal actions that are ties some may lead round in a circle that costs nothing; such an action is as good by
 * its backup, and worth nothing alone.
 * @param allowed  [rows] the ties: what has a chance above 0
 * @returns the policy, and the states from which no allowed action leads to an ending
 */
export function properPolicy(
  model: Model,
  allowed: RowPolicy,
): { readonly policy: RowPolicy; readonly endless: Int32Array } {
  const { states, rowStart, outcomeStart, outcomeState } = model
  const policy = new Float64Array(model.rows)
  const choice = new Int32Array(states).fill(-1)
  for (let s = 0; s < states; s++)
    for (let r = rowStart[s]; r < rowStart[s + 1] && choice[s] < 0; r++) if (allowed[r] > 0) choice[s] = r
  for (let s = 0; s < states; s++) if (choice[s] >= 0) policy[choice[s]] = 1
  const { endless } = endlessUnder(model, policy, 1)
  // Rows that lead to each state, of states that do not end yet.
  const into: number[][] = []
  const stateOf = new Map<number, number>()
  for (let s = 0; s < states; s++) {
    if (!endless[s]) continue
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
      if (!(allowed[r] > 0)) continue
      stateOf.set(r, s)
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) (into[outcomeState[o]] ??= []).push(r)
    }
  }
  const queue: number[] = []
  for (let s = 0; s < states; s++) if (!endless[s]) queue.push(s)
  for (let i = 0; i < queue.length; i++)
    for (const row of into[queue[i]] ?? []) {
      const s = stateOf.get(row)!
      if (!endless[s]) continue
      endless[s] = 0
      policy[choice[s]] = 0
      policy[row] = 1
      queue.push(s)
    }
  return { policy, endless: Int32Array.from({ length: states }, (_, s) => s).filter((s) => endless[s]) }
}

/** Of the actions that a policy allows in a state: those that, taken there for ever, never come to an ending. */
export function endlessAlone(model: Model, allowed: RowPolicy, state: number): number[] {
  const { policy } = properPolicy(model, allowed)
  const rows: number[] = []
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++) {
    if (!(allowed[r] > 0)) continue
    const alone = policy.slice()
    alone.fill(0, model.rowStart[state], model.rowStart[state + 1])
    alone[r] = 1
    if (endlessUnder(model, alone, 1).steps[state] < 0) rows.push(r)
  }
  return rows
}
