import { num, say, type Working } from '../../../explain/working'
import { formatCount, formatNumber } from '../../../formats/number'
import { gaussian } from '../../../random/gaussian'
import { RandomStream } from '../../../random/generator'
import type { LearnSettings } from '../../../settings/settings'
import { Following } from '../../explore/following'
import { numbersOf, type KeptNumber } from '../../kept-number'
import type { LearnTable } from '../../learner'
import { TabularLearner } from '../../tabular-learner'
import type { World } from '../../world'
import { SoftmaxTable } from './softmax-table'

/**
 * What searches share that look at returns alone: a policy is made, plays some episodes, is judged by their mean return,
 * and the next one is made. The table holds the preferences of the current policy; what is played is the candidate.
 */
export abstract class CandidateSearch extends TabularLearner {
  readonly table: Float64Array
  /** Candidates judged so far. */
  judged = 0
  /** Episodes that the candidate at hand has played, and the sum of their returns. */
  played = 0
  total = 0
  /** The mean return of the candidate judged last; NaN before there was one. */
  lastMean = NaN
  protected readonly actor: Following
  /** The current policy of the search, and the one that plays. */
  protected readonly current: SoftmaxTable
  protected readonly candidate: SoftmaxTable
  protected readonly noise: RandomStream
  /** What a candidate's preference differs by from the one it was made from, in workings. */
  protected readonly noiseIs: string = 'radius × Gaussian noise'
  /** What became of the candidate judged last, in words. */
  protected abstract verdict(): string
  /** What to do with the mean return of the candidate; makes the next one. */
  protected abstract judge(mean: number): void
  /** Makes the first candidate. */
  protected abstract propose(): void

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, 1)
    this.current = new SoftmaxTable(world.tableStart, settings.temperature)
    this.candidate = new SoftmaxTable(world.tableStart, settings.temperature)
    this.table = this.current.preferences
    this.fillStart(this.table)
    this.noise = new RandomStream(settings.seed, 'method', settings.run)
    this.actor = new Following(world.tableStart, this.candidate.probability, this.exploration)
    this.current.refreshAll()
    this.candidate.preferences.set(this.table)
    this.candidate.refreshAll()
  }

  override policy(): Float64Array {
    return this.current.probability.slice()
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    return {
      preferences: { holds: 'preferences', numbers: this.table },
      'of the candidate': { holds: 'preferences', numbers: this.candidate.preferences },
    }
  }

  override stateValues(): null {
    return null
  }

  working(observation: number): Working | undefined {
    if (this.steps === 0) return undefined
    const { world, current, candidate, table } = this
    const { labels, actions } = world.model
    const rows = Array.from(
      { length: world.tableStart[observation + 1] - world.tableStart[observation] },
      (_, k) => world.tableStart[observation] + k,
    )
    const likeliest = rows.reduce(
      (best, r) => (current.probability[r] > current.probability[best] ? r : best),
      rows[0],
    )
    return {
      title: `${labels[world.someState(observation)]}, candidate ${formatCount(this.judged + 1)}`,
      formula: [say('candidate(a) ←'), say('preference(a)', 'old'), say('+'), say(this.noiseIs, 'rate')],
      lines: rows.map((r) => ({
        label: actions[world.tableAction[r]],
        strong: r === likeliest,
        parts: [
          num('next', candidate.preferences[r]),
          say('in the candidate, probability'),
          num('probability', candidate.probability[r]),
          say('; current preference'),
          num('result', table[r]),
        ],
      })),
      note: `${this.verdict()} The candidate has played ${this.played} of ${this.settings.trialsEach} episodes.`,
    }
  }

  protected override learn(): void {}

  protected override beginEpisode(): void {
    if (this.judged === 0 && this.played === 0) this.propose()
  }

  protected override endEpisode(): void {
    this.total += this.returned + this.power * this.last.reward
    if (++this.played < this.settings.trialsEach) return
    const mean = this.total / this.played
    this.played = 0
    this.total = 0
    this.judged++
    this.judge(mean)
    this.lastMean = mean
  }

  /** Makes the candidate: each preference of `from`, moved by `radius` times a normal number. */
  protected scatter(from: Float64Array, radius: number): void {
    const { preferences } = this.candidate
    for (let r = 0; r < preferences.length; r++) preferences[r] = from[r] + radius * gaussian(this.noise)
    this.candidate.refreshAll()
  }

  /** The search has another current policy from now on. */
  protected adopt(preferences: Float64Array): void {
    const { table } = this
    for (let r = 0; r < table.length; r++) {
      if (table[r] === preferences[r]) continue
      this.noteChange(r, table[r])
      table[r] = preferences[r]
    }
    this.current.refreshAll()
  }

  /** A mean return in words. */
  protected say(mean: number): string {
    return formatNumber(mean, 3)
  }

  protected override keptNumbers(): Record<string, KeptNumber> {
    return {
      ...super.keptNumbers(),
      ...numbersOf<CandidateSearch>(this, ['judged', 'played', 'total', 'lastMean']),
    }
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return { ...super.keptArrays(), candidate: this.candidate.preferences, noise: this.noise.words }
  }

  protected override tableChanged(): void {
    this.current.refreshAll()
    // A table that is given is where the first candidate is made from.
    if (this.steps === 0) this.candidate.preferences.set(this.table)
    this.candidate.refreshAll()
  }
}
