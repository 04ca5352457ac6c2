import type { Learner, LearnSnapshot, LearnStatus } from '../learn/learner'

/** How many bytes keyframes may take in all. */
const MEMORY = 48_000_000
/** Keyframes there may be at least, however large they are. */
const FEWEST = 8
/** Steps between keyframes at first. */
const DISTANCE = 256
/** Bytes of a keyframe for each step between two, at the most: copying should take less time than the steps do. */
const BYTES_A_STEP = 200

/**
 * A run that goes both ways in time, down to the single update. Keyframes are kept at even distances, which double when
 * memory runs short; any step in between is taken again from the keyframe before it, to the same bits.
 */
export class LearnRecording {
  /** The earliest step one can go back to. */
  readonly first: number
  /** Steps and finished episodes at the furthest moment there was, and the state of the run there. */
  reached: number
  episodes: number
  front: LearnStatus
  private keyframes = new Map<number, LearnSnapshot>()
  private distance = DISTANCE

  /** @param learner  where the run begins, or where it is taken up */
  constructor(
    readonly learner: Learner,
    private readonly memory = MEMORY,
  ) {
    this.first = this.reached = learner.steps
    this.episodes = learner.log.count
    this.front = learner.status
    const snapshot = learner.snapshot()
    this.keyframes.set(learner.steps, snapshot)
    while (this.distance * BYTES_A_STEP < bytesOf(snapshot)) this.distance *= 2
  }

  /** True when nothing is left to do from here. */
  get finished(): boolean {
    return this.learner.steps === this.reached && this.front.outcome !== 'learning'
  }

  /** How many keyframes there are; for tests of their bound. */
  get kept(): number {
    return this.keyframes.size
  }

  /** Takes up to `limit` steps, and none once so many episodes are finished; what was taken before is taken again. */
  forward(limit: number, episodes = Infinity): number {
    const { learner } = this
    let taken = 0
    while (taken < limit) {
      const toKeyframe = this.distance - (learner.steps % this.distance)
      const did = learner.advance(Math.min(limit - taken, toKeyframe), episodes)
      taken += did
      if (learner.steps > this.reached) {
        this.reached = learner.steps
        if (learner.steps % this.distance === 0) this.keep()
      }
      if (learner.steps === this.reached) {
        this.episodes = learner.log.count
        this.front = learner.status
      }
      if (did === 0 || learner.log.count >= episodes) break
    }
    return taken
  }

  /** To the moment when so many steps had been taken. */
  goTo(step: number): void {
    const { learner, first } = this
    const target = Math.max(first, Math.min(this.reached, Math.round(step)))
    if (target === learner.steps) return
    // At least one step is taken again, so that the learner knows what it changed.
    let from = Math.max(first, Math.floor((target - 1) / this.distance) * this.distance)
    while (!this.keyframes.has(from)) from = from - (from % this.distance || this.distance)
    if (target < learner.steps || from > learner.steps) learner.restore(this.keyframes.get(from)!)
    learner.advance(target - learner.steps)
  }

  /** To the end of an episode, by how many are finished then; as far as the run has come. */
  goToEpisode(finished: number): void {
    // The log still holds what came after the moment at hand.
    this.goTo(
      finished > this.episodes
        ? this.reached
        : this.learner.log.stepsAfter(Math.max(0, Math.round(finished))),
    )
  }

  private keep(): void {
    const { learner, keyframes } = this
    const snapshot = learner.snapshot()
    keyframes.set(learner.steps, snapshot)
    if (keyframes.size <= Math.max(FEWEST, this.memory / bytesOf(snapshot))) return
    this.distance *= 2
    for (const step of keyframes.keys())
      if (step !== this.first && step % this.distance !== 0) keyframes.delete(step)
  }
}

function bytesOf({ arrays }: LearnSnapshot): number {
  return Object.values(arrays).reduce((sum, array) => sum + array.byteLength, 400)
}
