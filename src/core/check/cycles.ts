import type { Model } from '../model/model'

/** Whether something can go on for ever: a way round, or else the states so that every step leads further on. */
export type Rounds =
  /** Outcomes one after the other, the last of which leads back to where the first begins. */
  | { readonly kind: 'cycle'; readonly start: number; readonly outcomes: readonly number[] }
  /** [states] every step leads to a state that stands further on */
  | { readonly kind: 'none'; readonly order: Int32Array }

/** Looks for a way round among what can be reached from the starts (depth first search; Tarjan 1972). */
export function roundsOf(model: Model): Rounds {
  const { states, rowStart, outcomeStart, outcomeState } = model
  /** 0 not met, 1 on the way that is followed, 2 done */
  const mark = new Uint8Array(states)
  const next = new Int32Array(states)
  const order: number[] = []
  /** The outcomes of the way that is followed, and the states it goes through. */
  const taken: number[] = []
  const path: number[] = []
  for (const start of model.startState) {
    if (mark[start]) continue
    mark[start] = 1
    next[start] = outcomeStart[rowStart[start]]
    path.push(start)
    while (path.length) {
      const state = path[path.length - 1]
      if (next[state] >= outcomeStart[rowStart[state + 1]]) {
        mark[state] = 2
        order.push(state)
        path.pop()
        taken.pop()
        continue
      }
      const outcome = next[state]++
      const to = outcomeState[outcome]
      if (mark[to] === 1)
        return { kind: 'cycle', start: to, outcomes: [...taken.slice(path.indexOf(to)), outcome] }
      if (mark[to] === 2) continue
      mark[to] = 1
      next[to] = outcomeStart[rowStart[to]]
      path.push(to)
      taken.push(outcome)
    }
  }
  return { kind: 'none', order: Int32Array.from(order.reverse()) }
}

/** Steps of the longest way from a start, where no way goes round. */
export function longestWay(
  model: Model,
  order: Int32Array,
): { steps: number; outcomes: number[]; start: number } {
  const { states, rowStart, outcomeStart, outcomeState } = model
  const left = new Int32Array(states)
  const by = new Int32Array(states).fill(-1)
  for (let i = order.length - 1; i >= 0; i--) {
    const state = order[i]
    for (let o = outcomeStart[rowStart[state]]; o < outcomeStart[rowStart[state + 1]]; o++)
      if (left[outcomeState[o]] + 1 > left[state]) {
        left[state] = left[outcomeState[o]] + 1
        by[state] = o
      }
  }
  const start = model.startState.reduce((best, each) => (left[each] > left[best] ? each : best))
  const outcomes: number[] = []
  for (let state = start; by[state] >= 0; state = outcomeState[by[state]]) outcomes.push(by[state])
  return { steps: left[start], outcomes, start }
}
