import { createLearner } from '../learn/methods/learners'
import { settingsOf, type LearnChoice } from '../settings/choice'
import { exactEpisodes } from '../evaluate/exact-episodes'
import type { Change, Tried, Yardstick } from './finding'
import type { Problems } from './problem'

/** Steps that are spent on trying changes, altogether, and on a run of its own. */
const BUDGET = 60_000_000
/** Runs with which a change is tried, that of the run in question first. */
const SEEDS = 3
const CHUNK = 1_000_000

/** What runs with some settings come to. */
interface Outcome {
  readonly policy: number
  readonly behaviour: number
}

/** Tries changes: the same runs with something changed, and what they are worth then, exactly. */
export class Trials {
  private spent = 0
  private readonly known = new Map<string, Outcome[] | null>()

  /**
   * @param episodes  that runs are played for, unless a change says otherwise
   * @param steps     of the run in question
   */
  constructor(
    private readonly problems: Problems,
    private readonly choice: LearnChoice,
    private readonly episodes: number,
    private readonly steps: number,
  ) {}

  /**
   * @param of        what is measured
   * @param discount  by which that is measured
   * @returns null where there is not enough time
   */
  try(change: Change, of: Yardstick, discount: number): Tried | null {
    // A change may make a run longer, or an episode.
    const longer = (change.choice.episodes ?? this.episodes) / this.episodes
    const slower = Math.max(1, (change.choice.cap ?? this.choice.cap) / this.choice.cap)
    const runs = Math.min(
      SEEDS,
      Math.floor((BUDGET - this.spent) / Math.max(1, this.steps * longer * slower)),
    )
    // Of all seeds also where there is time for few of the change: the run in question may have been bad luck.
    const before = this.outcomes({}, discount, SEEDS)
    const after = runs < 1 ? null : this.outcomes(change.choice, discount, runs)
    return before && after
      ? {
          runs,
          of,
          before: meanOf(before.map((each) => each[of])),
          after: meanOf(after.map((each) => each[of])),
        }
      : null
  }

  private outcomes(changed: Partial<LearnChoice>, discount: number, runs: number): Outcome[] | null {
    const key = JSON.stringify([changed, discount, runs])
    if (!this.known.has(key))
      this.known.set(
        key,
        SEEDS * this.steps > BUDGET
          ? null
          : Array.from({ length: runs }, (_, i) => this.outcome(changed, discount, this.choice.run + i)),
      )
    return this.known.get(key)!
  }

  private outcome(changed: Partial<LearnChoice>, discount: number, run: number): Outcome {
    const { world } = this.problems.of(run)
    const choice = { ...this.choice, ...changed, run }
    const learner = createLearner(
      choice.method,
      world,
      settingsOf(choice, () => null),
      'results',
    )
    while (learner.advance(CHUNK, changed.episodes ?? this.episodes) > 0);
    this.spent += learner.steps
    const worth = (policy: Float64Array) =>
      exactEpisodes(world.model, world.toModelRows(policy), discount, choice.cap).value
    return { policy: worth(learner.policy()), behaviour: worth(learner.behaviour()) }
  }
}

function meanOf(numbers: readonly number[]): number {
  return numbers.reduce((sum, each) => sum + each, 0) / numbers.length
}
