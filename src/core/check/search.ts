import { rowOfOutcome, stateOfRow, type Model } from '../model/model'
import type { Walk } from './walk'

/** What can be reached from the starts, breadth first: how far each state is, and the shortest way there. */
export interface Search {
  /** [states] steps from the nearest start; -1 where no episode comes */
  readonly steps: Int32Array
  /** [states] the outcome by which it was first met; -1 for starts, and for what is not reached */
  readonly via: Int32Array
  /** The states that are reached, in the order in which they were met. */
  readonly order: Int32Array
}

/** @param from  where to begin; the starts of the model when left out */
export function searchFrom(model: Model, from: ArrayLike<number> = model.startState): Search {
  const { states, rowStart, outcomeStart, outcomeState } = model
  const steps = new Int32Array(states).fill(-1)
  const via = new Int32Array(states).fill(-1)
  const queue = new Int32Array(states)
  let length = 0
  for (let i = 0; i < from.length; i++)
    if (steps[from[i]] < 0) {
      steps[from[i]] = 0
      queue[length++] = from[i]
    }
  for (let i = 0; i < length; i++) {
    const state = queue[i]
    for (let o = outcomeStart[rowStart[state]]; o < outcomeStart[rowStart[state + 1]]; o++) {
      const next = outcomeState[o]
      if (steps[next] >= 0) continue
      steps[next] = steps[state] + 1
      via[next] = o
      queue[length++] = next
    }
  }
  return { steps, via, order: queue.subarray(0, length) }
}

/** A shortest way to a state that is reached. */
export function walkTo(model: Model, { via }: Search, state: number): Walk {
  const outcomes: number[] = []
  let at = state
  while (via[at] >= 0) {
    outcomes.push(via[at])
    at = stateOfRow(model, rowOfOutcome(model, via[at]))
  }
  return { start: at, outcomes: outcomes.reverse() }
}

/** The first of some states to be met, with the way there; null where none is reached. */
export function nearest(model: Model, search: Search, wanted: (state: number) => boolean): Walk | null {
  for (const state of search.order) if (wanted(state)) return walkTo(model, search, state)
  return null
}
