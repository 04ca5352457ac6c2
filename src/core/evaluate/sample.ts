import type { RowPolicy } from '../model/model'
import type { World } from '../learn/world'
import { RandomStream } from '../random/generator'

/** What a number of episodes under a fixed policy came to. */
export interface Sample {
  readonly episodes: number
  /** Mean discounted return from the start. */
  readonly mean: number
  /** Standard error of that mean. */
  readonly standardError: number
  readonly steps: number
  /** Episodes that the cap cut off. */
  readonly cutOff: number
  /** [states] mean discounted return after the first visit of an episode; NaN for states never seen */
  readonly values: Float64Array
}

/** Plays episodes with a policy over the model's rows, without learning (first-visit Monte Carlo prediction). */
export function samplePolicy(
  world: World,
  policy: RowPolicy,
  options: { discount: number; episodes: number; cap: number; seed: number },
): Sample {
  const { discount, episodes, cap, seed } = options
  const { rowStart, states } = world.model
  const environment = new RandomStream(seed, 'environment')
  const choices = new RandomStream(seed, 'exploration')
  const visited = new Int32Array(cap)
  const reward = new Float64Array(cap)
  const gain = new Float64Array(cap)
  const total = new Float64Array(states)
  const count = new Float64Array(states)
  const firstSeen = new Int32Array(states).fill(-1)
  let steps = 0
  let cutOff = 0
  let mean = 0
  let squares = 0
  for (let episode = 0; episode < episodes; episode++) {
    let state = world.begin(environment)
    let length = 0
    while (length < cap && !world.ending[state]) {
      let row = rowStart[state]
      const lastRow = rowStart[state + 1] - 1
      for (let left = choices.uniform(); row < lastRow && left >= policy[row]; row++) left -= policy[row]
      world.step(state, row - rowStart[state], environment)
      visited[length] = state
      reward[length++] = world.reward
      state = world.next
    }
    if (!world.ending[state]) cutOff++
    steps += length
    let sum = 0
    for (let t = length - 1; t >= 0; t--) gain[t] = sum = reward[t] + discount * sum
    for (let t = 0; t < length; t++)
      if (firstSeen[visited[t]] !== episode) {
        firstSeen[visited[t]] = episode
        total[visited[t]] += gain[t]
        count[visited[t]]++
      }
    // Running mean and sum of squares (Welford 1962).
    const off = sum - mean
    mean += off / (episode + 1)
    squares += off * (sum - mean)
  }
  return {
    episodes,
    mean,
    standardError: episodes > 1 ? Math.sqrt(squares / (episodes - 1) / episodes) : 0,
    steps,
    cutOff,
    values: total.map((value, s) => value / count[s]),
  }
}
