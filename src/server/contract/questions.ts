import type { Covered } from '../../core/lesson/covered'
import type { Scene } from '../../core/lesson/scene'

/** What a class is asked. */
export type Question = { readonly text: string } & (
  | { readonly kind: 'number' }
  /** One of a few, by its place. */
  | { readonly kind: 'choice'; readonly choices: readonly string[] }
  /** An action that is a direction, or stands on a dial: answered with a needle. */
  | { readonly kind: 'needle'; readonly choices: readonly string[] }
)

/** What is true: the number, or the place of a choice; and how it is worked out, in words. */
export interface Truth {
  readonly value: number
  readonly working: string
}

export type QuestionState = 'open' | 'closed' | 'revealed'

/** Answers without who gave them. */
export interface Spread {
  /** Of numbers: all of them, sorted; of choices: how many of each. */
  readonly values: readonly number[]
  readonly answers: number
}

/** A question as the instructor sees it. */
export interface AskedQuestion {
  readonly id: string
  readonly question: Question
  readonly state: QuestionState
  readonly truth: Truth | null
  readonly spread: Spread
}

/** A question as students see it: what others answered, and what is true, once it is revealed. */
export interface StudentQuestion {
  readonly id: string
  readonly question: Question
  readonly state: QuestionState
  readonly revealed: { readonly truth: Truth | null; readonly spread: Spread } | null
}

/** What is on the instructor’s screen. */
export interface Shown {
  readonly title: string
  /** What is said of it; empty for nothing. */
  readonly text: string
  readonly scene: Scene
  /** What of it is covered. */
  readonly covers: readonly Covered[]
}

/** What students follow. */
export interface Following extends Shown {
  /** Names the environment: the same as long as it is the same. */
  readonly document: string
}

/** What goes on in a class, as all of it are told. */
export interface ClassNow {
  /** Counts up with every change. */
  readonly version: number
  readonly question: StudentQuestion | null
  readonly following: Following | null
}
