// The kernel of ../one-step.ts once more, in AssemblyScript: the same draws and the same sums in the same order, so that
// both give the same bits. Built by scripts/wasm.mjs into steps-code.ts.
// `at` is the address of a block of registers: addresses and whole numbers as i32, then numbers as f64. The order of both
// is that of INTS and REALS in fast-one-step.ts.

import { int, put, real, putReal, intAt, realAt, draw } from '../../../../wasm/kernel'

const UNIT: f64 = 1.0 / 4294967296.0
const HALF_UNIT: f64 = 1.0 / 2147483648.0
const SLOT_SIZE: usize = 80

/** Takes up to `limit` steps; stops once `until` episodes are finished. @returns the steps taken */
export function run(at: usize): i32 {
  const observation: usize = int(at, 0)
  const ending: usize = int(at, 1)
  const tableStart: usize = int(at, 2)
  const rowStart: usize = int(at, 3)
  const outcomeStart: usize = int(at, 4)
  const outcomeState: usize = int(at, 5)
  const outcomeReward: usize = int(at, 6)
  const threshold: usize = int(at, 7)
  const startState: usize = int(at, 8)
  const startThreshold: usize = int(at, 9)
  const startGuide: usize = int(at, 10)
  const values: usize = int(at, 11)
  const greedy: usize = int(at, 12)
  const visits: usize = int(at, 13)
  const slots: usize = int(at, 14)
  const returns: usize = int(at, 15)
  const lengths: usize = int(at, 16)
  const environment: usize = int(at, 17)
  const exploration: usize = int(at, 18)
  const ties: usize = int(at, 19)
  const starts = int(at, 20)
  const cap = int(at, 21)
  const limit = int(at, 22)
  const until = int(at, 23)
  const target = int(at, 24)
  const byVisits = int(at, 25)
  const firstOfTies = int(at, 26)
  let state = int(at, 27)
  let chosen = int(at, 28)
  let age = int(at, 29)
  let exploring = int(at, 30)
  let episodes = int(at, 31)
  let lastState = int(at, 32)
  let lastRow = int(at, 33)
  let lastNext = int(at, 34)
  let lastEnded = int(at, 35)
  let lastExplored = int(at, 36)
  const discount = real(at, 0)
  const level = real(at, 1)
  const from = real(at, 2)
  const slowness = real(at, 3)
  const most = real(at, 4)
  let rate = real(at, 5)
  let returned = real(at, 6)
  let power = real(at, 7)
  let steps = real(at, 8)
  let lastReward = real(at, 9)
  let taken: i32 = 0
  put(at, 37, 0)
  while (taken < limit && episodes < until) {
    if (state < 0) {
      if (starts == 1) state = intAt(startState, 0)
      else {
        const drawn = <i32>(draw(environment) >>> 1)
        let i = intAt(startGuide, <i32>(<f64>drawn * <f64>starts * HALF_UNIT))
        while (drawn > intAt(startThreshold, i)) i++
        state = intAt(startState, i)
      }
      chosen = -1
      age = 0
      returned = 0
      power = 1
    }
    const group = intAt(observation, state)
    const groupStart = intAt(tableStart, group)
    let row = chosen
    if (row < 0) {
      // Choosing is written out at both of its places: a call would be taken for each step.
      exploring = <f64>draw(exploration) * UNIT < level ? 1 : 0
      if (exploring) row = groupStart + <i32>(<f64>draw(exploration) * UNIT * <f64>(intAt(tableStart, group + 1) - groupStart))
      else {
        row = load<i32>(greedy + ((<usize>group) << 4), 8)
        const equals = load<i32>(greedy + ((<usize>group) << 4), 12)
        if (equals > 1 && !firstOfTies) {
          const top = load<f64>(greedy + ((<usize>group) << 4))
          for (let skip = <i32>(<f64>draw(ties) * UNIT * <f64>equals); skip > 0; skip--) {
            do { row++ } while (realAt(values, row) != top)
          }
        }
      }
      if (target == 0 && age > 0) {
        const before = slots + <usize>intAt(observation, lastState) * SLOT_SIZE
        store<f64>(before, <f64>row, 64)
        store<f64>(before, realAt(values, row), 72)
      }
    }
    const explored = exploring
    const modelRow = intAt(rowStart, state) + row - groupStart
    let outcome = intAt(outcomeStart, modelRow)
    if (intAt(outcomeStart, modelRow + 1) - outcome > 1) {
      const drawn = <i32>(draw(environment) >>> 1)
      while (drawn > intAt(threshold, outcome)) outcome++
    }
    const next = intAt(outcomeState, outcome)
    const reward = realAt(outcomeReward, outcome)
    const nextGroup = intAt(observation, next)
    const ended = <i32>load<u8>(ending + <usize>next)
    const visited = realAt(visits, row) + 1
    store<f64>(visits + ((<usize>row) << 3), visited)
    const bestNext = load<f64>(greedy + ((<usize>nextGroup) << 4))
    let ahead = bestNext
    let nextRow: i32 = -1
    if (target != 0 && !ended) {
      const nextStart = intAt(tableStart, nextGroup)
      const size = intAt(tableStart, nextGroup + 1) - nextStart
      if (target == 1) {
        exploring = <f64>draw(exploration) * UNIT < level ? 1 : 0
        if (exploring) nextRow = nextStart + <i32>(<f64>draw(exploration) * UNIT * <f64>size)
        else {
          nextRow = load<i32>(greedy + ((<usize>nextGroup) << 4), 8)
          const equals = load<i32>(greedy + ((<usize>nextGroup) << 4), 12)
          if (equals > 1 && !firstOfTies)
            for (let skip = <i32>(<f64>draw(ties) * UNIT * <f64>equals); skip > 0; skip--) {
              do { nextRow++ } while (realAt(values, nextRow) != bestNext)
            }
        }
        ahead = realAt(values, nextRow)
      } else {
        const even = level / <f64>size
        const greedily = firstOfTies ? 1 - level : (1 - level) / <f64>load<i32>(greedy + ((<usize>nextGroup) << 4), 12)
        const top = load<i32>(greedy + ((<usize>nextGroup) << 4), 8)
        ahead = 0
        for (let r = nextStart; r < nextStart + size; r++) {
          const value = realAt(values, r)
          const picked = firstOfTies ? r == top : value == bestNext
          ahead += (even + (picked ? greedily : 0)) * value
        }
      }
    }
    const old = realAt(values, row)
    if (byVisits) rate = (from * slowness) / (slowness + visited - 1)
    const value = old + rate * (reward + discount * ahead - old)
    const sound = value >= -most && value <= most
    if (sound) {
      store<f64>(values + ((<usize>row) << 3), value)
      const top = load<f64>(greedy + ((<usize>group) << 4))
      if (value > top) {
        store<f64>(greedy + ((<usize>group) << 4), value)
        store<i32>(greedy + ((<usize>group) << 4), row, 8)
        store<i32>(greedy + ((<usize>group) << 4), 1, 12)
      } else if (old == top ? value != top : value == top) {
        const end = intAt(tableStart, group + 1)
        let highest = realAt(values, groupStart)
        let where = groupStart
        let shared: i32 = 1
        for (let r = groupStart + 1; r < end; r++) {
          const other = realAt(values, r)
          if (other > highest) {
            highest = other
            where = r
            shared = 1
          } else if (other == highest) shared++
        }
        store<f64>(greedy + ((<usize>group) << 4), highest)
        store<i32>(greedy + ((<usize>group) << 4), where, 8)
        store<i32>(greedy + ((<usize>group) << 4), shared, 12)
      }
      const slot = slots + <usize>group * SLOT_SIZE
      store<f64>(slot, <f64>row)
      store<f64>(slot, old, 8)
      store<f64>(slot, reward, 16)
      store<f64>(slot, <f64>next, 24)
      store<f64>(slot, ahead, 32)
      store<f64>(slot, value, 40)
      store<f64>(slot, steps, 48)
      store<f64>(slot, rate, 56)
      store<f64>(slot, <f64>nextRow, 64)
      store<f64>(slot, bestNext, 72)
    }
    returned += power * reward
    power *= discount
    age++
    steps++
    taken++
    lastState = state
    lastRow = row
    lastNext = next
    lastReward = reward
    lastExplored = explored
    lastEnded = ended
    chosen = nextRow
    state = next
    if (ended || age >= cap) {
      store<f64>(returns + ((<usize>episodes) << 3), returned)
      store<i32>(lengths + ((<usize>episodes) << 2), ended ? age : -age)
      episodes++
      state = -1
      chosen = -1
    }
    if (!sound) {
      put(at, 37, 1)
      putReal(at, 10, value)
      break
    }
  }
  put(at, 27, state)
  put(at, 28, chosen)
  put(at, 29, age)
  put(at, 30, exploring)
  put(at, 31, episodes)
  put(at, 32, lastState)
  put(at, 33, lastRow)
  put(at, 34, lastNext)
  put(at, 35, lastEnded)
  put(at, 36, lastExplored)
  putReal(at, 5, rate)
  putReal(at, 6, returned)
  putReal(at, 7, power)
  putReal(at, 8, steps)
  putReal(at, 9, lastReward)
  return taken
}
