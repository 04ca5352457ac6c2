import type { Model } from '../model/model'

/** What of a model says where actions may lead. */
type Connected = Pick<
  Model,
  'states' | 'rows' | 'rowStart' | 'outcomeStart' | 'outcomeState' | 'outcomeDiscount' | 'ending'
>

/** Sets of states that some policy never has to leave, as large as they come (de Alfaro 1997, maximal end components). */
export interface EndComponents {
  /** The states of each, ascending. */
  readonly components: readonly Int32Array[]
  /** [rows] 1 for an action that stays within the component of its state */
  readonly stays: Uint8Array
}

/** Sets of states that some policy never has to leave, however little a reward counts there after a while. */
export function lastingComponents(model: Connected): EndComponents {
  return endComponents(model.outcomeDiscount ? { ...model, outcomeDiscount: null } : model)
}

/**
 * The maximal end components of a model: strongly connected components, from which actions that may lead out are taken
 * away until nothing changes. An outcome that discounts what follows counts as leading out: it cannot be repeated for
 * ever at full weight.
 */
export function endComponents(model: Connected): EndComponents {
  const { states, rowStart, outcomeStart, outcomeState, outcomeDiscount } = model
  const component = new Int32Array(states).fill(-1)
  const stays = new Uint8Array(model.rows)
  for (let s = 0; s < states; s++)
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
      component[s] = 0
      stays[r] = 1
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
        if (model.ending[outcomeState[o]] || (outcomeDiscount !== null && outcomeDiscount[o] < 1))
          stays[r] = 0
    }
  let count = 1
  for (let changed = true; changed;) {
    changed = false
    count = connect(model, component, stays)
    for (let s = 0; s < states; s++) {
      if (component[s] < 0) continue
      let left = 0
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
        if (!stays[r]) continue
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
          if (component[outcomeState[o]] !== component[s]) stays[r] = 0
        if (stays[r]) left++
        else changed = true
      }
      if (left === 0) {
        component[s] = -1
        changed = true
      }
    }
  }
  const members: number[][] = Array.from({ length: count }, () => [])
  for (let s = 0; s < states; s++) if (component[s] >= 0) members[component[s]].push(s)
  return {
    components: members.filter(({ length }) => length > 0).map((each) => Int32Array.from(each)),
    stays,
  }
}

/**
 * Numbers the strongly connected components of the states that have a number from 0, along the actions that stay
 * (Tarjan 1972, without recursion). @returns how many there are
 */
function connect(model: Connected, component: Int32Array, stays: Uint8Array): number {
  const { states, rowStart, outcomeStart, outcomeState } = model
  const index = new Int32Array(states).fill(-1)
  const low = new Int32Array(states)
  const open = new Uint8Array(states)
  const stack: number[] = []
  const path: number[] = []
  /** The row and the outcome each state of the path goes on with. */
  const row = new Int32Array(states)
  const outcome = new Int32Array(states)
  let next = 0
  let count = 0
  const enter = (s: number) => {
    index[s] = low[s] = next++
    open[s] = 1
    stack.push(s)
    path.push(s)
    row[s] = rowStart[s]
    outcome[s] = outcomeStart[rowStart[s]]
  }
  for (let root = 0; root < states; root++) {
    if (component[root] < 0 || index[root] >= 0) continue
    enter(root)
    while (path.length) {
      const s = path[path.length - 1]
      let descended = false
      while (row[s] < rowStart[s + 1]) {
        if (!stays[row[s]] || outcome[s] >= outcomeStart[row[s] + 1]) {
          row[s]++
          if (row[s] < rowStart[s + 1]) outcome[s] = outcomeStart[row[s]]
          continue
        }
        const to = outcomeState[outcome[s]++]
        if (component[to] < 0) continue
        if (index[to] < 0) {
          enter(to)
          descended = true
          break
        }
        if (open[to] && index[to] < low[s]) low[s] = index[to]
      }
      if (descended) continue
      path.pop()
      if (path.length) {
        const before = path[path.length - 1]
        if (low[s] < low[before]) low[before] = low[s]
      }
      if (low[s] !== index[s]) continue
      let member: number
      do {
        member = stack.pop()!
        open[member] = 0
        component[member] = count
      } while (member !== s)
      count++
    }
  }
  return count
}
