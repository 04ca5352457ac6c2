import type { CompressedRows } from '../../model/builder'

/** One way out of a state that passes by itself. */
interface Exit {
  probability: number
  /** Expected reward on the way, given that this way is taken; later rewards count with `factor`. */
  reward: number
  /** Expected discount of what comes after, 1 without discounting. */
  factor: number
}

type Exits = Map<number, Exit>

/** Ways through passing states that are kept in all: they multiply when such states lead to each other widely. */
const EXIT_LIMIT = 5_000_000

/**
 * Takes the states that pass by themselves out of the way: every outcome that leads into one is replaced by where
 * it leads on to, with the rewards of the stretch added to the reward of the decision before it, and what comes after
 * discounted once for every step of the stretch (the step of the decision itself is discounted by who plans or learns).
 *
 * Method: state reduction (Grassmann, Taksar & Heyman 1985), which neither subtracts nor iterates.
 *
 * Where outcomes have discounts of their own, each counts for its own step, of a decision or not.
 *
 * @param passing   [states] 1 for a state to be taken out; it has exactly one row
 * @param discount  where they have none: of each step that passes by itself; 1 adds rewards up as they are, and a stretch takes no time
 * @returns rows of the same states, those taken out without any; or the states that would pass for ever
 */
export function passThrough(
  rows: CompressedRows,
  passing: Uint8Array,
  discount: number,
):
  | { readonly outcome: 'done'; readonly rows: CompressedRows; readonly exits: ReadonlyMap<number, Exits> }
  | { readonly outcome: 'for-ever'; readonly state: number }
  | { readonly outcome: 'too-many' } {
  const states = passing.length
  const exits = new Map<number, Exits>()
  const into = new Map<number, Set<number>>()
  let kept = 0
  for (let s = 0; s < states; s++) {
    if (!passing[s]) continue
    const row = rows.rowStart[s]
    const mine: Exits = new Map()
    for (let o = rows.outcomeStart[row]; o < rows.outcomeStart[row + 1]; o++) {
      const next = rows.outcomeState[o]
      addExit(mine, next, {
        probability: rows.outcomeProbability[o],
        reward: rows.outcomeReward[o],
        factor: rows.outcomeDiscount?.[o] ?? discount,
      })
      if (passing[next] && next !== s) {
        if (!into.has(next)) into.set(next, new Set())
        into.get(next)!.add(s)
      }
    }
    exits.set(s, mine)
    kept += mine.size
  }
  // One passing state after another is cut out of the others; afterwards none leads to it.
  for (const s of reversedFinish(exits)) {
    const mine = exits.get(s)!
    if (!closeLoop(mine, s)) return { outcome: 'for-ever', state: s }
    for (const before of into.get(s) ?? []) {
      const theirs = exits.get(before)!
      const step = theirs.get(s)
      if (!step) continue
      theirs.delete(s)
      kept -= theirs.size
      substitute(theirs, step, mine)
      kept += theirs.size
      if (kept > EXIT_LIMIT) return { outcome: 'too-many' }
      for (const next of mine.keys())
        if (passing[next] && next !== before) {
          if (!into.has(next)) into.set(next, new Set())
          into.get(next)!.add(before)
        }
    }
  }
  // Those cut out early lead to some cut out later: now every one can be told in decision states alone.
  for (const s of [...exits.keys()]) resolve(s, exits, passing)
  return { outcome: 'done', rows: replaced(rows, passing, exits, discount), exits }
}

/** Passing states, those that others lead to in front: less is filled in. */
function reversedFinish(exits: ReadonlyMap<number, Exits>): number[] {
  const order: number[] = []
  const seen = new Set<number>()
  for (const root of exits.keys()) {
    if (seen.has(root)) continue
    seen.add(root)
    const stack = [{ state: root, next: [...exits.get(root)!.keys()], at: 0 }]
    while (stack.length) {
      const top = stack[stack.length - 1]
      if (top.at === top.next.length) {
        order.push(top.state)
        stack.pop()
        continue
      }
      const next = top.next[top.at++]
      const further = exits.get(next)
      if (!further || seen.has(next)) continue
      seen.add(next)
      stack.push({ state: next, next: [...further.keys()], at: 0 })
    }
  }
  return order
}

/** Turns round in a loop until one leaves it: the number of rounds is geometric. False when one never does. */
function closeLoop(exits: Exits, state: number): boolean {
  const loop = exits.get(state)
  if (!loop) return true
  exits.delete(state)
  let leaving = 0
  for (const exit of exits.values()) leaving += exit.probability
  if (!(leaving > 0)) return false
  const { probability: p, factor, reward } = loop
  const rounds = 1 - p * factor
  const earned = (reward * p) / rounds
  const kept = (1 - p) / rounds
  for (const exit of exits.values()) {
    exit.probability /= leaving
    exit.reward = earned + kept * exit.reward
    exit.factor *= kept
  }
  return true
}

/** @param carried  the discount of what comes after the step, for a decision that discounts the rewards of the stretch alone */
function substitute(theirs: Exits, step: Exit, mine: Exits, carried = step.factor): void {
  for (const [next, exit] of mine)
    addExit(theirs, next, {
      probability: step.probability * exit.probability,
      reward: step.reward + step.factor * exit.reward,
      factor: carried * exit.factor,
    })
}

function addExit(exits: Exits, next: number, exit: Exit): void {
  const known = exits.get(next)
  if (!known) {
    exits.set(next, exit)
    return
  }
  const sum = known.probability + exit.probability
  const mix = (one: number, other: number) =>
    one === other ? one : (one * known.probability + other * exit.probability) / sum
  known.reward = mix(known.reward, exit.reward)
  known.factor = mix(known.factor, exit.factor)
  known.probability = sum
}

/** Replaces what is left of passing states among the exits of one; they form no loop any more. */
function resolve(s: number, exits: Map<number, Exits>, passing: Uint8Array): void {
  const stack = [s]
  while (stack.length) {
    const state = stack[stack.length - 1]
    const mine = exits.get(state)!
    const open = [...mine.keys()].filter((next) => passing[next])
    const unready = open.filter((next) => [...exits.get(next)!.keys()].some((each) => passing[each]))
    if (unready.length) {
      stack.push(...unready)
      continue
    }
    for (const next of open) {
      const step = mine.get(next)!
      mine.delete(next)
      substitute(mine, step, exits.get(next)!)
    }
    stack.pop()
  }
}

function replaced(
  rows: CompressedRows,
  passing: Uint8Array,
  exits: ReadonlyMap<number, Exits>,
  discount: number,
): CompressedRows {
  const rowStart = new Int32Array(passing.length + 1)
  const rowAction: number[] = []
  const outcomeStart: number[] = [0]
  const state: number[] = []
  const probability: number[] = []
  const reward: number[] = []
  const factor: number[] = []
  for (let s = 0; s < passing.length; s++) {
    for (let r = rows.rowStart[s]; r < rows.rowStart[s + 1] && !passing[s]; r++) {
      const row: Exits = new Map()
      for (let o = rows.outcomeStart[r]; o < rows.outcomeStart[r + 1]; o++) {
        const next = rows.outcomeState[o]
        const step = { probability: rows.outcomeProbability[o], reward: rows.outcomeReward[o] }
        const own = rows.outcomeDiscount?.[o]
        if (passing[next]) substitute(row, { ...step, factor: own ?? discount }, exits.get(next)!, own ?? 1)
        else addExit(row, next, { ...step, factor: own ?? 1 })
      }
      for (const [next, exit] of row) {
        state.push(next)
        probability.push(exit.probability)
        reward.push(exit.reward)
        factor.push(exit.factor)
      }
      rowAction.push(rows.rowAction[r])
      outcomeStart.push(state.length)
    }
    rowStart[s + 1] = rowAction.length
  }
  return {
    rowStart,
    rowAction: Int32Array.from(rowAction),
    outcomeStart: Int32Array.from(outcomeStart),
    outcomeState: Int32Array.from(state),
    outcomeProbability: Float64Array.from(probability),
    outcomeReward: Float64Array.from(reward),
    outcomeDiscount: factor.every((each) => each === 1) ? null : Float64Array.from(factor),
  }
}

/** The starts when states are taken out: those begin where they lead. */
export function startsAfterPassing(
  starts: readonly { state: number; weight: number }[],
  passing: Uint8Array,
  exits: ReadonlyMap<number, ReadonlyMap<number, { probability: number }>>,
): { state: number; weight: number }[] {
  const weights = new Map<number, number>()
  const add = (state: number, weight: number) => weights.set(state, (weights.get(state) ?? 0) + weight)
  for (const { state, weight } of starts)
    if (!passing[state]) add(state, weight)
    else for (const [next, { probability }] of exits.get(state)!) add(next, weight * probability)
  return [...weights].map(([state, weight]) => ({ state, weight }))
}

/** What is measured in a stretch that passes by itself belongs to the decision before it, as its rewards do. */
export function measuredThrough(
  rows: CompressedRows,
  passing: Uint8Array,
  perRow: Float64Array,
): Float64Array {
  const outcomeReward = new Float64Array(rows.outcomeState.length)
  for (let r = 0; r < perRow.length; r++)
    outcomeReward.fill(perRow[r], rows.outcomeStart[r], rows.outcomeStart[r + 1])
  const passed = passThrough({ ...rows, outcomeReward, outcomeDiscount: null }, passing, 1)
  if (passed.outcome !== 'done') throw new Error('What passed once passes again.')
  const { outcomeStart, outcomeProbability, outcomeReward: total } = passed.rows
  return Float64Array.from({ length: passed.rows.rowAction.length }, (_, r) => {
    let sum = 0
    for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) sum += outcomeProbability[o] * total[o]
    return sum
  })
}
