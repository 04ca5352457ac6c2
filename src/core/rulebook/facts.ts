import type { Model, RowPolicy } from '../model/model'
import type { Measure, StateSpace } from '../model/space'
import type { Problem } from '../problem'
import type { Span } from './place'
import type { Knob } from './program'
import type { Treatment } from './syntax'

/** A check of the rulebook: held in everything that can happen, or not in this case. */
export interface CheckResult {
  readonly title: string
  readonly span: Span
  /** Null when it holds. */
  readonly broken: {
    readonly state: string
    readonly action: string
    readonly chances: string
    /** The shortest way there from a start: the states passed, and the action taken in each. */
    readonly path: readonly { readonly state: string; readonly action: string }[]
  } | null
}

/** What a rulebook has besides its model. */
export interface RulebookFacts {
  readonly knobs: readonly Knob[]
  readonly treatment: Treatment
  /** How many values each variable has. */
  readonly sizes: readonly { readonly name: string; readonly size: number }[]
  readonly policies: readonly { readonly title: string; readonly policy: RowPolicy }[]
  readonly checks: readonly CheckResult[]
  /** What is no fault but should be known. */
  readonly notes: readonly Problem[]
}

export interface CompiledRulebook {
  readonly model: Model
  readonly space: StateSpace
  readonly measures: readonly Measure[]
  readonly facts: RulebookFacts
}
