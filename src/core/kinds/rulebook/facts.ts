import type { WrittenPolicy } from '../kind'
import type { Model } from '../../model/model'
import type { Measure, StateSpace } from '../../model/space'
import type { Problem, StoryStep } from '../../problem'
import type { Span } from './place'
import type { Knob, NoteRule } from './program'
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
    /** The shortest way there from a start: the states passed, the action taken in each and what fell. */
    readonly path: readonly StoryStep[]
  } | null
}

/** What should be known of a rulebook though it is no fault. */
export type RuleNote = Problem & {
  readonly rule: NoteRule
  /** The actions or chances that it is about, by their names. */
  readonly about?: readonly string[]
}

/** What a rulebook has besides its model. */
export interface RulebookFacts {
  readonly knobs: readonly Knob[]
  readonly treatment: Treatment
  /** [actions] the parts of each, its level first: none of an action that is one name */
  readonly actionParts: readonly (readonly { readonly name: string; readonly text: string }[])[]
  /** How many values each variable has. */
  readonly sizes: readonly { readonly name: string; readonly size: number }[]
  /** How many states there would be at most if items that may be exchanged were told apart; null where there are none. */
  readonly unordered: number | null
  readonly checks: readonly CheckResult[]
  /** The discount of a step that passes by itself, 1 for none; null where no state passes. */
  readonly passing: number | null
  /** Whether steps have discounts of their own, besides that of the environment. */
  readonly discounts: boolean
  /** What is no fault but should be known. */
  readonly notes: readonly RuleNote[]
}

export interface CompiledRulebook {
  readonly model: Model
  readonly space: StateSpace
  readonly measures: readonly Measure[]
  readonly policies: readonly WrittenPolicy[]
  readonly facts: RulebookFacts
}
