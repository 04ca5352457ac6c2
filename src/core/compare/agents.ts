import { formatNumber, significantNumber } from '../formats/number'
import { prizesOf } from '../kinds/bandit/pay-off'
import { EXPLORATIONS } from '../learn/explore/explorations'
import { learnMethod } from '../learn/methods/methods'
import { constant, scheduleInBrief, type Schedule } from '../learn/schedule'
import type { LearnChoice } from '../settings/choice'
import { settingsInBrief } from '../settings/settings-in-brief'
import type { BanditDocument } from './pull-task'
import { variable, VARIABLE_IDS, type VariableId } from './variables'

/** An agent among those that are compared. */
export interface Agent {
  /** A number that no other one of the list has. */
  readonly id: number
  readonly choice: LearnChoice
  /** What a study of its settings varies. */
  readonly varied: VariableId
}

/** What tells an agent from others, in a few words. @param without  a setting whose value is left out, as it varies */
export function agentName(choice: LearnChoice, without?: VariableId): string {
  const { method, exploration, learningRate, start } = choice
  const { title, settings } = learnMethod(method)
  const rate = without === 'rate' ? [] : [`rate ${scheduleInBrief(learningRate)}`]
  const initial =
    without === 'start' || start.kind !== 'constant' || start.value === 0
      ? []
      : [`initial ${formatNumber(start.value)}`]
  if (method === 'gradient-bandit') {
    const { baseline, temperature } = choice
    const compared = baseline.kind === 'constant' ? formatNumber(baseline.value) : baseline.kind
    return [
      'gradient',
      ...rate,
      baseline.kind === 'none' ? 'no baseline' : `baseline ${compared}`,
      ...(temperature === 1 ? [] : [`temperature ${significantNumber(temperature)}`]),
      ...initial,
    ].join(', ')
  }
  if (!settings.includes('exploration')) return `${title} (${settingsInBrief(choice)})`
  return [
    ...(method === 'bandit-values' ? [] : [title]),
    without === 'level' ? EXPLORATIONS[exploration.way].title : actingName(exploration),
    ...(isMean(learningRate) ? [] : rate),
    ...initial,
  ].join(', ')
}

function actingName({ way, level }: LearnChoice['exploration']): string {
  const { title, brief } = EXPLORATIONS[way]
  if (way !== 'epsilon-greedy') return `${brief} ${scheduleInBrief(level)}`
  return level.kind === 'constant' && level.from === 0 ? 'greedy' : `${title} ${scheduleInBrief(level)}`
}

function isMean(rate: Schedule): boolean {
  return rate.kind === 'visits' && rate.from === 1 && rate.slowness === 1
}

/** The agents that every course begins with, as they suit the arms. @param base  of all that they leave open */
export function usualAgents({ bandit }: BanditDocument, base: LearnChoice): Agent[] {
  const pays = bandit.arms.flatMap((arm) => arm.pays)
  const isBernoulli = pays.every(({ type }) => type === 'bernoulli')
  const deviations = pays.map((pay) => {
    const prizes = prizesOf(pay)
    const mean = prizes.reduce((sum, { reward, probability }) => sum + probability * reward, 0)
    return Math.sqrt(
      prizes.reduce((sum, { reward, probability }) => sum + probability * (reward - mean) ** 2, 0),
    )
  })
  const deviation = Number(Math.max(...deviations).toPrecision(2)) || 1
  const largest = Math.max(...pays.flatMap((pay) => prizesOf(pay).map(({ reward }) => reward)))
  // Better than anything an arm may pay, drawn anew or not.
  const optimistic = Math.max(1, Math.ceil(largest + 2 * (isBernoulli ? 0 : (bandit.anew ?? 0))))
  const values = { method: 'bandit-values', learningRate: { kind: 'visits', from: 1, slowness: 1 } } as const
  const acting = (way: LearnChoice['exploration']['way'], level: number) => ({
    ...values,
    exploration: { way, level: constant(level) },
  })
  const agents: [Partial<LearnChoice>, VariableId][] = [
    [acting('epsilon-greedy', 0.1), 'level'],
    [acting('epsilon-greedy', 0.01), 'level'],
    [
      {
        ...acting('epsilon-greedy', 0),
        learningRate: constant(0.1),
        start: { kind: 'constant', value: optimistic },
      },
      'start',
    ],
    [acting('ucb1', 1), 'level'],
    [
      {
        method: 'gradient-bandit',
        learningRate: constant(0.1),
        baseline: { kind: 'mean' },
      },
      'rate',
    ],
    [isBernoulli ? acting('posterior-bernoulli', 1) : acting('posterior-gaussian', deviation), 'level'],
  ]
  return agents.map(([choice, varied], id) => ({
    id,
    choice: { ...base, start: { kind: 'zero' }, temperature: 1, ...choice },
    varied,
  }))
}

/** The variable that says most about an agent. */
export function usualVariable(choice: LearnChoice): VariableId {
  return VARIABLE_IDS.find((id) => variable(id).has(choice)) ?? 'level'
}
