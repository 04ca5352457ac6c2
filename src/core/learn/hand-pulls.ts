import type { Model } from '../model/model'
import { RandomStream } from '../random/generator'
import type { World } from './world'

/** Pulls made by a person, in the same world as an agent's but with random numbers of their own. */
export class HandPulls {
  /** [rows] of the model: how often each was pulled */
  readonly rowPulls: Float64Array
  pulls = 0
  total = 0
  /** What the last pull paid; null before the first. */
  last: number | null = null
  /** The state the next pull is made in. */
  state: number
  private readonly stream: RandomStream

  constructor(
    private readonly world: World,
    seed: number,
  ) {
    this.rowPulls = new Float64Array(world.model.rows)
    // Another run of the same seed than any agent has.
    this.stream = new RandomStream(seed, 'environment', 2 ** 31 - 1)
    this.state = world.begin(this.stream)
  }

  /** @param choice  the number of the arm, in the order of the state's actions */
  pull(choice: number): number {
    const { world } = this
    world.step(this.state, choice, this.stream)
    this.rowPulls[world.model.rowStart[this.state] + choice]++
    this.pulls++
    this.total += world.reward
    this.last = world.reward
    this.state = world.ending[world.next] ? world.begin(this.stream) : world.next
    return world.reward
  }
}

/**
 * The regret of pulls: how much less they pay in expectation than the best arm would have paid each time, where all states
 * that look alike pay alike. @returns null where they do not: what was missed then depends on when it was
 * @param rowPulls [rows] how often each row was pulled; of states that look alike, either in each of them or summed over them
 * @param shared  whether each of the states that look alike has the pulls of all of them
 */
export function regretOf(model: Model, rowPulls: Float64Array, shared: boolean): number | null {
  const { states, rowStart, observation } = model
  const first = new Int32Array(model.observations).fill(-1)
  let regret = 0
  for (let s = 0; s < states; s++) {
    if (rowStart[s] === rowStart[s + 1]) continue
    const rewards = expectedRewards(model, s)
    const like = first[observation[s]]
    if (like < 0) first[observation[s]] = s
    else if (expectedRewards(model, like).some((reward, k) => Math.abs(reward - rewards[k]) > 1e-9))
      return null
    if (like >= 0 && shared) continue
    const best = Math.max(...rewards)
    rewards.forEach((reward, k) => (regret += rowPulls[rowStart[s] + k] * (best - reward)))
  }
  return regret
}

function expectedRewards(
  { rowStart, outcomeStart, outcomeProbability, outcomeReward }: Model,
  s: number,
): number[] {
  return Array.from({ length: rowStart[s + 1] - rowStart[s] }, (_, k) => {
    let sum = 0
    for (let o = outcomeStart[rowStart[s] + k]; o < outcomeStart[rowStart[s] + k + 1]; o++)
      sum += outcomeProbability[o] * outcomeReward[o]
    return sum
  })
}
