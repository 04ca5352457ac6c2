import type { Chain } from './chain'
import { StateQueue } from './state-queue'

/** Weights kept at the most while states are taken out, … */
const FILL_LIMIT = 2_000_000
/** … and multiplications meanwhile; beyond, a chain is too large to be solved directly. */
const WORK_LIMIT = 3e8
/** Once a state leads to half of those that are left, the rest is dense; up to so many. */
const DENSE_LIMIT = 2000

/**
 * Solves x = right + weight x for a chain that leaks from everywhere in the end: states are taken out one after another,
 * each replaced by where it leads, and come back in the opposite order (Grassmann, Taksar & Heyman 1985; Heyman 1987 for
 * the linear system). Nothing is ever subtracted, so that every entry of the solution of positive rewards is exact to a
 * few bits, however long the chain takes to end.
 *
 * The order is that of least fill: the state with the fewest pairs of one that leads to it and one it leads to comes
 * first (Markowitz 1957; Tinney & Walker 1967, scheme 2). When what is left is dense, it is taken out as a full matrix.
 */
export class StateReduction {
  /** Taken out one by one, in this order; the dense rest follows. */
  private readonly order: number[] = []
  /** For each of them what its right side adds to others, … */
  private readonly toStart: number[] = [0]
  private readonly to: number[] = []
  private readonly share: number[] = []
  /** … and what its own value is made of. */
  private readonly fromStart: number[] = [0]
  private readonly from: number[] = []
  private readonly part: number[] = []
  /** [states] 1 - the weight of staying, added up from what leaves */
  private readonly leaving: Float64Array
  private rest: Int32Array = new Int32Array(0)
  private matrix: Float64Array = new Float64Array(0)

  private constructor(private readonly states: number) {
    this.leaving = new Float64Array(states)
  }

  /** @returns null for a chain that is too large: it would take too much memory or time */
  static of(chain: Chain): StateReduction | null {
    const reduction = new StateReduction(chain.states)
    return reduction.reduce(chain) ? reduction : null
  }

  /** @param right [states] */
  solve(right: Float64Array): Float64Array {
    const { order, toStart, to, share, fromStart, from, part, leaving, rest, matrix } = this
    const x = right.slice()
    const m = rest.length
    for (let i = 0; i < order.length; i++) {
      const value = x[order[i]]
      if (value !== 0) for (let k = toStart[i]; k < toStart[i + 1]; k++) x[to[k]] += share[k] * value
    }
    for (let i = 0; i < m; i++) for (let j = i + 1; j < m; j++) x[rest[j]] += matrix[j * m + i] * x[rest[i]]
    for (let i = m - 1; i >= 0; i--) {
      let sum = x[rest[i]]
      for (let j = i + 1; j < m; j++) sum += matrix[i * m + j] * x[rest[j]]
      x[rest[i]] = sum / leaving[rest[i]]
    }
    for (let i = order.length - 1; i >= 0; i--) {
      let sum = x[order[i]]
      for (let k = fromStart[i]; k < fromStart[i + 1]; k++) sum += part[k] * x[from[k]]
      x[order[i]] = sum / leaving[order[i]]
    }
    return x
  }

  /**
   * Solves x = right + weightᵀ x: with where episodes start as `right`, how often each state is met. The same steps, each
   * transposed, in the opposite order.
   * @param right [states]
   */
  solveTransposed(right: Float64Array): Float64Array {
    const { order, toStart, to, share, fromStart, from, part, leaving, rest, matrix } = this
    const x = right.slice()
    const m = rest.length
    for (let i = 0; i < order.length; i++) {
      const value = (x[order[i]] /= leaving[order[i]])
      if (value !== 0) for (let k = fromStart[i]; k < fromStart[i + 1]; k++) x[from[k]] += part[k] * value
    }
    for (let i = 0; i < m; i++) {
      const value = (x[rest[i]] /= leaving[rest[i]])
      for (let j = i + 1; j < m; j++) x[rest[j]] += matrix[i * m + j] * value
    }
    for (let i = m - 1; i >= 0; i--)
      for (let j = i + 1; j < m; j++) x[rest[i]] += matrix[j * m + i] * x[rest[j]]
    for (let i = order.length - 1; i >= 0; i--)
      for (let k = toStart[i]; k < toStart[i + 1]; k++) x[order[i]] += share[k] * x[to[k]]
    return x
  }

  private reduce(chain: Chain): boolean {
    const { states } = this
    const leak = chain.leak.slice()
    const out = Array.from({ length: states }, () => new Map<number, number>())
    const into = Array.from({ length: states }, () => new Set<number>())
    let fill = 0
    for (let s = 0; s < states; s++)
      for (let k = chain.start[s]; k < chain.start[s + 1]; k++) {
        if (chain.next[k] === s) continue
        out[s].set(chain.next[k], chain.weight[k] + (out[s].get(chain.next[k]) ?? 0))
        into[chain.next[k]].add(s)
        fill++
      }
    if (fill > FILL_LIMIT) return false
    const priority = new Float64Array(states)
    const rate = (s: number) => (priority[s] = -out[s].size * into[s].size)
    const all = Int32Array.from({ length: states }, (_, s) => s)
    for (const s of all) rate(s)
    const queue = new StateQueue(priority, all, all)
    let work = 0
    for (let left = states; left > 0; left--) {
      const s = queue.top()
      const mine = out[s]
      if (left > 8 && mine.size * 2 >= left) return this.reduceDense(out, leak, left)
      let leaving = leak[s]
      for (const weight of mine.values()) leaving += weight
      this.leaving[s] = leaving
      for (const [next, weight] of mine) {
        this.from.push(next)
        this.part.push(weight)
        into[next].delete(s)
      }
      fill -= mine.size + into[s].size
      for (const before of into[s]) {
        const theirs = out[before]
        const share = theirs.get(s)! / leaving
        theirs.delete(s)
        this.to.push(before)
        this.share.push(share)
        leak[before] += share * leak[s]
        const known = theirs.size
        for (const [next, weight] of mine) {
          // What comes back to where it came from only lengthens its stay.
          if (next === before) continue
          const old = theirs.get(next)
          theirs.set(next, share * weight + (old ?? 0))
          if (old === undefined) into[next].add(before)
        }
        fill += theirs.size - known
        work += mine.size
      }
      this.order.push(s)
      this.toStart.push(this.to.length)
      this.fromStart.push(this.from.length)
      if (fill + this.from.length > FILL_LIMIT || work > WORK_LIMIT) return false
      // Out of the queue's way, for good.
      priority[s] = -Infinity
      queue.moved(s)
      for (const before of into[s]) {
        rate(before)
        queue.moved(before)
      }
      for (const next of mine.keys()) {
        rate(next)
        queue.moved(next)
      }
      out[s] = new Map()
      into[s] = new Set()
    }
    return true
  }

  /** The states that are left as a full matrix; shares stand below its diagonal, weights above. */
  private reduceDense(
    out: readonly ReadonlyMap<number, number>[],
    leak: Float64Array,
    left: number,
  ): boolean {
    if (left > DENSE_LIMIT) return false
    const gone = new Uint8Array(this.states)
    for (const s of this.order) gone[s] = 1
    const rest = Int32Array.from({ length: this.states }, (_, s) => s).filter((s) => !gone[s])
    const place = new Int32Array(this.states)
    rest.forEach((s, i) => (place[s] = i))
    const m = rest.length
    const matrix = new Float64Array(m * m)
    for (let i = 0; i < m; i++)
      for (const [next, weight] of out[rest[i]]) matrix[i * m + place[next]] = weight
    for (let i = 0; i < m; i++) {
      let leaving = leak[rest[i]]
      for (let j = i + 1; j < m; j++) leaving += matrix[i * m + j]
      this.leaving[rest[i]] = leaving
      for (let j = i + 1; j < m; j++) {
        const share = (matrix[j * m + i] /= leaving)
        if (share === 0) continue
        leak[rest[j]] += share * leak[rest[i]]
        for (let k = i + 1; k < m; k++) if (k !== j) matrix[j * m + k] += share * matrix[i * m + k]
      }
    }
    this.rest = rest
    this.matrix = matrix
    return true
  }
}
