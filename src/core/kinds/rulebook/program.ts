import type { Cut, DistributionKind } from './distributions'
import type { Fault, Span } from './place'
import type { Treatment } from './syntax'
import type { Scalar, Words } from './values'
import type { Variable } from './variables'

/** A number one may turn. */
export interface Knob extends Span {
  readonly name: string
  readonly value: number
  /** What the rulebook's text says it is. */
  readonly standard: number
  readonly low: number
  readonly high: number
  readonly step: number
}

/** Something to be computed into a slot of the frame. */
export interface Operation extends Span {
  readonly slot: number
  readonly value: Scalar
}

export interface ChanceStep extends Span {
  readonly name: string
  readonly slot: number
  readonly draw:
    | {
        readonly type: 'distribution'
        readonly kind: DistributionKind
        readonly parameters: readonly Scalar[]
        readonly cut: Cut
      }
    | {
        readonly type: 'pick'
        readonly values: readonly Scalar[]
        /** null for the rest */
        readonly chances: readonly (Scalar | null)[]
      }
  /** How a value is written, for messages. */
  write(value: number): string
}

/** What one part of an action is in a choice. */
export interface ChoicePart {
  /** Of the level the name of the action. */
  readonly name: string
  readonly slot: number
  /** A number, or the number of a word. */
  readonly value: number
  readonly isWord: boolean
  readonly text: string
}

/** One choice an agent has: an action, one level of it, or one combination of its parts. */
export interface Choice {
  readonly label: string
  /** Of the action: choices with the same group are levels, or combinations, of one. */
  readonly group: number
  readonly action: number
  /** [parts of the action] its level, where it has levels, and its parts as they were written */
  readonly parts: readonly ChoicePart[]
  /** Slots set while this choice is taken, those of its parts among them. */
  readonly given: readonly { readonly slot: number; readonly value: number }[]
  readonly when?: Scalar
}

export interface Guarded extends Span {
  readonly value: Scalar
  readonly when?: Scalar
}

export interface Titled extends Span {
  readonly title: string
  readonly value: Scalar
}

export interface PolicyRule extends Span {
  readonly title: string
  readonly choices: readonly {
    readonly group: number
    /** What it asks of the parts of the action, by their places; the others may be anything. */
    readonly wanted: readonly { readonly part: number; readonly value: Scalar }[]
    readonly when?: Scalar
  }[]
}

/** A start before it is spread over its distributions: a value or a draw for every dimension. */
export interface StartRule extends Span {
  readonly parts: readonly {
    readonly slot: number
    readonly values: readonly number[]
    readonly chances: readonly number[]
  }[]
  readonly weight: number
  readonly scramble: number
}

/** Lists whose items may be exchanged, all of them at once. */
export interface SameItems extends Span {
  readonly names: readonly string[]
  /** [items][lists] the dimensions that each item is made of */
  readonly items: readonly (readonly number[])[]
}

/** What a note is about, by a stable name. */
export type NoteRule =
  'policy' | 'nothing-changes' | 'never-possible' | 'never-ends' | 'chance-not-read' | 'start-ends'

/** A rulebook whose expressions are checked and turned into functions, with its knobs set. */
export interface Program {
  readonly knobs: readonly Knob[]
  readonly words: Words
  readonly frameSize: number
  readonly variables: readonly Variable[]
  readonly starts: readonly StartRule[]
  /** The slot that holds the action taken, and the word that stands there while a state passes by itself. */
  readonly actionSlot: number
  readonly passWord: number
  /** Slots that hold levels: not a number while another action is taken. */
  readonly levelSlots: readonly number[]
  readonly choices: readonly Choice[]
  readonly groups: readonly string[]
  /** [groups] */
  readonly groupSpans: readonly Span[]
  /** The first action line. */
  readonly actionSpan: Span
  /** Computed once a state. */
  readonly byState: readonly Operation[]
  /** Computed once an action at 0, after the k-th chance at k. */
  readonly operations: readonly (readonly Operation[])[]
  readonly rewards: readonly (readonly Guarded[])[]
  /** What follows a step counts times each of these. */
  readonly discounts: readonly Guarded[]
  readonly chances: readonly ChanceStep[]
  readonly endings: readonly { readonly condition: Scalar; readonly span: Span }[]
  /** Steps that end an episode, with the names of those endings. */
  readonly endsAfter: readonly Titled[]
  readonly measures: readonly Titled[]
  readonly checks: readonly Titled[]
  readonly policies: readonly PolicyRule[]
  readonly observe: readonly Scalar[] | null
  readonly observeSpan: Span | undefined
  readonly pass: {
    readonly condition: Scalar
    readonly discount: number
    /** Whether that is said in its line. */
    readonly discounted: boolean
    readonly span: Span
  } | null
  readonly same: readonly SameItems[]
  readonly treatment: Treatment
  readonly penalty: Scalar | null
  /** What should be known of the rules as they are written. */
  readonly notes: readonly (Fault & { readonly rule: NoteRule; readonly about?: readonly string[] })[]
  /** The slots that hold what each dimension will be have their rule here: dimension by dimension. */
  readonly nextSpans: readonly Span[]
}
