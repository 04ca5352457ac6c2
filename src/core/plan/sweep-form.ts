import type { Model, RowPolicy } from '../model/model'

/** Rows of a state are summed up this many at a time. */
const LANES = 4

/**
 * The states that have actions, laid out in the order of a sweep so that a sweep reads memory from front to back.
 *
 * The *next states* of a state are listed once for all its actions; each has one weight (discount x probability) an
 * action. On grids, where four actions lead to the same five cells, that is a third of the reading. Actions come in
 * lanes of four, filled up with actions that pay minus infinity. Where actions share few next states, the lanes
 * would be mostly zeros: then `lanes` is 1 and every action has a list of its own.
 *
 * With `eliminate` an action that may stay put counts the staying at once, v = (r + rest) / (1 - discount p): its
 * fixed point is the same and it is still a contraction by `discount` (Puterman 1994, section 6.3.3, splitting).
 */
export interface SweepForm {
  readonly model: Model
  readonly discount: number
  /** [places] the state at each place of the order */
  readonly order: Int32Array
  /** [places + 1] the bundles of each place: four actions, or one where `lanes` is 1 */
  readonly bundleStart: Int32Array
  /** [bundles + 1] where the next states of each bundle are in `next` */
  readonly nextStart: Int32Array
  readonly next: Int32Array
  /** [next.length x lanes] discount x probability */
  readonly weight: Float64Array
  /** [bundles x lanes] expected reward */
  readonly reward: Float64Array
  /** [bundles x lanes] the row of the model, -1 for what fills up */
  readonly row: Int32Array
  readonly lanes: 1 | 4
}

export function sweepForm(model: Model, discount: number, order: Int32Array, eliminate = false): SweepForm {
  const shared = sharedSize(model, order)
  return shared <= 2 * model.outcomes
    ? layOut(model, discount, order, eliminate, LANES, shared / LANES)
    : layOut(model, discount, order, eliminate, 1, model.outcomes)
}

/** How many weights the form with lanes would take. */
function sharedSize(model: Model, order: Int32Array): number {
  const { rowStart, outcomeStart, outcomeState } = model
  const seen = new Int32Array(model.states).fill(-1)
  let size = 0
  for (const s of order) {
    let distinct = 0
    for (let o = outcomeStart[rowStart[s]]; o < outcomeStart[rowStart[s + 1]]; o++)
      if (seen[outcomeState[o]] !== s) {
        seen[outcomeState[o]] = s
        distinct++
      }
    size += distinct * LANES * Math.ceil((rowStart[s + 1] - rowStart[s]) / LANES)
  }
  return size
}

function layOut(
  model: Model,
  discount: number,
  order: Int32Array,
  eliminate: boolean,
  lanes: 1 | 4,
  nexts: number,
): SweepForm {
  const { rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward } = model
  let bundles = 0
  for (const s of order) bundles += Math.ceil((rowStart[s + 1] - rowStart[s]) / lanes)
  const form = {
    model,
    discount,
    order,
    bundleStart: new Int32Array(order.length + 1),
    nextStart: new Int32Array(bundles + 1),
    next: new Int32Array(nexts),
    weight: new Float64Array(nexts * lanes),
    reward: new Float64Array(bundles * lanes).fill(-Infinity),
    row: new Int32Array(bundles * lanes).fill(-1),
    lanes,
  }
  // Where a next state stands in the bundle at hand; valid when not before its beginning.
  const placed = new Int32Array(model.states).fill(-1)
  let bundle = 0
  let filled = 0
  order.forEach((s, place) => {
    for (let first = rowStart[s]; first < rowStart[s + 1]; first += lanes, bundle++) {
      const begin = filled
      const last = Math.min(first + lanes, rowStart[s + 1])
      for (let r = first; r < last; r++) {
        const lane = bundle * lanes + r - first
        let reward = 0
        let stays = 0
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
          reward += outcomeProbability[o] * outcomeReward[o]
          const to = outcomeState[o]
          const weight = discount * outcomeProbability[o]
          if (eliminate && to === s) {
            stays += weight
            continue
          }
          if (placed[to] < begin) {
            placed[to] = filled
            form.next[filled++] = to
          }
          form.weight[placed[to] * lanes + r - first] += weight
        }
        form.row[lane] = r
        form.reward[lane] = reward
        if (stays === 0) continue
        if (stays > 1 - 1e-9) {
          // Staying for ever, undiscounted: there is nothing to divide by.
          if (placed[s] < begin) {
            placed[s] = filled
            form.next[filled++] = s
          }
          form.weight[placed[s] * lanes + r - first] = stays
          continue
        }
        form.reward[lane] /= 1 - stays
        for (let k = begin; k < filled; k++) form.weight[k * lanes + r - first] /= 1 - stays
      }
      form.nextStart[bundle + 1] = filled
    }
    form.bundleStart[place + 1] = bundle
  })
  return { ...form, next: form.next.subarray(0, filled), weight: form.weight.subarray(0, filled * lanes) }
}

/**
 * One sweep of best backups: `to[s]` becomes the best backup of s on `from`. Endings are left alone.
 * With `from` and `to` the same array the sweep is made in place.
 * @returns the largest change of a value
 */
export function sweepBest(form: SweepForm, from: Float64Array, to: Float64Array): number {
  return form.lanes === 1 ? sweepSingle(form, from, to) : sweepLanes(form, from, to)
}

function sweepLanes(form: SweepForm, from: Float64Array, to: Float64Array): number {
  const { order, bundleStart, nextStart, next, weight, reward } = form
  const places = order.length
  let largest = 0
  let bundle = 0
  let k = 0
  for (let place = 0; place < places; place++) {
    let best = -Infinity
    for (const end = bundleStart[place + 1]; bundle < end; bundle++) {
      let lane = bundle * 4
      let a = reward[lane]
      let b = reward[lane + 1]
      let c = reward[lane + 2]
      let d = reward[lane + 3]
      for (const last = nextStart[bundle + 1]; k < last; k++) {
        const value = from[next[k]]
        lane = k * 4
        a += weight[lane] * value
        b += weight[lane + 1] * value
        c += weight[lane + 2] * value
        d += weight[lane + 3] * value
      }
      if (b > a) a = b
      if (d > c) c = d
      if (c > a) a = c
      if (a > best) best = a
    }
    const s = order[place]
    const change = Math.abs(best - from[s])
    if (change > largest) largest = change
    to[s] = best
  }
  return largest
}

function sweepSingle(form: SweepForm, from: Float64Array, to: Float64Array): number {
  const { order, bundleStart, nextStart, next, weight, reward } = form
  const places = order.length
  let largest = 0
  let row = 0
  let k = 0
  for (let place = 0; place < places; place++) {
    let best = -Infinity
    for (const end = bundleStart[place + 1]; row < end; row++) {
      let sum = reward[row]
      for (const last = nextStart[row + 1]; k < last; k++) sum += weight[k] * from[next[k]]
      if (sum > best) best = sum
    }
    const s = order[place]
    const change = Math.abs(best - from[s])
    if (change > largest) largest = change
    to[s] = best
  }
  return largest
}

/** A chain of states: one action each, laid out like the form it was taken from. */
export interface SweepChain {
  readonly order: Int32Array
  /** [places + 1] where the next states of each place are */
  readonly nextStart: Int32Array
  readonly next: Int32Array
  readonly weight: Float64Array
  /** [places] */
  readonly reward: Float64Array
  /** [places] the rows of the model it takes */
  readonly row: Int32Array
}

/** Room for the chain of any deterministic policy of a form. */
export function emptyChain({ order, next }: SweepForm): SweepChain {
  return {
    order,
    nextStart: new Int32Array(order.length + 1),
    next: new Int32Array(next.length),
    weight: new Float64Array(next.length),
    reward: new Float64Array(order.length),
    row: new Int32Array(order.length),
  }
}

/** Writes the chain of a policy, of the first row it takes in every state, into `chain`. */
export function chooseChain(form: SweepForm, policy: RowPolicy, chain: SweepChain): void {
  const { order, bundleStart, lanes, row } = form
  let filled = 0
  for (let place = 0; place < order.length; place++)
    for (let lane = bundleStart[place] * lanes; lane < bundleStart[place + 1] * lanes; lane++)
      if (row[lane] >= 0 && policy[row[lane]] > 0) {
        filled = link(form, chain, place, Math.floor(lane / lanes), lane % lanes, filled)
        break
      }
}

/** Writes one action into a chain. @returns how many next states the chain has then */
function link(
  form: SweepForm,
  chain: SweepChain,
  place: number,
  bundle: number,
  lane: number,
  filled: number,
): number {
  const { nextStart, next, weight, reward, row, lanes } = form
  chain.row[place] = row[bundle * lanes + lane]
  chain.reward[place] = reward[bundle * lanes + lane]
  for (let k = nextStart[bundle]; k < nextStart[bundle + 1]; k++) {
    const part = weight[k * lanes + lane]
    if (part === 0) continue
    chain.next[filled] = next[k]
    chain.weight[filled++] = part
  }
  chain.nextStart[place + 1] = filled
  return filled
}

/** As {@link sweepBest} in place, writing the chain of the best actions (the first of equals) into `chain`. */
export function sweepAndChoose(form: SweepForm, values: Float64Array, chain: SweepChain): number {
  const { order, bundleStart, nextStart, next, weight, reward, lanes } = form
  let largest = 0
  let filled = 0
  for (let place = 0; place < order.length; place++) {
    let best = -Infinity
    let bestBundle = 0
    let bestLane = 0
    for (let bundle = bundleStart[place]; bundle < bundleStart[place + 1]; bundle++)
      if (lanes === 4) {
        let lane = bundle * 4
        let a = reward[lane]
        let b = reward[lane + 1]
        let c = reward[lane + 2]
        let d = reward[lane + 3]
        for (let k = nextStart[bundle]; k < nextStart[bundle + 1]; k++) {
          const value = values[next[k]]
          lane = k * 4
          a += weight[lane] * value
          b += weight[lane + 1] * value
          c += weight[lane + 2] * value
          d += weight[lane + 3] * value
        }
        let top = a
        let at = 0
        if (b > top) {
          top = b
          at = 1
        }
        if (c > top) {
          top = c
          at = 2
        }
        if (d > top) {
          top = d
          at = 3
        }
        if (top > best) {
          best = top
          bestBundle = bundle
          bestLane = at
        }
      } else {
        let sum = reward[bundle]
        for (let k = nextStart[bundle]; k < nextStart[bundle + 1]; k++) sum += weight[k] * values[next[k]]
        if (sum > best) {
          best = sum
          bestBundle = bundle
        }
      }
    filled = link(form, chain, place, bestBundle, bestLane, filled)
    const s = order[place]
    const change = Math.abs(best - values[s])
    if (change > largest) largest = change
    values[s] = best
  }
  return largest
}

/** One sweep in place along a chain. @returns the largest change of a value */
export function sweepChain(chain: SweepChain, values: Float64Array): number {
  const { order, nextStart, next, weight, reward } = chain
  const places = order.length
  let largest = 0
  let k = 0
  for (let place = 0; place < places; place++) {
    let sum = reward[place]
    for (const last = nextStart[place + 1]; k < last; k++) sum += weight[k] * values[next[k]]
    const s = order[place]
    const change = Math.abs(sum - values[s])
    if (change > largest) largest = change
    values[s] = sum
  }
  return largest
}
