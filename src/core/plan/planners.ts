import type { Model } from '../model/model'
import { ActionValueIteration } from './action-value-iteration'
import { FastPolicyIteration } from './fast-iteration'
import { LinearEvaluation, PolicyEvaluation, PolicyIteration } from './policy-iteration'
import { PrioritisedValueIteration } from './prioritised'
import { BackwardInduction, InPlaceValueIteration, ValueIteration } from './value-iteration'
import type { PlanMethodId } from './plan-methods'
import type { Planner } from './planner'
import type { PlanSettings } from './plan-settings'

/** What plans by each method: apart from their descriptions, as pages describe methods and workers run them. */
const PLANNERS: { readonly [Id in PlanMethodId]: (model: Model, settings: PlanSettings) => Planner } = {
  'value-iteration': (model, settings) => new ValueIteration(model, settings),
  'value-iteration-in-place': (model, settings) => new InPlaceValueIteration(model, settings),
  'prioritised-value-iteration': (model, settings) => new PrioritisedValueIteration(model, settings),
  'action-value-iteration': (model, settings) => new ActionValueIteration(model, settings),
  'policy-iteration': (model, settings) => new PolicyIteration(model, settings),
  'modified-policy-iteration': (model, settings) =>
    new PolicyIteration(model, settings, settings.evaluations),
  'modified-policy-iteration-in-place': (model, settings) => new FastPolicyIteration(model, settings),
  'backward-induction': (model, settings) => new BackwardInduction(model, settings),
  'policy-evaluation': (model, settings) => new PolicyEvaluation(model, settings),
  'policy-evaluation-in-place': (model, settings) => new PolicyEvaluation(model, settings, true),
  'linear-solve': (model, settings) => new LinearEvaluation(model, settings),
}

/** A planner of a method, before its first sweep. */
export function createPlanner(method: PlanMethodId, model: Model, settings: PlanSettings): Planner {
  return PLANNERS[method](model, settings)
}
