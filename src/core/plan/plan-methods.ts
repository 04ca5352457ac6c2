import type { Purpose } from '../purpose'
import { pseudoCode, type PseudoLine } from '../explain/pseudo-code'
import type { Model } from '../model/model'
import type { PlanSettingName } from './plan-settings'
import type { Planner } from './planner'

/** What can be set for some methods only. */
export type PlanOption = Exclude<PlanSettingName, 'tolerance'> | 'policy'

export interface PlanMethod {
  readonly title: string
  /** What a sweep does, in a sentence. */
  readonly idea: string
  readonly source: string
  /** Settings that belong to it besides discount and tolerance. */
  readonly settings: readonly PlanOption[]
  /** Whether it ends with the best policy, or with what a given one is worth. */
  readonly purpose: Purpose
  /** Whether each sweep is sure to bring every value closer by the factor of the discount. */
  readonly contracts: boolean
  /** Whether it goes from evaluating to improving and back. */
  readonly alternates?: boolean
  /** Whether a sweep is a step of time, with values and policy of its own. */
  readonly staged?: boolean
  /** Lines are lit by the phase of a sweep, or by `start`, `test` (between sweeps) and `end`. */
  readonly pseudo: readonly PseudoLine[]
}

const UNTIL = 'until discount / (1 − discount) × largest change ≤ tolerance @test'
const GREEDY = 'policy(s) ← the actions with the largest backup @end'

/** Every method of planning, once. */
export const PLAN_METHODS = {
  'value-iteration': {
    title: 'Value iteration',
    idea: 'In each sweep every state takes the value of its best action, computed from the values of the sweep before.',
    source: 'Bellman 1957; Sutton & Barto 2018, section 4.4',
    settings: [],
    purpose: 'control',
    contracts: true,
    pseudo: pseudoCode(`
V(s) ← 0 for every state @start
repeat
  for every state s
    V′(s) ← max over a of Σ p (r + discount × V(s′)) @optimise
  V ← V′
${UNTIL}
${GREEDY}`),
  },
  'value-iteration-in-place': {
    title: 'Value iteration in place',
    idea: 'As value iteration, but a backup uses what the sweep has computed already: the order of the states matters.',
    source: 'Sutton & Barto 2018, sections 4.1 and 4.4',
    settings: ['order'],
    purpose: 'control',
    contracts: true,
    pseudo: pseudoCode(`
V(s) ← 0 for every state @start
repeat
  for every state s, in the order chosen
    V(s) ← max over a of Σ p (r + discount × V(s′)) @optimise
${UNTIL}
${GREEDY}`),
  },
  'prioritised-value-iteration': {
    title: 'Prioritised value iteration',
    idea: 'Backs up whichever state may be furthest from its backup; as many backups as there are states count as a sweep.',
    source: 'Moore & Atkeson 1993',
    settings: [],
    purpose: 'control',
    contracts: false,
    pseudo: pseudoCode(`
V(s) ← 0, debt(s) ← ∞ for every state @start
repeat
  s ← the state with the largest debt
  V(s) ← max over a of Σ p (r + discount × V(s′)) @optimise
  debt(s) ← 0
  for every state that may lead to s
    debt ← debt + discount × largest p × change of V(s)
until largest debt / (1 − discount) ≤ tolerance @test
${GREEDY}`),
  },
  'action-value-iteration': {
    title: 'Action-value iteration',
    idea: 'Keeps a value for every action of every state, each computed from the best ones of the sweep before.',
    source: 'Sutton & Barto 2018, equation 4.2',
    settings: [],
    purpose: 'control',
    contracts: true,
    pseudo: pseudoCode(`
Q(s, a) ← 0 for every state and action @start
repeat
  for every state s and action a
    Q′(s, a) ← Σ p (r + discount × max over b of Q(s′, b)) @optimise
  Q ← Q′
${UNTIL}
policy(s) ← the actions with the largest Q(s, a) @end`),
  },
  'policy-iteration': {
    title: 'Policy iteration',
    idea: 'Evaluates the policy, then every state switches to the action that looks best, and so on until nothing changes.',
    source: 'Howard 1960; Sutton & Barto 2018, section 4.3',
    settings: ['policy', 'evaluation'],
    purpose: 'control',
    contracts: false,
    alternates: true,
    pseudo: pseudoCode(`
policy ← the one to begin with @start
repeat
  repeat, or solve V = r + discount × P V @solve
    for every state s
      V′(s) ← Σ policy(a) × Σ p (r + discount × V(s′)) @evaluate
  until V is the value of the policy @test
  for every state s
    policy(s) ← the actions with the largest backup @improve
until the policy did not change @end
where actions are a tie only nearly: best backups until V settles @optimise`),
  },
  'modified-policy-iteration': {
    title: 'Modified policy iteration',
    idea: 'As policy iteration, but with a few sweeps of evaluation only before the policy is improved again.',
    source: 'Puterman & Shin 1978',
    settings: ['policy', 'evaluations'],
    purpose: 'control',
    contracts: false,
    alternates: true,
    pseudo: pseudoCode(`
policy ← the one to begin with @start
repeat
  for so many sweeps, for every state s
    V′(s) ← Σ policy(a) × Σ p (r + discount × V(s′)) @evaluate
  for every state s
    policy(s), V′(s) ← the best backup @optimise
${UNTIL}
the policy is the last one @end`),
  },
  'modified-policy-iteration-in-place': {
    title: 'Modified policy iteration in place',
    idea: 'The quickest: backs up from the endings back, counts staying put at once, and follows each policy until it has mostly settled.',
    source: 'Puterman & Shin 1978; Puterman 1994, sections 6.3.3 and 6.5',
    settings: [],
    purpose: 'control',
    contracts: false,
    alternates: true,
    pseudo: pseudoCode(`
V(s) ← lowest reward / (1 − discount), for every state @start
repeat
  for every state s, from the endings back
    policy(s), V(s) ← the best backup @optimise
  repeat
    for every state s, from the endings back
      V(s) ← Σ p (r + discount × V(s′)), for policy(s) @evaluate
  until a sweep changes less than 0.3 of that
${UNTIL}
the policy is the last one @end`),
  },
  'backward-induction': {
    title: 'Backward induction (finite horizon)',
    idea: 'For episodes of a fixed number of steps: values and best actions with 1, 2, 3 … steps to go, each exact.',
    source: 'Puterman 1994, section 4.5',
    settings: ['horizon'],
    purpose: 'control',
    contracts: false,
    staged: true,
    pseudo: pseudoCode(`
V₀(s) ← 0 for every state: no step to go @start
for k = 1, 2, … up to the horizon @test
  for every state s
    Vₖ(s) ← max over a of Σ p (r + discount × Vₖ₋₁(s′)) @optimise
    policyₖ(s) ← the actions that reach it
done: Vₖ is exact for every k @end`),
  },
  'policy-evaluation': {
    title: 'Evaluate a policy',
    idea: 'In each sweep every state takes the mean of its actions’ backups, weighted by the policy: what the policy is worth.',
    source: 'Sutton & Barto 2018, section 4.1',
    settings: ['policy'],
    purpose: 'prediction',
    contracts: true,
    pseudo: pseudoCode(`
V(s) ← 0 for every state @start
repeat
  for every state s
    V′(s) ← Σ policy(a) × Σ p (r + discount × V(s′)) @evaluate
  V ← V′
${UNTIL}
V is the value of the policy @end`),
  },
  'policy-evaluation-in-place': {
    title: 'Evaluate a policy in place',
    idea: 'As evaluation, but a backup uses what the sweep has computed already: the order of the states matters.',
    source: 'Sutton & Barto 2018, section 4.1',
    settings: ['policy', 'order'],
    purpose: 'prediction',
    contracts: true,
    pseudo: pseudoCode(`
V(s) ← 0 for every state @start
repeat
  for every state s, in the order chosen
    V(s) ← Σ policy(a) × Σ p (r + discount × V(s′)) @evaluate
${UNTIL}
V is the value of the policy @end`),
  },
  'linear-solve': {
    title: 'Evaluate a policy by a linear solve',
    idea: 'Solves the equations of the policy’s values in one step: no sweeps, no waiting.',
    source: 'Sutton & Barto 2018, equation 4.4; Golub & Van Loan 2013, section 3.4',
    settings: ['policy'],
    purpose: 'prediction',
    contracts: false,
    pseudo: pseudoCode(`
r(s) ← expected reward of a step under the policy @start
P(s, s′) ← chance of going from s to s′ under the policy
solve V = r + discount × P V
V is the value of the policy @end`),
  },
} as const satisfies Readonly<Record<string, PlanMethod>>

export type PlanMethodId = keyof typeof PLAN_METHODS
export const PLAN_METHOD_IDS = Object.keys(PLAN_METHODS) as PlanMethodId[]

export function planMethod(id: PlanMethodId): PlanMethod {
  return PLAN_METHODS[id]
}

/** Whether a method has a use for a setting: all that work by sweeps for a tolerance. */
export function usesPlanSetting({ settings, staged = false }: PlanMethod, name: PlanSettingName): boolean {
  return name === 'tolerance' ? !staged : settings.includes(name)
}

/** From how many rows on the quickest method is the default; below, all are done before one looks up. */
const LARGE = 20_000

/** The method that is used where none was chosen (docs/methods.md says what was measured). */
export function defaultPlanMethod(model: Pick<Model, 'rows'>): PlanMethodId {
  return model.rows < LARGE ? 'value-iteration' : 'modified-policy-iteration-in-place'
}

/** Which line of a method's pseudo-code is at hand. */
export function pseudoPlace(planner: Planner, partWay: boolean): string {
  if (planner.sweeps === 0) return 'start'
  if (partWay) return planner.phase
  if (planner.status.outcome === 'converged') return 'end'
  return planner.phase === 'improve' || planner.phase === 'solve' ? planner.phase : 'test'
}
