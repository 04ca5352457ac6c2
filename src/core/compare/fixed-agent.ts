import { EpisodeLog } from '../learn/episode-log'
import type { LastStep, Learner } from '../learn/learner'
import type { World } from '../learn/world'
import type { RowPolicy } from '../model/model'
import { RandomStream } from '../random/generator'
import type { LearnChoice } from '../settings/choice'

/** What is asked of an agent whose runs are recorded, whether it learns or not. */
export type Player = Pick<
  Learner,
  'world' | 'log' | 'last' | 'steps' | 'level' | 'rate' | 'status' | 'advance' | 'policy'
>

/**
 * Follows a policy through a run and learns nothing. What the world does is drawn from the stream that an agent who
 * learns would meet: common random numbers, as far as both act alike.
 */
export class FixedAgent implements Player {
  readonly log: EpisodeLog
  readonly last: LastStep = { state: 0, row: -1, reward: 0, next: 0, explored: false, ended: 'no' }
  readonly level = 0
  readonly rate = 0
  steps = 0
  private readonly environment: RandomStream
  private readonly choices: RandomStream
  private state = -1
  private age = 0
  private returned = 0
  private power = 1

  /** @param rows  [rows] the policy it follows */
  constructor(
    readonly world: World,
    readonly rows: RowPolicy,
    private readonly settings: Pick<LearnChoice, 'seed' | 'episodes' | 'cap' | 'discount' | 'stop'>,
    run: number,
  ) {
    this.log = new EpisodeLog(settings.episodes)
    this.environment = new RandomStream(settings.seed, 'environment', run)
    this.choices = new RandomStream(settings.seed, 'exploration', run)
  }

  get status(): Learner['status'] {
    const { stop, episodes } = this.settings
    if (this.log.count >= episodes) return { outcome: 'done' }
    return stop.kind === 'steps' && this.steps >= stop.count
      ? { outcome: 'stopped', reason: `It took ${stop.count} steps.` }
      : { outcome: 'learning' }
  }

  /** [tableRows] of states that look alike, as the first of them */
  policy(): Float64Array {
    return this.world.toTableRows(this.rows)
  }

  advance(limit: number, episodes = Infinity): number {
    let taken = 0
    while (taken < limit && this.log.count < episodes && this.status.outcome === 'learning') {
      this.step()
      taken++
    }
    return taken
  }

  private step(): void {
    const { world, rows, last, settings } = this
    if (this.state < 0) {
      this.state = world.begin(this.environment)
      this.age = 0
      this.returned = 0
      this.power = 1
    }
    const { state } = this
    const first = world.rowStart[state]
    const end = world.rowStart[state + 1] - 1
    let row = first
    for (let left = this.choices.uniform(); row < end && left >= rows[row]; row++) left -= rows[row]
    world.step(state, row - first, this.environment)
    this.steps++
    this.age++
    this.returned += this.power * world.reward
    this.power *= settings.discount * world.carried
    const ended = world.ending[world.next] === 1
    const cut = !ended && this.age >= settings.cap
    last.state = state
    last.row = row - first + world.tableStart[world.observation[state]]
    last.reward = world.reward
    last.next = world.next
    last.ended = ended ? 'ending' : cut ? 'cap' : 'no'
    this.state = ended || cut ? -1 : world.next
    if (ended || cut) this.log.add(this.returned, this.age, cut)
  }
}
