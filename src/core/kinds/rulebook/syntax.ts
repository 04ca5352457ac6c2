import type { Span } from './place'

export interface Name extends Span {
  readonly text: string
}

export type BinaryOperator =
  'or' | 'and' | '=' | '!=' | '<' | '<=' | '>' | '>=' | '+' | '-' | '*' | '/' | 'mod' | '^'

export type Expression = Span &
  (
    | { readonly type: 'number'; readonly value: number }
    | { readonly type: 'truth'; readonly value: boolean }
    | { readonly type: 'name'; readonly name: string }
    /** `next left`: what a variable will be. */
    | { readonly type: 'next'; readonly name: Name }
    | { readonly type: 'not' | 'minus'; readonly of: Expression }
    | {
        readonly type: 'binary'
        readonly operator: BinaryOperator
        readonly left: Expression
        readonly right: Expression
      }
    | {
        readonly type: 'if'
        readonly condition: Expression
        readonly then: Expression
        readonly otherwise: Expression
      }
    | { readonly type: 'call'; readonly callee: Name; readonly args: readonly Expression[] }
    | { readonly type: 'item'; readonly of: Expression; readonly index: Expression }
    /** `[1, 2]`, or with keys `[cellar: 1, attic: 2]` */
    | { readonly type: 'list'; readonly items: readonly Expression[]; readonly keys?: readonly Expression[] }
    /** `[e for i from a to b]`, `[e for x in list]`, `[e for x in list, y in list]`: side by side */
    | { readonly type: 'each'; readonly item: Expression; readonly walks: readonly Walk[] }
  )

/** What a name stands for, one after the other. */
export interface Walk {
  readonly name: Name
  readonly over:
    | { readonly type: 'range'; readonly from: Expression; readonly to: Expression }
    | { readonly type: 'list'; readonly list: Expression }
}

export interface Distribution extends Span {
  /** `table calls[part]`: a list of chances. Nothing else is given then. */
  readonly table?: Expression
  readonly callee: Name
  readonly args: readonly Expression[]
  /** `pick(value: chance, value: rest)`; a chance of null is the rest. */
  readonly cases: readonly { readonly value: Expression; readonly chance: Expression | null }[]
  readonly low?: Expression
  readonly high?: Expression
}

export type Domain =
  | { readonly type: 'range'; readonly from: Expression; readonly to: Expression }
  | {
      readonly type: 'buckets'
      readonly from: Expression
      readonly to: Expression
      readonly count: Expression
      readonly nearest: boolean
    }
  | { readonly type: 'set'; readonly items: readonly Expression[] }
  | { readonly type: 'truth' }

export type Levels =
  | { readonly type: 'set'; readonly items: readonly Expression[] }
  | {
      readonly type: 'range'
      readonly from: Expression
      readonly to: Expression
      readonly by?: Expression
      readonly count?: Expression
    }

/** One of the numbers or words that an action is made of: `van from 1 to 3`. */
export interface Part {
  readonly name: Name
  readonly levels: Levels
}

/** `van = 2` */
export interface Binding {
  readonly name: Name
  readonly value: Expression
}

export type Assignment = Binding | { readonly name: Name; readonly distribution: Distribution }

export type Treatment = 'forbidden' | 'clamped' | 'penalised'

/** A statement of a rulebook; see docs/rulebook.md for what each means. */
export type Rule = Span &
  (
    | {
        readonly type: 'knob'
        readonly name: Name
        readonly value: Expression
        readonly low: Expression
        readonly high: Expression
        readonly by?: Expression
      }
    | {
        readonly type: 'table'
        readonly name: Name
        readonly first?: Expression
        readonly items: readonly Expression[]
        /** For a table by words: as many as items. */
        readonly words?: readonly Name[]
      }
    | { readonly type: 'state'; readonly name: Name; readonly length?: Expression; readonly domain: Domain }
    | {
        readonly type: 'start'
        readonly assignments: readonly Assignment[]
        readonly weight?: Expression
        readonly scramble?: Expression
      }
    | {
        readonly type: 'action'
        readonly name: Name
        readonly levels?: Levels
        readonly parts: readonly Part[]
        readonly given: readonly Binding[]
        readonly when?: Expression
      }
    | {
        readonly type: 'chance'
        readonly name: Name
        readonly length?: Expression
        readonly distribution: Distribution
      }
    | {
        readonly type: 'let'
        readonly name: Name
        /** Of a function: `let cost(n) = …`. */
        readonly parameters?: readonly Name[]
        readonly value: Expression
      }
    | { readonly type: 'reward'; readonly value: Expression; readonly when?: Expression }
    /** What follows a step counts times this, besides the discount of the environment. */
    | { readonly type: 'discount'; readonly value: Expression; readonly when?: Expression }
    | {
        readonly type: 'next'
        readonly name: Name
        /** Of one item of a list: `next at[van] = …`. */
        readonly item?: Expression
        readonly value: Expression
        readonly when?: Expression
      }
    | {
        readonly type: 'end'
        /** `when`: the states that are endings; `after`: the steps that end. */
        readonly at: 'when' | 'after'
        readonly condition: Expression
        readonly reason?: string
      }
    | { readonly type: 'measure'; readonly name: Name; readonly value: Expression }
    | { readonly type: 'check'; readonly title: string; readonly condition: Expression }
    | {
        readonly type: 'policy'
        readonly title: string
        readonly choices: readonly {
          readonly action: Name
          readonly level?: Expression
          readonly parts: readonly Binding[]
          readonly when?: Expression
        }[]
      }
    | {
        readonly type: 'observe'
        readonly items: readonly { readonly value: Expression; readonly name?: Name }[]
      }
    /** Lists side by side whose items may be exchanged. */
    | { readonly type: 'same'; readonly names: readonly Name[] }
    | { readonly type: 'pass'; readonly condition: Expression; readonly discount?: Expression }
    | { readonly type: 'impossible'; readonly treatment: Treatment; readonly penalty?: Expression }
  )

export type RuleOf<T extends Rule['type']> = Extract<Rule, { type: T }>
/** What a reader finds out of a rule; where it stands is added afterwards. */
export type RuleBody<T extends Rule['type']> = Omit<RuleOf<T>, 'from' | 'to'>
