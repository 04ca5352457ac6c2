import type { Model, RowPolicy } from '../model/model'

/**
 * A Markov chain with rewards and discount folded in, in compressed rows: v = reward + weight v. What a row's weights
 * leave of 1 is its *leak*: the chance of ending, and what the discount takes. It is added up from what leaks and never
 * subtracted from 1, so that a leak of 1e-12 is as exact as any other number.
 */
export interface Chain {
  readonly states: number
  /** [states + 1] */
  readonly start: Int32Array
  readonly next: Int32Array
  readonly weight: Float64Array
  /** [states] */
  readonly reward: Float64Array
  /** [states] */
  readonly leak: Float64Array
  /** [states] the state of the model */
  readonly origin: Int32Array
}

/**
 * The chain of a policy over states that it never leaves but for endings.
 * @param inside [model states] 1 for the states of the chain; what leads elsewhere leaks, and counts as worth 0
 */
export function chainOf(model: Model, policy: RowPolicy, discount: number, inside: Uint8Array): Chain {
  const { rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward, outcomeDiscount } = model
  const place = new Int32Array(model.states).fill(-1)
  const origin: number[] = []
  for (let s = 0; s < model.states; s++) if (inside[s]) place[s] = origin.push(s) - 1
  const states = origin.length
  const start = new Int32Array(states + 1)
  const next: number[] = []
  const weight: number[] = []
  const reward = new Float64Array(states)
  const leak = new Float64Array(states)
  // Where a next state stands among those of the row at hand.
  const noted = new Int32Array(states).fill(-1)
  for (let i = 0; i < states; i++) {
    const begin = next.length
    for (let r = rowStart[origin[i]]; r < rowStart[origin[i] + 1]; r++) {
      if (!(policy[r] > 0)) continue
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
        const chance = policy[r] * outcomeProbability[o]
        reward[i] += chance * outcomeReward[o]
        const to = place[outcomeState[o]]
        if (to < 0) {
          leak[i] += chance
          continue
        }
        const kept = outcomeDiscount ? discount * outcomeDiscount[o] : discount
        leak[i] += chance * (1 - kept)
        if (kept === 0) continue
        if (noted[to] < begin) {
          noted[to] = next.push(to) - 1
          weight.push(0)
        }
        weight[noted[to]] += kept * chance
      }
    }
    start[i + 1] = next.length
  }
  return {
    states,
    start,
    next: Int32Array.from(next),
    weight: Float64Array.from(weight),
    reward,
    leak,
    origin: Int32Array.from(origin),
  }
}

/**
 * reward + weight v - v, each sum carried in two numbers (Ogita, Rump & Oishi 2005, algorithm 5.3). A state's own value
 * is taken off term by term, weight (v(next) - v) and leak v: that weights and leak come to 1 is then not assumed.
 */
export function preciseResidual(chain: Chain, values: Float64Array): Float64Array {
  const { start, next, weight, reward, leak } = chain
  return reward.map((first, s) => {
    let high = first
    let low = 0
    const add = (term: number) => {
      const sum = high + term
      const part = sum - high
      low += high - (sum - part) + (term - part)
      high = sum
    }
    const addProduct = (x: number, y: number) => {
      const product = x * y
      low += productError(x, y, product)
      add(product)
    }
    const value = values[s]
    for (let k = start[s]; k < start[s + 1]; k++) {
      const to = values[next[k]]
      const difference = to - value
      addProduct(weight[k], difference)
      // What rounding took from the difference.
      const part = difference - to
      low += weight[k] * (to - (difference - part) + (-value - part))
    }
    addProduct(-leak[s], value)
    return high + low
  })
}

/** What rounding took from x * y (Dekker 1971). */
function productError(x: number, y: number, product: number): number {
  const xBig = 134217729 * x
  const xHigh = xBig - (xBig - x)
  const yBig = 134217729 * y
  const yHigh = yBig - (yBig - y)
  const xLow = x - xHigh
  const yLow = y - yHigh
  return xLow * yLow - (product - xHigh * yHigh - xLow * yHigh - xHigh * yLow)
}
