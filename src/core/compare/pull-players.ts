import { PlainPlayer } from './plain-player'
import type { PullPlayer, PullTask } from './pull-task'
import { fastPlayer } from './wasm/fast-pulls'

/** The kernel where it knows the agent, else the learner itself; both give the same bits. */
export function createPullPlayer(task: PullTask): PullPlayer {
  return fastPlayer(task) ?? new PlainPlayer(task)
}
