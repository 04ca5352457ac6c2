import { LearningRuns, type LearningTask } from './learning-runs'

/** Outcomes of all models together that are kept at hand: about 100 MB. */
const MOST_OUTCOMES = 2_000_000

/**
 * Contestants whose models are at hand, those that were asked for last: work goes from one to the other all the time, and
 * making a model and its optimum may take longer than a run. Large ones are not kept for all.
 */
export class PlayerShelf {
  private readonly players = new Map<string, LearningRuns>()

  /**
   * @param key  the same for the same task
   * @throws ProblemError for a document that does not compile, or that has no such policy
   */
  get(key: string, task: LearningTask): LearningRuns {
    const player = this.players.get(key) ?? new LearningRuns(task)
    // What was asked for last is at the end.
    this.players.delete(key)
    this.players.set(key, player)
    let outcomes = 0
    for (const [each, { size }] of [...this.players].reverse()) {
      outcomes += size
      if (outcomes > MOST_OUTCOMES && each !== key) this.players.delete(each)
    }
    return player
  }
}
