import { num, say, type Part, type Working, type WorkingLine } from '../../../explain/working'
import type { LearnSettings } from '../../../settings/settings'
import { Following } from '../../explore/following'
import type { Allocate } from '../../greedy-table'
import type { LearnTable } from '../../learner'
import { scheduleAt, rateOfVisit } from '../../schedule'
import { TabularLearner } from '../../tabular-learner'
import type { World } from '../../world'
import { Ascent } from './ascent'
import { LevelPolicy } from './level-policy'
import { SoftmaxTable } from './softmax-table'

/**
 * Fields of an update kept for each observation, so that it can be explained later. `worth` is what the action turned
 * out to be worth: a return, or what an actor-critic put in its place; what it is compared with stands in `baseline`.
 */
export const POLICY_SLOT = {
  row: 0,
  time: 1,
  worth: 2,
  weight: 3,
  episode: 4,
  rate: 5,
  baseline: 6,
  reward: 7,
  ahead: 8,
} as const
export const POLICY_SLOT_SIZE = 9

/** What is known of an update besides its observation and action. */
interface Judged {
  readonly time: number
  readonly worth: number
  readonly baseline: number
  readonly weight: number
}

/**
 * What learners of preferences share: a softmax over them that is followed, and steps along a gradient. An update adds
 * rate × weight × advantage × the gradient of the log-probability of the action taken, (1 if it is that action, else 0,
 * less its probability) / temperature; with an entropy bonus the gradient of the entropy comes on top.
 */
export abstract class PreferenceLearner extends TabularLearner {
  readonly table: Float64Array
  protected readonly actor: Following
  protected readonly softmax: SoftmaxTable
  protected readonly ascent: Ascent
  /** [observations] values learned beside the preferences: a critic, or a baseline; null where there are none */
  protected readonly critic: Float64Array | null
  protected readonly criticUpdates: Float64Array | null
  /** [tableRows] preferences and probabilities before the last update of their observation */
  protected readonly beforePreference: Float64Array
  protected readonly beforeProbability: Float64Array
  /** [tableRows] updates after which the row had been taken */
  protected readonly updates: Float64Array
  /** Nothing but the plain step stands between the gradient and the preferences. */
  protected readonly isPlain: boolean
  /** [tableRows] the gradient of the update at hand */
  protected readonly gradient: Float64Array
  /** What preferences are made from where a Gaussian over levels is learned; else null. */
  private readonly levels: LevelPolicy | null

  /** @param mayBeLevels  whether the method learns Gaussians over levels, where it is asked to */
  constructor(
    world: World,
    settings: LearnSettings,
    slotSize: number,
    hasCritic: boolean,
    mayBeLevels = false,
    allocate?: Allocate,
  ) {
    super(world, settings, slotSize, allocate)
    const { tableRows, tableStart, model } = world
    const { stepRule, normLimit, entropy } = settings
    this.softmax = new SoftmaxTable(tableStart, settings.temperature, this.allocate)
    this.table = this.softmax.preferences
    this.fillStart(this.table)
    this.beforePreference = this.allocate.floats(tableRows)
    this.beforeProbability = this.allocate.floats(tableRows)
    this.updates = this.allocate.floats(tableRows)
    this.ascent = new Ascent(stepRule, tableRows)
    this.critic = hasCritic ? this.allocate.floats(model.observations) : null
    this.criticUpdates = hasCritic ? this.allocate.floats(model.observations) : null
    this.isPlain = stepRule.kind === 'plain' && normLimit === 0 && entropy === 0
    this.gradient = new Float64Array(tableRows)
    this.actor = new Following(tableStart, this.softmax.probability, this.exploration)
    this.levels = mayBeLevels ? LevelPolicy.of(world, settings.shape) : null
    this.levels?.fillAll(this.table)
    this.softmax.refreshAll()
  }

  override begin(table: Float64Array): void {
    if (this.levels) {
      const like = new SoftmaxTable(this.world.tableStart, this.settings.temperature)
      like.preferences.set(this.table)
      table.forEach((value, cell) => {
        if (!Number.isNaN(value)) like.preferences[cell] = value
      })
      like.refreshAll()
      this.levels.fit(like.probability, this.visits)
    }
    super.begin(table)
  }

  override policy(): Float64Array {
    return this.softmax.probability.slice()
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    const { critic } = this
    return {
      preferences: { holds: 'preferences', numbers: this.table },
      ...(critic ? { values: { holds: 'values', numbers: critic } as const } : {}),
    }
  }

  override baseline(): Float64Array | null {
    return this.critic
  }

  /** Preferences say nothing of what a state is worth; a critic does, at this moment. */
  override stateValues(table = this.table): Float64Array | null {
    return this.critic && table === this.table ? this.world.perState(this.critic) : null
  }

  /** Whether later steps may count less. */
  protected readonly weighted: boolean = true
  /** The name of what an action turned out to be worth, in workings. */
  protected abstract readonly worthIs: string

  working(observation: number): Working | undefined {
    const at = observation * this.slotSize
    const row = this.slots[at + POLICY_SLOT.row]
    if (row < 0) return undefined
    const { world } = this
    const slot = (field: number) => this.slots[at + field]
    const levels = this.levels?.covers[observation] ? this.levels : null
    const lines: WorkingLine[] = levels ? this.levelLines(levels, observation) : []
    for (let r = world.tableStart[observation]; r < world.tableStart[observation + 1]; r++)
      lines.push({
        label: world.model.actions[world.tableAction[r]],
        strong: r === row,
        parts: this.lineOf(r, row, slot),
      })
    const { labels, actions } = world.model
    return {
      title: `${labels[world.someState(observation)]}, step ${slot(POLICY_SLOT.time) + 1} of episode ${slot(POLICY_SLOT.episode)}`,
      formula: levels ? levelFormula(this.worthIs) : this.formula(),
      lines,
      digits: 5,
      note: this.explanation(slot, actions[world.tableAction[row]]),
    }
  }

  /** What became of the mean and the spread, in levels. */
  private levelLines(levels: LevelPolicy, o: number): WorkingLine[] {
    const { mean, spread, used, beforeMean, beforeSpread } = levels
    const moved = (old: number, result: number) => [
      num('old', old),
      say('+'),
      num('rate', result - old),
      say('='),
      num('result', result),
    ]
    return [
      { label: 'mean', parts: moved(levels.levelAt(o, beforeMean[o]), levels.levelAt(o, mean[o])) },
      {
        label: 'spread',
        parts: [
          ...moved(levels.widthOf(o, beforeSpread[o]), levels.widthOf(o, spread[o])),
          say('; counts as'),
          num('plain', levels.widthOf(o, used[o])),
        ],
      },
    ]
  }

  /** The update of one action with its numbers. */
  protected lineOf(r: number, row: number, slot: (field: number) => number): Part[] {
    const { table, beforePreference, beforeProbability, settings } = this
    const end = this.outcomeParts(r)
    if (!this.isPlain || this.levels)
      return [
        num('old', beforePreference[r]),
        say('+'),
        num('rate', table[r] - beforePreference[r]),
        say('='),
        ...end,
      ]
    return [
      num('old', beforePreference[r]),
      say('+'),
      num('rate', slot(POLICY_SLOT.rate)),
      say('×'),
      ...(this.weighted ? [num('rate', slot(POLICY_SLOT.weight)), say('×')] : []),
      ...(this.slotSize > POLICY_SLOT.baseline
        ? [
            say('('),
            num('reward', slot(POLICY_SLOT.worth)),
            say('−'),
            num('old', slot(POLICY_SLOT.baseline)),
            say(')'),
          ]
        : [num('reward', slot(POLICY_SLOT.worth))]),
      say('× ('),
      num('plain', r === row ? 1 : 0),
      say('−'),
      num('probability', beforeProbability[r]),
      say(settings.temperature === 1 ? ') =' : `) / ${settings.temperature} =`),
      ...end,
    ]
  }

  protected formula(): Part[] {
    const compared = this.slotSize > POLICY_SLOT.baseline
    const { settings } = this
    return [
      say('preference(a) ←'),
      say('preference(a)', 'old'),
      say('+'),
      say('learning rate', 'rate'),
      say('×'),
      ...(this.weighted
        ? [say(settings.weighting === 'equal' ? 'weight 1' : 'discountᵗ', 'rate'), say('×')]
        : []),
      say(compared ? `(${this.worthIs} − baseline)` : this.worthIs, 'reward'),
      say('× (1 if a was taken −'),
      say('probability of a', 'probability'),
      say(settings.temperature === 1 ? ')' : ') / temperature'),
      ...(settings.entropy > 0 ? [say('+ entropy bonus')] : []),
    ]
  }

  /** Why the action became likelier or less likely. */
  private signOf(slot: (field: number) => number): string {
    const compared = this.slotSize > POLICY_SLOT.baseline
    const advantage = slot(POLICY_SLOT.worth) - (compared ? slot(POLICY_SLOT.baseline) : 0)
    const baseline = compared ? 'the baseline' : '0'
    if (advantage === 0) return `The ${this.worthIs} equals ${baseline}: nothing changes.`
    return advantage > 0
      ? `The ${this.worthIs} is above ${baseline}: it becomes more likely, the others less.`
      : `The ${this.worthIs} is below ${baseline}: it becomes less likely, the others more.`
  }

  /** The sentences below the numbers. */
  protected explanation(slot: (field: number) => number, taken: string): string {
    return `The agent took ${taken}. ${this.signOf(slot)}${this.noteOf(slot)}`
  }

  /** What the method has to say besides. */
  protected noteOf(_slot: (field: number) => number): string {
    return ''
  }

  /** The weight of the step at hand in the gradient of the value at the start. */
  protected weightOf(power: number): number {
    return this.settings.weighting === 'equal' ? 1 : power
  }

  /**
   * Moves the preferences of an observation so that the action taken becomes likelier the better it was.
   * @returns false when a number would have diverged; the run is over then
   */
  protected improve(
    observation: number,
    taken: number,
    { time, worth, baseline, weight }: Judged,
    advantage = worth - baseline,
  ): boolean {
    const { table, softmax, beforePreference, beforeProbability, slots, world, settings } = this
    const { probability } = softmax
    const start = world.tableStart[observation]
    const end = world.tableStart[observation + 1]
    const rate = this.rateAt(++this.updates[taken])
    if (this.levels?.covers[observation]) {
      this.fillGradient(observation, taken, weight * advantage, weight)
      if (!this.moveLevels(this.levels, start, end, rate, observation)) return false
    } else if (this.isPlain) {
      const step = (rate * weight * advantage) / settings.temperature
      if (!this.sound(table[taken] + step, observation)) return false
      for (let r = start; r < end; r++) {
        beforePreference[r] = table[r]
        beforeProbability[r] = probability[r]
        this.noteChange(r, table[r])
        table[r] += step * ((r === taken ? 1 : 0) - probability[r])
      }
    } else {
      this.fillGradient(observation, taken, weight * advantage, weight)
      if (!this.climb(start, end, rate, observation)) return false
    }
    const at = observation * this.slotSize
    slots[at + POLICY_SLOT.row] = taken
    slots[at + POLICY_SLOT.time] = time
    slots[at + POLICY_SLOT.worth] = worth
    slots[at + POLICY_SLOT.weight] = weight
    slots[at + POLICY_SLOT.episode] = this.log.count + 1
    slots[at + POLICY_SLOT.rate] = rate
    if (this.slotSize > POLICY_SLOT.baseline) slots[at + POLICY_SLOT.baseline] = baseline
    this.notes?.push({ time, observation, row: taken, worth, baseline, advantage, weight, rate })
    softmax.refresh(observation)
    return true
  }

  /** Takes a step along `gradient` of preferences that are made from a mean and a spread. */
  private moveLevels(
    levels: LevelPolicy,
    start: number,
    end: number,
    rate: number,
    observation: number,
  ): boolean {
    const { gradient, ascent, table } = this
    levels.toParameters(observation, gradient)
    shorten(gradient, start, start + 2, this.settings.normLimit)
    const byMean = ascent.step(start, gradient[start], rate)
    const byLogSpread = ascent.step(start + 1, gradient[start + 1], rate)
    if (!this.sound(byMean, observation) || !this.sound(byLogSpread, observation)) return false
    this.noteRows(start, end)
    levels.move(observation, byMean, byLogSpread, this.visits)
    levels.fill(observation, table)
    return true
  }

  /** Remembers preferences and probabilities before they are written. */
  private noteRows(start: number, end: number): void {
    const { table, beforePreference, beforeProbability, softmax } = this
    for (let r = start; r < end; r++) {
      beforePreference[r] = table[r]
      beforeProbability[r] = softmax.probability[r]
      this.noteChange(r, table[r])
    }
  }

  /** The gradient of size × log-probability of the action taken + weight × entropy bonus × entropy, for the rows at hand. */
  protected fillGradient(observation: number, taken: number, size: number, weight: number): void {
    const { softmax, gradient, settings, world } = this
    const { probability } = softmax
    const { temperature, entropy } = settings
    const bonus = weight * entropy
    const now = bonus > 0 ? softmax.entropy(observation) : 0
    for (let r = world.tableStart[observation]; r < world.tableStart[observation + 1]; r++) {
      gradient[r] = (size * ((r === taken ? 1 : 0) - probability[r])) / temperature
      if (bonus > 0)
        gradient[r] -= (bonus * probability[r] * (softmax.logProbability(observation, r) + now)) / temperature
    }
  }

  /** Takes a step along `gradient` of the rows from `start` to `end`, no longer than the settings allow. */
  protected climb(start: number, end: number, rate: number, observation: number): boolean {
    const { table, gradient, ascent } = this
    shorten(gradient, start, end, this.settings.normLimit)
    for (let r = start; r < end; r++) {
      gradient[r] = table[r] + ascent.step(r, gradient[r], rate)
      if (!this.sound(gradient[r], observation)) return false
    }
    this.noteRows(start, end)
    for (let r = start; r < end; r++) table[r] = gradient[r]
    return true
  }

  /** What the settings compare with at an observation. @param mean  of what was seen before */
  protected baselineAt(observation: number, mean: number): number {
    const { baseline } = this.settings
    switch (baseline.kind) {
      case 'none':
        return 0
      case 'constant':
        return baseline.value
      case 'mean':
        return mean
      case 'learned':
        return this.critic![observation]
    }
  }

  /** [observations] the same for all of them; null without a baseline */
  protected baselines(meanOf: (observation: number) => number): Float64Array | null {
    return this.settings.baseline.kind === 'none'
      ? null
      : Float64Array.from({ length: this.world.model.observations }, (_, o) => this.baselineAt(o, meanOf(o)))
  }

  /** How a line of a working ends: what stands in the table now, and how likely the action is. */
  protected outcomeParts(r: number): Part[] {
    return [
      num('result', this.table[r]),
      say('; probability now'),
      num('probability', this.softmax.probability[r]),
    ]
  }

  /** The critic's learning rate at the last update of an observation. */
  protected criticRateAt(observation: number): number {
    const { criticRate } = this.settings
    return criticRate.kind === 'visits'
      ? rateOfVisit(criticRate, Math.max(1, this.criticUpdates![observation]))
      : scheduleAt(criticRate, this.countFor(criticRate))
  }

  /** Moves the value of an observation towards a target. @returns false when it would have diverged */
  protected criticise(observation: number, target: number): boolean {
    const critic = this.critic!
    this.criticUpdates![observation]++
    const value = critic[observation] + this.criticRateAt(observation) * (target - critic[observation])
    if (!this.sound(value, observation)) return false
    critic[observation] = value
    return true
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    const { beforePreference, beforeProbability, updates, critic, criticUpdates } = this
    return {
      ...super.keptArrays(),
      beforePreference,
      beforeProbability,
      updates,
      ...(critic ? { critic, criticUpdates: criticUpdates! } : {}),
      ...this.ascent.kept(),
      ...this.levels?.kept(),
    }
  }

  protected override tableChanged(): void {
    this.levels?.fillAll(this.table)
    this.softmax.refreshAll()
  }
}

function levelFormula(worth: string): Part[] {
  return [
    say('mean ←'),
    say('mean', 'old'),
    say('+'),
    say('learning rate', 'rate'),
    say('× weight × ('),
    say(worth, 'reward'),
    say('− baseline) × (level taken − expected level), in parts of the range'),
  ]
}

/** Shortens a vector to a length, if it is longer; 0 is no limit. */
export function shorten(vector: Float64Array, start: number, end: number, limit: number): void {
  if (limit === 0) return
  let squares = 0
  for (let r = start; r < end; r++) squares += vector[r] * vector[r]
  const norm = Math.sqrt(squares)
  if (norm > limit) for (let r = start; r < end; r++) vector[r] *= limit / norm
}
