// Whole runs of agents on a bandit, in AssemblyScript: the same draws and the same sums in the same order as the learners
// of core/learn take, so that both give the same bits. Built by scripts/wasm.mjs into pulls-code.ts.
// `at` is the address of a block of registers: addresses and whole numbers as i32, then numbers as f64. The order of both
// is that of INTS and REALS in fast-pulls.ts.

import { int, real, putReal, intAt, realAt, putAt, draw, exponential, logarithm } from '../../wasm/kernel'

const UNIT: f64 = 1.0 / 4294967296.0
const HALF_UNIT: f64 = 1.0 / 2147483648.0

// Ways to choose, in the order of WAYS in fast-pulls.ts.
const EPSILON_GREEDY: i32 = 0
const SOFTMAX: i32 = 1
const UCB1: i32 = 2
const UCB1_TUNED: i32 = 3
const COUNT_BONUS: i32 = 4
const EXPLORE_THEN_COMMIT: i32 = 5
const POSTERIOR_GAUSSIAN: i32 = 6
const POSTERIOR_BERNOULLI: i32 = 7
const GRADIENT: i32 = 8

// What a gradient bandit compares with.
const CONSTANT_BASELINE: i32 = 1
const MEAN_BASELINE: i32 = 2

@inline function uniform(words: usize): f64 { return <f64>draw(words) * UNIT }

// Tables of the ziggurat, one after the other: reach [257], inside [256], scale [256].
const INSIDE: usize = 257 * 8
const SCALE: usize = INSIDE + 256 * 8
const EDGE: f64 = 3.6541528853610088

/** As core/random/gaussian.ts. @param layers  where its tables are */
@inline function gaussian(words: usize, layers: usize): f64 {
  const drawn = <i32>draw(words)
  const layer = draw(words) & 255
  const x = <f64>drawn * realAt(layers + SCALE, layer)
  return abs<f64>(<f64>drawn) < realAt(layers + INSIDE, layer) ? x : gaussianAtEdge(words, layers, drawn, layer, x)
}

function gaussianAtEdge(words: usize, layers: usize, firstDrawn: i32, firstLayer: i32, firstX: f64): f64 {
  let drawn = firstDrawn
  let layer = firstLayer
  let x = firstX
  while (true) {
    if (layer == 0) {
      while (true) {
        const far = logarithm(uniform(words) + 1.0 / 8589934592.0) / EDGE
        const y = logarithm(uniform(words) + 1.0 / 8589934592.0)
        if (-2 * y >= far * far) return drawn < 0 ? -(EDGE - far) : EDGE - far
      }
    }
    const reach = realAt(layers, layer)
    const next = realAt(layers, layer + 1)
    const low = exponential(-0.5 * (reach * reach - x * x))
    const high = exponential(-0.5 * (next * next - x * x))
    if (high + uniform(words) * (low - high) < 1) return x
    drawn = <i32>draw(words)
    layer = draw(words) & 255
    x = <f64>drawn * realAt(layers + SCALE, layer)
    if (abs<f64>(<f64>drawn) < realAt(layers + INSIDE, layer)) return x
  }
}

/** As core/random/beta.ts. */
function gamma(words: usize, layers: usize, shape: f64): f64 {
  if (shape < 1) {
    const larger = gamma(words, layers, shape + 1)
    return larger * exponential(logarithm(uniform(words) + 1.0 / 8589934592.0) / shape)
  }
  const d = shape - 1.0 / 3.0
  const c = 1 / sqrt<f64>(9 * d)
  while (true) {
    const x = gaussian(words, layers)
    const root = 1 + c * x
    const v = root * root * root
    if (v <= 0) continue
    const u = uniform(words) + 1.0 / 8589934592.0
    const square = x * x
    if (u < 1 - 0.0331 * square * square) return d * v
    if (logarithm(u) < 0.5 * x * x + d * (1 - v + logarithm(v))) return d * v
  }
}

function beta(words: usize, layers: usize, a: f64, b: f64): f64 {
  const one = gamma(words, layers, a)
  const other = gamma(words, layers, b)
  return one + other > 0 ? one / (one + other) : a / (a + b)
}

/** The softmax of the preferences or values from `values` on, into `out`; the largest is taken off first. */
@inline function fillSoftmax(values: usize, out: usize, arms: i32, temperature: f64): void {
  let most: f64 = -Infinity
  for (let k = 0; k < arms; k++) if (realAt(values, k) > most) most = realAt(values, k)
  let sum: f64 = 0
  for (let k = 0; k < arms; k++) {
    const weight = exponential((realAt(values, k) - most) / temperature)
    putAt(out, k, weight)
    sum += weight
  }
  for (let k = 0; k < arms; k++) putAt(out, k, realAt(out, k) / sum)
}

/** The entry of `weights` that a draw falls on. */
@inline function picked(weights: usize, arms: i32, drawn: f64): i32 {
  let k: i32 = 0
  for (let left = drawn; k < arms - 1 && left >= realAt(weights, k); k++) left -= realAt(weights, k)
  return k
}

/**
 * `run` for ε-greedy choice without contexts, where nothing goes by episodes: streams and sums stay in registers. Of
 * continuous arms all `1 << bits` slices are equally likely, and a draw's first bits say which it is; bits is 0 for others.
 */
function runGreedy(at: usize): i32 {
  const arms = int(at, 1)
  const pulls = int(at, 4)
  const firstOfTies = int(at, 5)
  const bin = int(at, 6)
  const outcomeStart: usize = int(at, 8)
  const outcomeReward: usize = int(at, 10)
  const threshold: usize = int(at, 11)
  const guide: usize = int(at, 12)
  const levels: usize = int(at, 20)
  const levelByPull = int(at, 22)
  const rates: usize = int(at, 23)
  const rateByPull = int(at, 25)
  const rateByVisits = int(at, 26)
  const environment: usize = int(at, 28)
  const exploration: usize = int(at, 29)
  const ties: usize = int(at, 30)
  const arm0: usize = int(at, 41)
  const armEnd = arm0 + ((<usize>arms) << 5)
  const bits = int(at, 40)
  const shift = <u32>(32 - bits)
  const most = real(at, 0)
  let out: usize = int(at, 35)
  const bestOut = <usize>int(at, 36) - out
  const regretOut = <usize>int(at, 37) - out
  // An arm is a record: value, gap, pulls, where its rewards are.
  for (let k = 0; k < arms; k++) {
    const arm = arm0 + ((<usize>k) << 5)
    store<f64>(arm, realAt(int(at, 16), k))
    store<f64>(arm, realAt(int(at, 15), k), 8)
    store<i32>(arm, 0, 16)
    store<i32>(arm, intAt(outcomeStart, k), 20)
    store<i32>(arm, intAt(outcomeStart, k + 1) - intAt(outcomeStart, k), 24)
  }
  let ea = load<u32>(environment)
  let eb = load<u32>(environment, 4)
  let ec = load<u32>(environment, 8)
  let counter = load<u32>(environment, 12)
  let xa = load<u32>(exploration)
  let xb = load<u32>(exploration, 4)
  let xc = load<u32>(exploration, 8)
  let xCounter = load<u32>(exploration, 12)
  let level = <u64>ceil<f64>(realAt(levels, 0) * 4294967296.0)
  let rate = realAt(rates, 0)
  let top = load<f64>(int(at, 18))
  let first = arm0 + ((<usize>load<i32>(int(at, 18), 8)) << 5)
  let count = load<i32>(int(at, 18), 12)
  // The largest value of the arms besides the only best one, so that they need not be looked at when that one falls.
  let second: f64 = -Infinity
  for (let k = arm0; k < armEnd; k += 32) if (k != first && load<f64>(k) > second) second = load<f64>(k)
  let regret: f64 = 0
  let total: f64 = 0
  let sum: f64 = 0
  let hits: i32 = 0
  let left = bin
  for (let t = 0; t < pulls; t++) {
    if (levelByPull) level = <u64>ceil<f64>(realAt(levels, t) * 4294967296.0)
    if (rateByPull) rate = realAt(rates, t)
    let drawn = xa + xb + xCounter++
    xa = xb ^ (xb >>> 9)
    xb = xc + (xc << 3)
    xc = ((xc << 21) | (xc >>> 11)) + drawn
    let arm = first
    if (<u64>drawn < level) {
      drawn = xa + xb + xCounter++
      xa = xb ^ (xb >>> 9)
      xb = xc + (xc << 3)
      xc = ((xc << 21) | (xc >>> 11)) + drawn
      arm = arm0 + (<usize>((<u64>drawn * <u64>arms) >>> 32) << 5)
    } else if (count > 1 && !firstOfTies) {
      for (let skip = <i32>(uniform(ties) * <f64>count); skip > 0; skip--) {
        do { arm += 32 } while (load<f64>(arm) != top)
      }
    }
    let outcome = load<i32>(arm, 20)
    if (bits) {
      drawn = ea + eb + counter++
      ea = eb ^ (eb >>> 9)
      eb = ec + (ec << 3)
      ec = ((ec << 21) | (ec >>> 11)) + drawn
      outcome += <i32>(drawn >>> shift)
    } else {
      const outcomes = load<i32>(arm, 24)
      if (outcomes > 1) {
        drawn = ea + eb + counter++
        ea = eb ^ (eb >>> 9)
        eb = ec + (ec << 3)
        ec = ((ec << 21) | (ec >>> 11)) + drawn
        const half = <i32>(drawn >>> 1)
        outcome = intAt(guide, outcome + <i32>(<f64>half * <f64>outcomes * HALF_UNIT))
        while (half > intAt(threshold, outcome)) outcome++
      }
    }
    const reward = realAt(outcomeReward, outcome)
    const missed = load<f64>(arm, 8)
    const old = load<f64>(arm)
    if (rateByVisits) {
      const visited = load<i32>(arm, 16) + 1
      store<i32>(arm, visited, 16)
      rate = realAt(rates, visited)
    }
    const value = old + rate * (reward - old)
    if (!(abs<f64>(value) <= most)) return t
    store<f64>(arm, value)
    let scan = false
    if (arm == first && count == 1) {
      if (value > second) top = value
      else scan = true
    } else if (value > top) {
      second = top
      top = value
      first = arm
      count = 1
    } else if (count > 1) scan = old == top ? value != top : value == top
    else if (value == top || (old == second && value < second)) scan = true
    else if (value > second) second = value
    if (scan) {
      top = load<f64>(arm0)
      first = arm0
      count = 1
      second = -Infinity
      for (let k = arm0 + 32; k < armEnd; k += 32) {
        const other = load<f64>(k)
        if (other > top) {
          second = top
          top = other
          first = k
          count = 1
        } else if (other == top) count++
        else if (other > second) second = other
      }
    }
    regret += missed
    total += reward
    sum += reward
    hits += <i32>(missed == 0)
    if (--left == 0 || t + 1 == pulls) {
      const over = bin - left
      store<f64>(out, over == 1 ? sum : sum / <f64>over)
      store<f64>(out + bestOut, over == 1 ? <f64>hits : <f64>hits / <f64>over)
      store<f64>(out + regretOut, regret)
      sum = 0
      hits = 0
      left = bin
      out += 8
    }
  }
  putReal(at, 3, total)
  putReal(at, 4, regret)
  return pulls
}

/** Plays one run from its beginning. @returns the pulls taken: fewer than asked for where a number diverged */
export function run(at: usize): i32 {
  const way = int(at, 0)
  if (way == EPSILON_GREEDY && int(at, 2) == 1 && !int(at, 21) && !int(at, 24)) return runGreedy(at)
  const arms = int(at, 1)
  const contexts = int(at, 2)
  const perEpisode = int(at, 3)
  const pulls = int(at, 4)
  const firstOfTies = int(at, 5)
  const bin = int(at, 6)
  const baselineKind = int(at, 7)
  const outcomeStart: usize = int(at, 8)
  const outcomeContext: usize = int(at, 9)
  const outcomeReward: usize = int(at, 10)
  const threshold: usize = int(at, 11)
  const guide: usize = int(at, 12)
  const startThreshold: usize = int(at, 13)
  const startGuide: usize = int(at, 14)
  const gap: usize = int(at, 15)
  const allValues: usize = int(at, 16)
  const allVisits: usize = int(at, 17)
  const greedy: usize = int(at, 18)
  const totals: usize = int(at, 19)
  const levels: usize = int(at, 20)
  const levelByEpisode = int(at, 21)
  const levelByPull = int(at, 22)
  const rates: usize = int(at, 23)
  const rateByEpisode = int(at, 24)
  const rateByPull = int(at, 25)
  const rateByVisits = int(at, 26)
  const logs: usize = int(at, 27)
  const environment: usize = int(at, 28)
  const exploration: usize = int(at, 29)
  const ties: usize = int(at, 30)
  const allSeen: usize = int(at, 31)
  const allMore: usize = int(at, 32)
  const scratch: usize = int(at, 33)
  const means: usize = int(at, 34)
  const rewardOut: usize = int(at, 35)
  const bestOut: usize = int(at, 36)
  const regretOut: usize = int(at, 37)
  const cap = int(at, 38)
  const layers: usize = int(at, 39)
  const most = real(at, 0)
  const temperature = real(at, 1)
  const baselineConstant = real(at, 2)
  let level = realAt(levels, 0)
  let rate = realAt(rates, 0)
  let context: i32 = 0
  let age: i32 = 0
  let episode: i32 = 0
  let regret: f64 = 0
  let total: f64 = 0
  let sum: f64 = 0
  let hits: f64 = 0
  let left = bin
  let point: i32 = 0
  if (way == GRADIENT)
    for (let c = 0; c < contexts; c++) {
      const cells = (<usize>(c * arms)) << 3
      fillSoftmax(allValues + cells, allSeen + cells, arms, temperature)
    }
  for (let t = 0; t < pulls; t++) {
    if (age == 0) {
      if (contexts > 1) {
        const drawn = <i32>(draw(environment) >>> 1)
        let i = intAt(startGuide, <i32>(<f64>drawn * <f64>contexts * HALF_UNIT))
        while (drawn > intAt(startThreshold, i)) i++
        context = i
      }
      if (levelByEpisode) level = realAt(levels, episode)
      if (rateByEpisode) rate = realAt(rates, episode)
    }
    if (levelByPull) level = realAt(levels, t)
    if (rateByPull) rate = realAt(rates, t)
    const from = context * arms
    const values = allValues + ((<usize>from) << 3)
    const visits = allVisits + ((<usize>from) << 3)
    const seen = allSeen + ((<usize>from) << 3)
    const more = allMore + ((<usize>from) << 3)
    let arm: i32 = 0
    if (way == EPSILON_GREEDY && uniform(exploration) < level) arm = <i32>(uniform(exploration) * <f64>arms)
    else if (way == EPSILON_GREEDY || way == EXPLORE_THEN_COMMIT) {
      arm = -1
      if (way == EXPLORE_THEN_COMMIT) {
        let least = level
        for (let k = 0; k < arms; k++)
          if (realAt(visits, k) < least) {
            least = realAt(visits, k)
            arm = k
          }
      }
      if (arm < 0) {
        arm = load<i32>(greedy + ((<usize>context) << 4), 8) - from
        const equals = load<i32>(greedy + ((<usize>context) << 4), 12)
        if (equals > 1 && !firstOfTies) {
          const top = load<f64>(greedy + ((<usize>context) << 4))
          for (let skip = <i32>(uniform(ties) * <f64>equals); skip > 0; skip--) {
            do { arm++ } while (realAt(values, arm) != top)
          }
        }
      }
    } else if (way <= COUNT_BONUS && way >= UCB1) {
      const pulled = intAt(totals, context)
      const logOfAll = realAt(logs, pulled)
      let highest: f64 = -Infinity
      let shared: i32 = 0
      for (let k = 0; k < arms; k++) {
        const n = realAt(visits, k)
        let bound: f64 = Infinity
        if (n > 0) {
          if (way == UCB1) bound = realAt(values, k) + level * sqrt<f64>((2 * logOfAll) / n)
          else if (way == COUNT_BONUS) bound = realAt(values, k) + level / sqrt<f64>(n)
          else {
            const spread = realAt(more, k) / n + sqrt<f64>((2 * logOfAll) / n)
            bound = realAt(values, k) + level * sqrt<f64>((logOfAll / n) * (spread < 0.25 ? spread : 0.25))
          }
        }
        putAt(scratch, k, bound)
        if (bound > highest) {
          highest = bound
          shared = 1
          arm = k
        } else if (bound == highest) shared++
      }
      if (shared > 1 && !firstOfTies)
        for (let skip = <i32>(uniform(ties) * <f64>shared); skip > 0; skip--) {
          do { arm++ } while (realAt(scratch, arm) != highest)
        }
    } else if (way == SOFTMAX) {
      fillSoftmax(values, scratch, arms, level)
      arm = picked(scratch, arms, uniform(exploration))
    } else if (way == GRADIENT) {
      arm = picked(seen, arms, uniform(exploration))
    } else {
      let highest: f64 = -Infinity
      for (let k = 0; k < arms; k++) {
        let worth: f64
        if (way == POSTERIOR_GAUSSIAN) {
          const precision = realAt(visits, k) + 1.0 / 10000.0
          worth = realAt(seen, k) / precision + (level / sqrt<f64>(precision)) * gaussian(exploration, layers)
        } else {
          const successes = realAt(seen, k)
          worth = realAt(more, k) * beta(exploration, layers, level + successes, level + realAt(visits, k) - successes)
        }
        if (worth > highest) {
          highest = worth
          arm = k
        }
      }
    }
    const ends = age + 1 >= perEpisode
    const row = (ends && perEpisode > 1 ? (contexts + context) * arms : from) + arm
    let outcome = intAt(outcomeStart, row)
    const outcomes = intAt(outcomeStart, row + 1) - outcome
    if (outcomes > 1) {
      const drawn = <i32>(draw(environment) >>> 1)
      outcome = intAt(guide, outcome + <i32>(<f64>drawn * <f64>outcomes * HALF_UNIT))
      while (drawn > intAt(threshold, outcome)) outcome++
    }
    const reward = realAt(outcomeReward, outcome)
    const visited = realAt(visits, arm) + 1
    putAt(visits, arm, visited)
    if (rateByVisits) rate = realAt(rates, <i32>visited)
    if (way == GRADIENT) {
      const all = intAt(totals, context) + 1
      const mean = all == 1 ? reward : realAt(means, context)
      const baseline = baselineKind == MEAN_BASELINE ? mean : baselineKind == CONSTANT_BASELINE ? baselineConstant : 0
      store<i32>(totals + ((<usize>context) << 2), all)
      putAt(means, context, realAt(means, context) + (reward - realAt(means, context)) / <f64>all)
      const step = (rate * (reward - baseline)) / temperature
      const value = realAt(values, arm) + step
      if (!(value >= -most && value <= most)) return t
      for (let k = 0; k < arms; k++)
        putAt(values, k, realAt(values, k) + step * ((k == arm ? 1.0 : 0.0) - realAt(seen, k)))
      fillSoftmax(values, seen, arms, temperature)
    } else {
      if (way == UCB1_TUNED) {
        const off = reward - realAt(seen, arm)
        const mean = realAt(seen, arm) + off / visited
        putAt(seen, arm, mean)
        putAt(more, arm, realAt(more, arm) + off * (reward - mean))
      } else if (way == POSTERIOR_GAUSSIAN) putAt(seen, arm, realAt(seen, arm) + reward)
      else if (way == POSTERIOR_BERNOULLI && reward > 0) {
        putAt(seen, arm, realAt(seen, arm) + 1)
        putAt(more, arm, reward)
      }
      if (way >= UCB1) store<i32>(totals + ((<usize>context) << 2), intAt(totals, context) + 1)
      const old = realAt(values, arm)
      const value = old + rate * (reward - old)
      if (!(value >= -most && value <= most)) return t
      putAt(values, arm, value)
      if (way == EPSILON_GREEDY || way == EXPLORE_THEN_COMMIT) {
        const top = load<f64>(greedy + ((<usize>context) << 4))
        if (value > top) {
          store<f64>(greedy + ((<usize>context) << 4), value)
          store<i32>(greedy + ((<usize>context) << 4), from + arm, 8)
          store<i32>(greedy + ((<usize>context) << 4), 1, 12)
        } else if (old == top ? value != top : value == top) {
          let highest = realAt(values, 0)
          let where: i32 = 0
          let shared: i32 = 1
          for (let k = 1; k < arms; k++) {
            const other = realAt(values, k)
            if (other > highest) {
              highest = other
              where = k
              shared = 1
            } else if (other == highest) shared++
          }
          store<f64>(greedy + ((<usize>context) << 4), highest)
          store<i32>(greedy + ((<usize>context) << 4), from + where, 8)
          store<i32>(greedy + ((<usize>context) << 4), shared, 12)
        }
      }
    }
    const missed = realAt(gap, from + arm)
    regret += missed
    total += reward
    sum += reward
    hits += missed == 0 ? 1.0 : 0.0
    if (--left == 0 || t + 1 == pulls) {
      const over = bin - left
      putAt(rewardOut, point, over == 1 ? sum : sum / <f64>over)
      putAt(bestOut, point, over == 1 ? hits : hits / <f64>over)
      putAt(regretOut, point, regret)
      sum = 0
      hits = 0
      left = bin
      point++
    }
    if (contexts > 1) context = intAt(outcomeContext, outcome)
    age++
    if (ends || age >= cap) {
      age = 0
      episode++
    }
  }
  putReal(at, 3, total)
  putReal(at, 4, regret)
  return pulls
}

/** Draws normal arms anew, without contexts; the largest reward in size goes to a register. */
export function redraw(at: usize): void {
  const arms = int(at, 1)
  const rewards: usize = int(at, 10)
  const gap: usize = int(at, 15)
  const layers: usize = int(at, 39)
  const words: usize = int(at, 42)
  const written: usize = int(at, 43)
  const deviations: usize = int(at, 44)
  const slices: usize = int(at, 45)
  const anew = real(at, 5)
  const count = 1 << int(at, 40)
  let best: f64 = -Infinity
  let limit: f64 = 0
  let place = rewards
  for (let arm = 0; arm < arms; arm++) {
    const shift = anew * gaussian(words, layers)
    const mean = realAt(written, arm) + shift
    const deviation = realAt(deviations, arm)
    putAt(gap, arm, mean)
    if (mean > best) best = mean
    const means = f64x2.splat(mean)
    const widths = f64x2.splat(deviation)
    for (let k = 0; k < count; k += 2) {
      v128.store(place, f64x2.add(means, f64x2.mul(widths, v128.load(slices + ((<usize>k) << 3)))))
      place += 16
    }
    // The slices go from the lowest to the highest.
    limit = max<f64>(limit, max<f64>(abs<f64>(load<f64>(place - 8)), abs<f64>(load<f64>(place - (<usize>count << 3)))))
  }
  const nothing = 1e-12 * max<f64>(1, abs<f64>(best))
  for (let arm = 0; arm < arms; arm++) {
    const missed = best - realAt(gap, arm)
    putAt(gap, arm, missed <= nothing ? 0 : missed)
  }
  putReal(at, 6, limit)
}

/** Adds numbers and their squares to sums, two at a time. */
export function add(numbers: usize, sums: usize, squares: usize, length: i32): void {
  const end = numbers + ((<usize>length) << 3)
  while (numbers + 8 < end) {
    const pair = v128.load(numbers)
    v128.store(sums, f64x2.add(v128.load(sums), pair))
    v128.store(squares, f64x2.add(v128.load(squares), f64x2.mul(pair, pair)))
    numbers += 16
    sums += 16
    squares += 16
  }
  if (numbers < end) {
    const value = load<f64>(numbers)
    store<f64>(sums, load<f64>(sums) + value)
    store<f64>(squares, load<f64>(squares) + value * value)
  }
}
