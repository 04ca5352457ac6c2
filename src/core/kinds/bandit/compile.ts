import { finishModel, ROW_BUDGET } from '../../model/builder'
import type { Model } from '../../model/model'
import { ProblemError, refuse, type Problem } from '../../problem'
import { RandomStream } from '../../random/generator'
import { normalQuantile } from '../../random/normal'
import type { Bandit } from './document'
import { meanOf, prizesOf, shiftedBy, type PayOff } from './pay-off'

/** Outcomes a bandit may have in all: some hundred megabytes. */
const OUTCOME_BUDGET = 8_000_000

/** Which pull and context a state stands for. */
export interface BanditLayout {
  /** Whether every run meets arms of its own. */
  readonly drawnAnew: boolean
  readonly pulls: number
  /** At least one, which is nameless when there are no contexts. */
  readonly contexts: readonly string[]
  /** [states] the pull, from 1; 0 for the ending */
  readonly pullOfState: Int32Array
  /** [states] an index into `contexts`, -1 for the ending */
  readonly contextOfState: Int32Array
}

/**
 * What every arm pays at every pull: `[pull - 1][arm][context]`, pull by pull, made when asked for.
 * A walk and a switch shift what is written in the document; without drift all pulls are alike.
 */
export class PaySchedule {
  /** [pulls x arms], how far each mean has wandered */
  private readonly shift: Float64Array | null

  constructor(private readonly bandit: Bandit) {
    const { drift, pulls, arms } = bandit
    if (drift.type !== 'walk') {
      this.shift = null
      return
    }
    this.shift = new Float64Array(pulls * arms.length)
    const stream = new RandomStream(drift.seed, 'environment')
    for (let i = arms.length; i < this.shift.length; i++)
      this.shift[i] = this.shift[i - arms.length] + drift.step * normalQuantile(stream.uniform() + 2 ** -33)
  }

  /** @param pull from 1 */
  at(pull: number, arm: number, context: number): PayOff {
    const { drift, arms } = this.bandit
    if (drift.type === 'switch') {
      const turns = Math.floor((pull - 1) / drift.every) % arms.length
      return entry(arms[(arm - turns + arms.length) % arms.length].pays, context)
    }
    const pays = entry(arms[arm].pays, context)
    return this.shift ? shiftedBy(pays, this.shift[(pull - 1) * arms.length + arm]) : pays
  }
}

function entry(pays: readonly PayOff[], context: number): PayOff {
  return pays.length === 1 ? pays[0] : pays[context]
}

/**
 * Compiles a bandit. An episode is some pulls; a state is the number of the pull and the context, of which the agent
 * sees the context only. The pull's reward is drawn: an outcome for each reward, so that a row may lead to the same
 * state in several outcomes. Continuous pay-offs are 32 equally likely rewards with the same mean and deviation.
 *
 * @throws ProblemError for arms that do not fit the contexts, and for too many outcomes
 */
export function compileBandit(bandit: Bandit, cap: number): { model: Model; bandit: BanditLayout } {
  checkBandit(bandit)
  const { arms, pulls } = bandit
  const contexts = bandit.contexts.length ? bandit.contexts : [{ name: '', weight: 1 }]
  const width = contexts.length
  const steady = pulls * width
  const states = steady + 1
  const rows = steady * arms.length
  const schedule = new PaySchedule(bandit)
  const prizes = (pull: number, context: number, arm: number) => prizesOf(schedule.at(pull, arm, context))
  let widest = 1
  for (let c = 0; c < width; c++)
    for (let a = 0; a < arms.length; a++) widest = Math.max(widest, prizes(1, c, a).length)
  if (rows > ROW_BUDGET || rows * widest * width > OUTCOME_BUDGET)
    refuse(
      'bandit',
      `${pulls} pulls x ${width} contexts x ${arms.length} arms, each with up to ${widest} rewards and ${width} contexts to follow, are more outcomes than ${OUTCOME_BUDGET}.`,
      'Let an episode have fewer pulls.',
    )
  const total = contexts.reduce((sum, { weight }) => sum + weight, 0)
  const chances = contexts.map(({ weight }) => weight / total)
  const state: number[] = []
  const probability: number[] = []
  const reward: number[] = []
  const outcomeStart = new Int32Array(rows + 1)
  for (let s = 0, r = 0; s < steady; s++) {
    const pull = Math.floor(s / width) + 1
    const next =
      pull === pulls
        ? [{ to: steady, chance: 1 }]
        : chances.map((chance, c) => ({ to: pull * width + c, chance }))
    for (let a = 0; a < arms.length; a++, r++) {
      for (const prize of prizes(pull, s % width, a))
        for (const { to, chance } of next) {
          state.push(to)
          probability.push(prize.probability * chance)
          reward.push(prize.reward)
        }
      outcomeStart[r + 1] = state.length
    }
  }
  const contextOfState = Int32Array.from({ length: states }, (_, s) => (s < steady ? s % width : -1))
  const model = finishModel(
    {
      rowStart: Int32Array.from({ length: states + 1 }, (_, s) => Math.min(s, steady) * arms.length),
      rowAction: Int32Array.from({ length: rows }, (_, r) => r % arms.length),
      outcomeStart,
      outcomeState: Int32Array.from(state),
      outcomeProbability: Float64Array.from(probability),
      outcomeReward: Float64Array.from(reward),
    },
    {
      labels: stateLabels(
        pulls,
        contexts.map(({ name }) => name),
      ),
      actions: arms.map(({ name }) => name),
      cap,
      starts: chances.map((weight, c) => ({ state: c, weight })),
      observation: contextOfState.map((context) => (context < 0 ? width : context)),
    },
  )
  const pullOfState = Int32Array.from({ length: states }, (_, s) =>
    s < steady ? Math.floor(s / width) + 1 : 0,
  )
  return {
    model,
    bandit: {
      drawnAnew: (bandit.anew ?? 0) > 0,
      pulls,
      contexts: contexts.map(({ name }) => name),
      pullOfState,
      contextOfState,
    },
  }
}

function stateLabels(pulls: number, contexts: readonly string[]): string[] {
  const labels: string[] = []
  for (let pull = 1; pull <= pulls; pull++)
    for (const context of contexts)
      labels.push([pulls > 1 || !context ? `pull ${pull}` : '', context].filter(Boolean).join(', '))
  return [...labels, 'over']
}

/** @throws ProblemError for arms and pulls that do not fit together */
export function checkBandit(bandit: Bandit): void {
  const problems: Problem[] = []
  const contexts = Math.max(1, bandit.contexts.length)
  bandit.arms.forEach(({ name, pays }, i) => {
    if (pays.length !== 1 && pays.length !== contexts)
      problems.push({
        place: `bandit.arms[${i}].pays`,
        cause: `The arm “${name}” has ${pays.length} pay-offs where there ${contexts === 1 ? 'is 1 context' : `are ${contexts} contexts`}.`,
        remedy: 'Give it one for all contexts, or one for each.',
      })
  })
  if (bandit.contexts.some(({ name }) => name === 'over') && bandit.pulls === 1)
    problems.push({
      place: 'bandit.contexts',
      cause: 'The name “over” stands for the end of an episode.',
      remedy: 'Give the context another name.',
    })
  if (bandit.drift.type !== 'none' && bandit.pulls === 1)
    problems.push({
      place: 'bandit.pulls',
      cause: 'With one pull an episode, nothing can drift.',
      remedy: 'Let an episode have more pulls, or set the drift to none.',
    })
  if (problems.length) throw new ProblemError(problems.slice(0, 20))
}

/** The mean of every arm at a pull, in a context. */
export function armMeans(bandit: Bandit, pull: number, context: number): number[] {
  const schedule = new PaySchedule(bandit)
  return bandit.arms.map((_, arm) => meanOf(schedule.at(pull, arm, context)))
}
