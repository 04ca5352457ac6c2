import type { World } from '../learn/world'
import { RandomStream } from '../random/generator'

/** Which episodes somebody plays, and how. */
export interface PlayedSettings {
  readonly seed: number
  /** The number of the first one, and how many. */
  readonly first: number
  readonly episodes: number
  /** Steps after which an episode is cut off. */
  readonly cap: number
  readonly discount: number
}

/** How an episode stands after a step. */
export const OPEN = 0
/** It ended by itself. */
export const ENDED = 1
/** The step limit cut it off. */
export const CUT_OFF = 2

/** What a step of every open episode came to. */
export interface PlayedStep {
  /** By open episode, in their order: */
  readonly observations: readonly number[]
  readonly rewards: readonly number[]
  /** OPEN, ENDED or CUT_OFF. */
  readonly states: readonly number[]
}

/**
 * Episodes that somebody else chooses the actions of, all at once: chance is that of `playTrials` with the same seed, so that
 * a policy that is played here meets what it meets there.
 */
export class PlayedEpisodes {
  /** Places of the episodes that go on, in their order, from 0. */
  open: number[]
  /** [episodes] */
  readonly returns: Float64Array
  readonly lengths: Int32Array
  readonly outcomes: Uint8Array
  private readonly at: Int32Array
  private readonly factor: Float64Array
  private readonly streams: readonly RandomStream[]

  constructor(
    private readonly world: World,
    private readonly settings: PlayedSettings,
  ) {
    const { episodes, first, seed } = settings
    this.streams = Array.from(
      { length: episodes },
      (_, k) => new RandomStream(seed, 'environment', first + k),
    )
    this.at = Int32Array.from(this.streams, (stream) => world.begin(stream))
    this.returns = new Float64Array(episodes)
    this.lengths = new Int32Array(episodes)
    this.outcomes = new Uint8Array(episodes)
    this.factor = new Float64Array(episodes).fill(1)
    this.open = Array.from(this.streams.keys())
  }

  /** What is seen in each open episode. */
  observations(): number[] {
    return this.open.map((k) => this.world.observation[this.at[k]])
  }

  /** The state that an episode is in: not for those who play. */
  stateOf(episode: number): number {
    return this.at[episode]
  }

  /**
   * Takes an action in every open episode.
   * @param actions  by open episode, an index into the model’s actions
   * @throws RangeError where there are not as many; the place of an action that is not possible as its cause
   */
  step(actions: readonly number[]): PlayedStep {
    const { open, world } = this
    const { rowStart, rowAction } = world.model
    if (actions.length !== open.length)
      throw new RangeError(`There are ${actions.length} actions for ${open.length} open episodes.`)
    // Nothing happens in any of them where one action is not possible.
    const choices = actions.map((action, i) => {
      const state = this.at[open[i]]
      for (let row = rowStart[state]; row < rowStart[state + 1]; row++)
        if (rowAction[row] === action) return row - rowStart[state]
      throw new RangeError(`The action ${String(action)} is not possible there.`, { cause: i })
    })
    const observations: number[] = []
    const rewards: number[] = []
    const states: number[] = []
    const next: number[] = []
    for (let i = 0; i < open.length; i++) {
      const k = open[i]
      world.step(this.at[k], choices[i], this.streams[k])
      this.at[k] = world.next
      this.returns[k] += this.factor[k] * world.reward
      this.factor[k] *= this.settings.discount * world.carried
      this.lengths[k]++
      const state = world.ending[world.next] ? ENDED : this.lengths[k] >= this.settings.cap ? CUT_OFF : OPEN
      this.outcomes[k] = state
      if (state === OPEN) next.push(k)
      observations.push(world.observation[world.next])
      rewards.push(world.reward)
      states.push(state)
    }
    this.open = next
    return { observations, rewards, states }
  }
}
