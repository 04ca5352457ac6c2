import type { Model } from '../model/model'
import { PolicyEvaluation, PolicyIteration } from './policy-iteration'
import type { Planner, PlanSettings } from './planner'
import { InPlaceValueIteration, ValueIteration } from './value-iteration'

export interface PlanMethod {
  readonly title: string
  /** What a sweep does, in a sentence. */
  readonly idea: string
  readonly source: string
  /** Settings that belong to it besides discount and tolerance. */
  readonly settings: readonly ('order' | 'evaluations')[]
  create(model: Model, settings: PlanSettings): Planner
}

/** Every method of planning, once. */
export const PLAN_METHODS = {
  'value-iteration': {
    title: 'Value iteration',
    idea: 'In each sweep every state takes the value of its best action, computed from the values of the sweep before.',
    source: 'Bellman 1957; Sutton & Barto 2018, section 4.4',
    settings: [],
    create: (model, settings) => new ValueIteration(model, settings),
  },
  'value-iteration-in-place': {
    title: 'Value iteration in place',
    idea: 'As value iteration, but a backup uses what the sweep has computed already: the order of the states matters.',
    source: 'Sutton & Barto 2018, sections 4.1 and 4.4',
    settings: ['order'],
    create: (model, settings) => new InPlaceValueIteration(model, settings),
  },
  'policy-iteration': {
    title: 'Policy iteration',
    idea: 'Sweeps work out what the policy is worth, then every state changes to what looks best, and so on until nothing changes.',
    source: 'Howard 1960; Sutton & Barto 2018, section 4.3',
    settings: [],
    create: (model, settings) => new PolicyIteration(model, settings),
  },
  'modified-policy-iteration': {
    title: 'Modified policy iteration',
    idea: 'As policy iteration, but with a few sweeps of evaluation only before the policy is improved again.',
    source: 'Puterman & Shin 1978',
    settings: ['evaluations'],
    create: (model, settings) => new PolicyIteration(model, settings, settings.evaluations),
  },
  'policy-evaluation': {
    title: 'Evaluate: all actions equally often',
    idea: 'In each sweep every state takes the mean of its actions’ backups: the value of acting at random, not the best one.',
    source: 'Sutton & Barto 2018, section 4.1',
    settings: [],
    create: (model, settings) => new PolicyEvaluation(model, settings),
  },
} as const satisfies Readonly<Record<string, PlanMethod>>

export type PlanMethodId = keyof typeof PLAN_METHODS
export const PLAN_METHOD_IDS = Object.keys(PLAN_METHODS) as PlanMethodId[]

export function planMethod(id: PlanMethodId): PlanMethod {
  return PLAN_METHODS[id]
}
