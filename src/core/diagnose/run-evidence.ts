import { createLearner } from '../learn/methods/learners'
import type { Learner } from '../learn/learner'
import type { World } from '../learn/world'
import type { Model } from '../model/model'
import { settingsOf, type LearnChoice } from '../settings/choice'

/** When something was first seen in a run. */
export interface FirstTime {
  /** Both from 1. */
  readonly episode: number
  readonly step: number
}

/** What is known of a run by having watched it. */
export interface RunEvidence {
  /** At its end. */
  readonly learner: Learner
  /** Steps into what the agent is after, see `goalSteps`; the first of them. */
  readonly goals: number
  readonly firstGoal: FirstTime | null
  /** Of the first episode: the share of its steps that took the action taken most, and whether the step limit cut it off. */
  readonly sameAction: number
  readonly firstCutOff: boolean
  /** [table cells] of the second half of the episodes: changes, and their squares, summed */
  readonly changes: Float64Array
  readonly squares: Float64Array
  /** [tableRows] the learned policy when half of the episodes were over; null where they never were */
  readonly halfway: Float64Array | null
  /** Whether every step was watched; a very long run is watched only at first. */
  readonly whole: boolean
}

/** Steps that are watched one by one; the rest of a longer run is played in one go. */
const WATCHED = 3_000_000
/** The part of the episodes whose updates count as the last ones. */
const LAST = 0.5
/** Steps between looks at whether a run is over. */
const CHUNK = 1_000_000

/**
 * Plays a run once more, and watches it.
 * @param goal  [outcomes] see `goalSteps`
 * @param episodes  that are played; all when left out
 */
export function watchRun(
  world: World,
  choice: LearnChoice,
  goal: Uint8Array | null,
  episodes = choice.episodes,
): RunEvidence {
  const learner = createLearner(
    choice.method,
    world,
    settingsOf(choice, () => null),
  )
  const { log, last, changes: changed } = learner
  const isGoal = goalOfStep(world.model, goal)
  const cells = learner.table.length
  const changes = new Float64Array(cells)
  const squares = new Float64Array(cells)
  const counts = new Map<number, number>()
  const evidence = {
    goals: 0,
    firstGoal: null as FirstTime | null,
    halfway: null as Float64Array | null,
  }
  const now = (): FirstTime => ({
    episode: Math.max(1, last.ended === 'no' ? log.count + 1 : log.count),
    step: learner.steps,
  })
  for (let watched = 0; watched < WATCHED && log.count < episodes; watched++) {
    const before = log.count
    if (learner.advance(1) === 0) break
    if (last.row < 0) continue
    if (before === 0)
      counts.set(world.tableAction[last.row], (counts.get(world.tableAction[last.row]) ?? 0) + 1)
    if (last.ended === 'ending' && isGoal(last.next, last.reward)) {
      evidence.goals++
      evidence.firstGoal ??= now()
    }
    if (log.count >= LAST * episodes && learner.table.length === cells)
      for (let i = 0; i < Math.min(changed.count, changed.cells.length); i++) {
        const cell = changed.cells[i]
        const by = learner.table[cell] - changed.before[i]
        changes[cell]++
        squares[cell] += by * by
      }
    if (!evidence.halfway && log.count >= episodes / 2) evidence.halfway = learner.policy()
  }
  const whole = log.count >= episodes || learner.status.outcome !== 'learning'
  while (log.count < episodes && learner.advance(CHUNK, episodes) > 0);
  const taken = [...counts.values()]
  const steps = taken.reduce((sum, each) => sum + each, 0)
  return {
    learner,
    ...evidence,
    sameAction: steps ? Math.max(...taken) / steps : 0,
    firstCutOff: log.count > 0 && log.lengths[0] < 0,
    changes,
    squares,
    whole,
  }
}

/** Whether a step into an ending with this reward is one of the goal: which outcome it was is not known to an agent. */
function goalOfStep({ outcomes, outcomeState, outcomeReward }: Model, goal: Uint8Array | null) {
  const known = new Set<string>()
  if (goal)
    for (let o = 0; o < outcomes; o++) if (goal[o]) known.add(`${outcomeState[o]} ${outcomeReward[o]}`)
  return (next: number, reward: number) => known.has(`${next} ${reward}`)
}
