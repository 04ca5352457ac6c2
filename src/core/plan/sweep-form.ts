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
  const shared = sharedSize(model)
  return shared <= 2 * model.outcomes
    ? layOut(model, discount, order, eliminate, LANES, shared / LANES)
    : layOut(model, discount, order, eliminate, 1, model.outcomes)
}

/** How many weights the form with lanes would take. */
function sharedSize(model: Model): number {
  const { rowStart, outcomeStart, outcomeState, ending } = model
  const seen = new Int32Array(model.states).fill(-1)
  let size = 0
  // From front to back, whatever the order of the sweep: memory is read in a row.
  for (let s = 0; s < model.states; s++) {
    if (ending[s]) continue
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
  const { rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward, outcomeDiscount } = model
  let bundles = 0
  for (let place = 0; place < order.length; place++)
    bundles += Math.ceil((rowStart[order[place] + 1] - rowStart[order[place]]) / lanes)
  const bundleStart = new Int32Array(order.length + 1)
  const nextStart = new Int32Array(bundles + 1)
  // A state that stays for ever, undiscounted, is a next state of its own: room for that.
  const next = new Int32Array(nexts)
  const weight = new Float64Array(nexts * lanes)
  const reward = new Float64Array(bundles * lanes).fill(-Infinity)
  const row = new Int32Array(bundles * lanes).fill(-1)
  // Where a next state stands in the bundle at hand; valid when not before its beginning.
  const placed = new Int32Array(model.states).fill(-1)
  let bundle = 0
  let filled = 0
  for (let place = 0; place < order.length; place++) {
    const s = order[place]
    const end = rowStart[s + 1]
    for (let first = rowStart[s]; first < end; first += lanes, bundle++) {
      const begin = filled
      const last = Math.min(first + lanes, end)
      for (let r = first; r < last; r++) {
        const lane = r - first
        let expected = 0
        let stays = 0
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
          const chance = outcomeProbability[o]
          const to = outcomeState[o]
          const part = outcomeDiscount ? discount * chance * outcomeDiscount[o] : discount * chance
          expected += chance * outcomeReward[o]
          if (eliminate && to === s) {
            stays += part
            continue
          }
          let at = placed[to]
          if (at < begin) {
            at = filled++
            placed[to] = at
            next[at] = to
          }
          weight[at * lanes + lane] += part
        }
        row[bundle * lanes + lane] = r
        reward[bundle * lanes + lane] = expected
        if (stays === 0) continue
        if (stays > 1 - 1e-9) {
          // Undiscounted there is nothing to divide by.
          if (placed[s] < begin) {
            placed[s] = filled
            next[filled++] = s
          }
          weight[placed[s] * lanes + lane] = stays
          continue
        }
        reward[bundle * lanes + lane] /= 1 - stays
        for (let k = begin; k < filled; k++) weight[k * lanes + lane] /= 1 - stays
      }
      nextStart[bundle + 1] = filled
    }
    bundleStart[place + 1] = bundle
  }
  return {
    model,
    discount,
    order,
    bundleStart,
    nextStart,
    next: next.subarray(0, filled),
    weight: weight.subarray(0, filled * lanes),
    reward,
    row,
    lanes,
  }
}

/**
 * One sweep of best backups: `to[s]` becomes the best backup of s on `from`. Endings are left alone.
 * With `from` and `to` the same array the sweep is made in place.
 * @param choice  [places] where the best actions (the first of equals) are noted, as places in the form's `row`
 * @returns the largest change of a value
 */
export function sweepBest(
  form: SweepForm,
  from: Float64Array,
  to: Float64Array,
  choice: Int32Array | null = null,
): number {
  return form.lanes === 1 ? sweepSingle(form, from, to, choice) : sweepLanes(form, from, to, choice)
}

function sweepLanes(
  form: SweepForm,
  from: Float64Array,
  to: Float64Array,
  choice: Int32Array | null,
): number {
  const { order, bundleStart, nextStart, next, weight, reward } = form
  const places = order.length
  let largest = 0
  let bundle = 0
  let k = 0
  for (let place = 0; place < places; place++) {
    let best = -Infinity
    let chosen = 0
    for (const end = bundleStart[place + 1]; bundle < end; bundle++) {
      const base = bundle * 4
      let a = reward[base]
      let b = reward[base + 1]
      let c = reward[base + 2]
      let d = reward[base + 3]
      for (const last = nextStart[bundle + 1]; k < last; k++) {
        const value = from[next[k]]
        const lane = k * 4
        a += weight[lane] * value
        b += weight[lane + 1] * value
        c += weight[lane + 2] * value
        d += weight[lane + 3] * value
      }
      if (a > best) {
        best = a
        chosen = base
      }
      if (b > best) {
        best = b
        chosen = base + 1
      }
      if (c > best) {
        best = c
        chosen = base + 2
      }
      if (d > best) {
        best = d
        chosen = base + 3
      }
    }
    if (choice) choice[place] = chosen
    const s = order[place]
    const change = Math.abs(best - from[s])
    if (change > largest) largest = change
    to[s] = best
  }
  return largest
}

function sweepSingle(
  form: SweepForm,
  from: Float64Array,
  to: Float64Array,
  choice: Int32Array | null,
): number {
  const { order, bundleStart, nextStart, next, weight, reward } = form
  const places = order.length
  let largest = 0
  let row = 0
  let k = 0
  for (let place = 0; place < places; place++) {
    let best = -Infinity
    let chosen = 0
    for (const end = bundleStart[place + 1]; row < end; row++) {
      let sum = reward[row]
      for (const last = nextStart[row + 1]; k < last; k++) sum += weight[k] * from[next[k]]
      if (sum > best) {
        best = sum
        chosen = row
      }
    }
    if (choice) choice[place] = chosen
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
  /** [places] which of the form's actions it takes: a place in `row` */
  readonly choice: Int32Array
}

/** Room for the chain of any deterministic policy of a form. */
export function emptyChain({ order, next }: SweepForm): SweepChain {
  return {
    order,
    nextStart: new Int32Array(order.length + 1),
    next: new Int32Array(next.length),
    weight: new Float64Array(next.length),
    reward: new Float64Array(order.length),
    choice: new Int32Array(order.length),
  }
}

/**
 * Lays out the chain of its `choice`, and makes the first sweep in place along it.
 * @returns the largest change of a value
 */
export function layOutAndSweep(form: SweepForm, chain: SweepChain, values: Float64Array): number {
  const { lanes, order, nextStart: from, next: to, weight: parts, reward: rewards } = form
  const { choice, nextStart, next, weight, reward } = chain
  const places = choice.length
  let largest = 0
  let filled = 0
  for (let place = 0; place < places; place++) {
    const chosen = choice[place]
    const bundle = lanes === 1 ? chosen : chosen >> 2
    const lane = chosen - bundle * lanes
    let sum = rewards[chosen]
    reward[place] = sum
    for (let k = from[bundle], last = from[bundle + 1]; k < last; k++) {
      const part = parts[k * lanes + lane]
      if (part === 0) continue
      const state = to[k]
      sum += part * values[state]
      next[filled] = state
      weight[filled++] = part
    }
    nextStart[place + 1] = filled
    const s = order[place]
    const change = Math.abs(sum - values[s])
    if (change > largest) largest = change
    values[s] = sum
  }
  return largest
}

/** Chooses the first action that a policy takes in every state. */
export function chooseChain(form: SweepForm, policy: RowPolicy, { choice }: SweepChain): void {
  const { order, bundleStart, lanes, row } = form
  for (let place = 0; place < order.length; place++) {
    let chosen = bundleStart[place] * lanes
    while (row[chosen] < 0 || policy[row[chosen]] === 0) chosen++
    choice[place] = chosen
  }
}

/** [rows] the policy that always takes the actions of a chain. */
export function chainPolicy({ model, row }: SweepForm, { choice }: Pick<SweepChain, 'choice'>): RowPolicy {
  const policy = new Float64Array(model.rows)
  for (let place = 0; place < choice.length; place++) policy[row[choice[place]]] = 1
  return policy
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
