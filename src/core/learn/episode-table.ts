import { logarithm } from '../random/logarithm'
import type { Learner, UpdateNote } from './learner'

/** A step of an episode with what was learned from it. */
export interface EpisodeStep {
  readonly state: number
  readonly observation: number
  /** Table row of the action taken, and the action. */
  readonly row: number
  readonly action: number
  readonly reward: number
  /** What comes after counts times this. */
  readonly discount: number
  /** The discounted return from here to where the episode was left: reward + discount × that of the next step. */
  readonly gain: number
  /** With which probability the action was taken, and the logarithm of that. */
  readonly probability: number
  readonly logProbability: number
  /** With which probability the agent would take it when the episode is over. */
  readonly after: number
  /** What was learned from it; null where the method tells nothing of single steps. */
  readonly update: UpdateNote | null
}

/** An episode from its beginning, for people who want to follow every number. */
export interface EpisodeTable {
  /** From 1. */
  readonly episode: number
  /** Steps of the run before it. */
  readonly firstStep: number
  /** The first steps of it, and how many were left out. */
  readonly steps: readonly EpisodeStep[]
  readonly omitted: number
  /** How it was left; `no` while it goes on. */
  readonly ended: 'no' | 'ending' | 'cap'
  /** [tableRows], or over the rows of the model where it is sent to a page: the learned policy before the episode and now */
  readonly before: Float64Array
  readonly after: Float64Array
}

/** Steps that a table has at the most. */
export const EPISODE_STEPS = 1000

/**
 * Plays an episode, of which not a step was taken yet, and notes what is learned from each step.
 * @param learner  between two episodes; at `until` afterwards, or at the end of the episode
 * @param until  steps of the run at most
 */
export function explainEpisode(learner: Learner, until: number): EpisodeTable {
  const { world, log } = learner
  const firstStep = learner.steps
  const episode = log.count + 1
  const before = learner.policy()
  const notes: UpdateNote[] = []
  const played: Pick<
    EpisodeStep,
    'state' | 'observation' | 'row' | 'action' | 'reward' | 'discount' | 'probability'
  >[] = []
  let rest = 0
  learner.notes = notes
  try {
    while (learner.steps < until && log.count < episode) {
      // Where it will stand is not known before an episode has begun, but for worlds with a single start.
      const here =
        learner.state >= 0 ? learner.state : world.startState.length === 1 ? world.startState[0] : -1
      const probability = learner.behaviour(here < 0 ? undefined : world.observation[here])
      if (learner.advance(1) === 0) break
      const { state, row, reward } = learner.last
      if (row < 0) continue
      if (played.length >= EPISODE_STEPS) {
        rest++
        continue
      }
      played.push({
        state,
        observation: world.observation[state],
        row,
        action: world.tableAction[row],
        reward,
        discount: learner.settings.discount * world.carried,
        probability: probability[row],
      })
    }
  } finally {
    learner.notes = null
  }
  const after = learner.policy()
  const last = log.count === episode ? learner.last.ended : 'no'
  return {
    episode,
    firstStep,
    steps: withGains(played, notes, learner.behaviour()),
    omitted: rest,
    ended: last,
    before,
    after,
  }
}

/** Returns counted backwards, and the last update that each step led to. */
function withGains(
  played: readonly Omit<EpisodeStep, 'gain' | 'logProbability' | 'after' | 'update'>[],
  notes: readonly UpdateNote[],
  after: Float64Array,
): EpisodeStep[] {
  const updates = new Map(notes.map((note) => [note.time, note]))
  const steps = new Array<EpisodeStep>(played.length)
  let gain = 0
  for (let t = played.length - 1; t >= 0; t--) {
    const step = played[t]
    gain = step.reward + step.discount * gain
    steps[t] = {
      ...step,
      gain,
      logProbability: logarithm(step.probability),
      after: after[step.row],
      update: updates.get(t) ?? null,
    }
  }
  return steps
}
