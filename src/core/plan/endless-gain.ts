import type { Model } from '../model/model'
import type { Chain } from './chain'
import { endComponents } from './end-components'
import { StateReduction } from './state-reduction'

/** A mean reward below this part of the largest reward counts as 0: it cannot be told from rounding. */
const NOTHING = 1e-9
/** Sweeps in which bounds on the mean reward are tried first. */
const BOUND_SWEEPS = 200
/** Components of more states are judged by these bounds alone, with more sweeps. */
const LARGE = 20_000
const LARGE_SWEEPS = 2000
/** Improvements of policy iteration; it has always ended long before. */
const ROUNDS = 1000

/** What can be had by never ending, at discount 1. */
export type EndlessGain =
  /** Among these states a policy collects so much a step on average, for ever: no value is finite. */
  | { readonly kind: 'positive'; readonly atLeast: number; readonly states: Int32Array }
  /**
   * Going round in some component costs nothing on average, though single steps pay: sweeps that begin above the
   * values may stay there.
   */
  | { readonly kind: 'level' }
  | { readonly kind: 'none' }

/**
 * Whether some policy collects reward for ever: the best mean reward of every maximal end component, found by policy
 * iteration for mean rewards (Howard 1960; Puterman 1994, sections 8.6 and 9.5.1), after bounds from a few sweeps of the
 * lazy chain (Odoni 1969; Puterman 1994, section 8.5.5) where these decide.
 */
export function endlessGain(model: Model): EndlessGain {
  const { components, stays } = endComponents(model)
  let level = false
  for (const states of components) {
    const part = componentOf(model, states, stays)
    if (part.largest <= 0) continue
    const found = gainOf(part)
    const least = NOTHING * part.size
    if (found.gain > least)
      return { kind: 'positive', atLeast: found.gain, states: found.states.map((i) => states[i]) }
    if (found.gain >= -least) level = true
  }
  return { kind: level ? 'level' : 'none' }
}

/** A component as a model of its own: states 0 …, with the actions that stay. */
interface Component {
  readonly count: number
  /** [count + 1], [rows + 1] */
  readonly rowStart: Int32Array
  readonly outcomeStart: Int32Array
  readonly next: Int32Array
  readonly chance: Float64Array
  /** [rows] expected reward */
  readonly reward: Float64Array
  /** The largest of them, and the largest in size. */
  readonly largest: number
  readonly size: number
}

function componentOf(model: Model, states: Int32Array, stays: Uint8Array): Component {
  const place = new Map<number, number>()
  states.forEach((s, i) => place.set(s, i))
  const rowStart = new Int32Array(states.length + 1)
  const outcomeStart: number[] = [0]
  const next: number[] = []
  const chance: number[] = []
  const reward: number[] = []
  states.forEach((s, i) => {
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      if (!stays[r]) continue
      let expected = 0
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
        next.push(place.get(model.outcomeState[o])!)
        chance.push(model.outcomeProbability[o])
        expected += model.outcomeProbability[o] * model.outcomeReward[o]
      }
      reward.push(expected)
      outcomeStart.push(next.length)
    }
    rowStart[i + 1] = reward.length
  })
  return {
    count: states.length,
    rowStart,
    outcomeStart: Int32Array.from(outcomeStart),
    next: Int32Array.from(next),
    chance: Float64Array.from(chance),
    reward: Float64Array.from(reward),
    largest: reward.reduce((most, x) => Math.max(most, x), -Infinity),
    size: reward.reduce((most, x) => Math.max(most, Math.abs(x)), 0),
  }
}

interface Gain {
  readonly gain: number
  /** Where it is collected. */
  readonly states: Int32Array
}

function gainOf(part: Component): Gain {
  const everywhere = Int32Array.from({ length: part.count }, (_, s) => s)
  const [low, high] = boundsOfGain(part, part.count > LARGE ? LARGE_SWEEPS : BOUND_SWEEPS)
  if (low > NOTHING * part.size) return { gain: low, states: everywhere }
  if (high <= NOTHING * part.size) return { gain: high, states: everywhere }
  // What bounds leave open in a large component is looked for while sweeping: it must not be called a gain.
  const unknown = { gain: -Infinity, states: everywhere }
  return part.count > LARGE ? unknown : (improvedGain(part) ?? unknown)
}

/** Bounds on the best mean reward: the least and the largest change of a sweep in which every state may rest. */
function boundsOfGain(part: Component, sweeps: number): [number, number] {
  let values = new Float64Array(part.count)
  let before = new Float64Array(part.count)
  let bounds: [number, number] = [-Infinity, Infinity]
  for (let sweep = 0; sweep < sweeps; sweep++) {
    ;[values, before] = [before, values]
    let low = Infinity
    let high = -Infinity
    for (let s = 0; s < part.count; s++) {
      let best = -Infinity
      for (let r = part.rowStart[s]; r < part.rowStart[s + 1]; r++)
        best = Math.max(best, part.reward[r] + ahead(part, r, before))
      // Half a step: rests half of the time, so that cycles do not swing.
      const change = (best - before[s]) / 2
      values[s] = before[s] + change
      low = Math.min(low, 2 * change)
      high = Math.max(high, 2 * change)
    }
    bounds = [Math.max(bounds[0], low), Math.min(bounds[1], high)]
    const base = values[0]
    for (let s = 0; s < part.count; s++) values[s] -= base
  }
  return bounds
}

function ahead({ outcomeStart, next, chance }: Component, row: number, values: Float64Array): number {
  let sum = 0
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) sum += chance[o] * values[next[o]]
  return sum
}

/** Policy iteration for the mean reward; null when a chain is too large to be solved. */
function improvedGain(part: Component): Gain | null {
  const { count, rowStart, reward, size } = part
  const policy = new Int32Array(count)
  for (let s = 0; s < count; s++) {
    policy[s] = rowStart[s]
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (reward[r] > reward[policy[s]]) policy[s] = r
  }
  let found: Gain = { gain: -Infinity, states: new Int32Array(0) }
  for (let round = 0; round < ROUNDS; round++) {
    let best: Gain | null = null
    for (const states of recurrentClasses(part, policy)) {
      const gain = meanReward(part, policy, states)
      if (gain === null) return null
      if (!best || gain > best.gain) best = { gain, states }
    }
    found = best!
    if (found.gain > NOTHING * size) return found
    leadTo(part, policy, found.states)
    const bias = biasOf(part, policy, found)
    if (!bias) return null
    const scale = bias.reduce((most, x) => Math.max(most, Math.abs(x)), size)
    let improved = false
    for (let s = 0; s < count; s++) {
      let most = reward[policy[s]] + ahead(part, policy[s], bias)
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
        const value = reward[r] + ahead(part, r, bias)
        if (value <= most + 1e-12 * scale) continue
        most = value
        policy[s] = r
        improved = true
      }
    }
    if (!improved) return found
  }
  return found
}

/** The sets of states that a policy stays in once it is there. */
function recurrentClasses(part: Component, policy: Int32Array): Int32Array[] {
  const { count, outcomeStart, next } = part
  // A policy as a model with one action a state: its end components are its recurrent classes.
  const start = new Int32Array(count + 1)
  const to: number[] = []
  for (let s = 0; s < count; s++) {
    for (let o = outcomeStart[policy[s]]; o < outcomeStart[policy[s] + 1]; o++) to.push(next[o])
    start[s + 1] = to.length
  }
  const { components } = endComponents({
    states: count,
    rows: count,
    rowStart: Int32Array.from({ length: count + 1 }, (_, s) => s),
    outcomeStart: start,
    outcomeState: Int32Array.from(to),
    outcomeDiscount: null,
    ending: new Uint8Array(count),
  })
  return [...components]
}

/** Reward over steps of a round from one state of a recurrent class back to it; null when too large. */
function meanReward(part: Component, policy: Int32Array, states: Int32Array): number | null {
  const home = states[0]
  const { outcomeStart, next, chance, reward } = part
  if (states.length === 1) return reward[policy[home]]
  const chain = chainTo(part, policy, states.subarray(1))
  const reduction = StateReduction.of(chain)
  if (!reduction) return null
  const earned = reduction.solve(chain.reward)
  const taken = reduction.solve(new Float64Array(chain.states).fill(1))
  let total = reward[policy[home]]
  let steps = 1
  const place = new Map<number, number>()
  chain.origin.forEach((s, i) => place.set(s, i))
  for (let o = outcomeStart[policy[home]]; o < outcomeStart[policy[home] + 1]; o++) {
    const at = place.get(next[o])
    if (at === undefined) continue
    total += chance[o] * earned[at]
    steps += chance[o] * taken[at]
  }
  return total / steps
}

/** [states] how much better it is to begin in a state than in the first one of the class; null when too large. */
function biasOf(part: Component, policy: Int32Array, { gain, states }: Gain): Float64Array | null {
  const others = Int32Array.from({ length: part.count }, (_, s) => s).filter((s) => s !== states[0])
  const chain = chainTo(part, policy, others)
  const reduction = StateReduction.of(chain)
  if (!reduction) return null
  const bias = new Float64Array(part.count)
  reduction
    .solve(chain.reward.map((reward) => reward - gain))
    .forEach((value, i) => (bias[chain.origin[i]] = value))
  return bias
}

/** The chain of a policy over some states; what leads out of them leaks. */
function chainTo(part: Component, policy: Int32Array, states: Int32Array): Chain {
  const place = new Int32Array(part.count).fill(-1)
  states.forEach((s, i) => (place[s] = i))
  const start = new Int32Array(states.length + 1)
  const next: number[] = []
  const weight: number[] = []
  const leak = new Float64Array(states.length)
  states.forEach((s, i) => {
    for (let o = part.outcomeStart[policy[s]]; o < part.outcomeStart[policy[s] + 1]; o++) {
      const to = place[part.next[o]]
      if (to < 0) leak[i] += part.chance[o]
      else {
        next.push(to)
        weight.push(part.chance[o])
      }
    }
    start[i + 1] = next.length
  })
  return {
    states: states.length,
    start,
    next: Int32Array.from(next),
    weight: Float64Array.from(weight),
    reward: Float64Array.from(states, (s) => part.reward[policy[s]]),
    leak,
    origin: states,
  }
}

/** Changes the policy where it does not come to a class with certainty, so that it does. */
function leadTo(part: Component, policy: Int32Array, states: Int32Array): void {
  const { count, rowStart, outcomeStart, next } = part
  const into: { state: number; row: number }[][] = Array.from({ length: count }, () => [])
  for (let state = 0; state < count; state++)
    for (let row = rowStart[state]; row < rowStart[state + 1]; row++)
      for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) into[next[o]].push({ state, row })
  const reaches = new Uint8Array(count)
  const queue = [...states]
  for (const s of states) reaches[s] = 1
  // First along the policy, then along any action.
  for (const along of ['policy', 'any'] as const)
    for (let i = 0; i < queue.length; i++)
      for (const { state, row } of into[queue[i]]) {
        if (reaches[state] || (along === 'policy' && policy[state] !== row)) continue
        reaches[state] = 1
        policy[state] = row
        queue.push(state)
      }
}
