import { createLearner } from '../learn/methods/learners'
import type { Learner } from '../learn/learner'
import { largestReturn } from '../learn/tabular-learner'
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
  /** The first number of the table that was larger than any return, in size; null where none was. */
  readonly beyond: (FirstTime & { readonly cell: number }) | null
  /** The largest number of the table, in size, about every eighth of the episodes. */
  readonly peaks: readonly { readonly episode: number; readonly value: number }[]
  /** Whether every step was watched; a very long run is watched only at first. */
  readonly whole: boolean
}

/** Steps that are watched one by one; the rest of a longer run is played in one go. */
const WATCHED = 3_000_000
/** The part of the episodes whose updates count as the last ones. */
const LAST = 0.5
/** Times in a run at which the size of its table is noted. */
const PEAKS = 8
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
  const settings = settingsOf(choice, () => null)
  const learner = createLearner(choice.method, world, settings)
  const limit = largestReturn(settings, world.rewardLimit)
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
    beyond: null as RunEvidence['beyond'],
  }
  const peaks: { episode: number; value: number }[] = []
  const when = (): FirstTime => ({
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
      evidence.firstGoal ??= when()
    }
    const late = log.count >= LAST * episodes && learner.table.length === cells
    for (let i = 0; i < Math.min(changed.count, changed.cells.length); i++) {
      const cell = changed.cells[i]
      const now = learner.table[cell]
      if (!evidence.beyond && Math.abs(now) > limit) evidence.beyond = { ...when(), cell }
      if (!late) continue
      changes[cell]++
      squares[cell] += (now - changed.before[i]) ** 2
    }
    if (log.count > before && log.count >= ((peaks.length + 1) * episodes) / PEAKS)
      peaks.push({
        episode: log.count,
        value: learner.table.reduce((most, each) => Math.max(most, Math.abs(each)), 0),
      })
    if (!evidence.halfway && log.count >= episodes / 2) evidence.halfway = learner.policy()
  }
  const whole = log.count >= episodes || learner.status.outcome !== 'learning'
  while (log.count < episodes && learner.advance(CHUNK, episodes) > 0);
  const taken = [...counts.values()]
  const steps = taken.reduce((sum, each) => sum + each, 0)
  return {
    learner,
    ...evidence,
    peaks,
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
