import type { Accepted, Exercise } from '../../core/exercise/exercise'
import type { Score } from '../../core/exercise/score'
import type { Seen } from '../../core/exercise/seen'
import type { Walk } from '../../core/exercise/walk'
import type { Problem } from '../../core/problem'

/** A class, as lists show it. */
export interface ClassSummary {
  readonly id: string
  readonly name: string
  /** What students enter by; null once it is closed. */
  readonly code: string | null
  readonly students: number
  /** ISO 8601 */
  readonly createdAt: string
}

/** A class as its instructor sees it. */
export interface ClassRecord extends ClassSummary {
  readonly members: readonly StudentSummary[]
  readonly assignments: readonly AssignmentSummary[]
}

export interface StudentSummary {
  readonly id: string
  readonly name: string
  readonly alias: string
  readonly createdAt: string
  readonly putOut: boolean
}

/** An exercise on the shelf. */
export interface ExerciseSummary {
  readonly id: string
  readonly name: string
  readonly levels: number
  readonly updatedAt: string
}

export interface ExerciseRecord {
  readonly id: string
  readonly revision: number
  readonly exercise: Exercise
}

/** How an exercise is handed out. */
export interface AssignmentTerms {
  /** How often each student may hand in; null for any number. */
  readonly tries: number | null
  /** ISO 8601; null for no end. */
  readonly closesAt: string | null
  /** Whether standings show names that were made up. */
  readonly madeUpNames: boolean
}

export interface AssignmentSummary extends AssignmentTerms {
  readonly id: string
  readonly name: string
  readonly handIns: number
  readonly students: number
  /** Whether there is a hidden seed, and the scores on it were shown to the class. */
  readonly hidden: boolean
  readonly revealed: boolean
  /** Points for all that is possible. */
  readonly points: number
}

/** What became of a hand-in. */
export type HandInState = 'waiting' | 'playing' | 'scored' | 'refused' | 'abandoned' | 'late'

/** A hand-in as its student sees it: nothing of hidden seeds before they are revealed. */
export interface OwnHandIn {
  readonly id: string
  readonly at: string
  readonly state: HandInState
  readonly problems: readonly Problem[]
  readonly score: Score | null
  /** The worst episode of each level. */
  readonly walks: readonly Walk[]
  readonly hidden: Score | null
}

/** An exercise as students see it. */
export interface StudentExercise extends AssignmentTerms {
  readonly id: string
  readonly name: string
  readonly note: string
  readonly levels: readonly { readonly name: string; readonly points: number }[]
  readonly episodes: number
  readonly accepts: readonly Accepted[]
  readonly hidden: boolean
  readonly revealed: boolean
  /** Where an agent can be and what it can do; null where that is too much to list. */
  readonly seen: Seen | null
  readonly handIns: readonly OwnHandIn[]
  /** Tries that are left; null for any number. */
  readonly left: number | null
}

/** What a student's page shows. */
export interface StudentHome {
  readonly className: string
  readonly name: string
  readonly alias: string
  readonly exercises: readonly {
    readonly id: string
    readonly name: string
    readonly closesAt: string | null
    readonly best: number | null
    readonly of: number
  }[]
}

/** A line of the standings: the best hand-in of a student. */
export interface Standing {
  readonly rank: number
  readonly name: string
  readonly points: number
  /** Points by level. */
  readonly levels: readonly number[]
  readonly handIns: number
  /** Points on the hidden seed; null before they are revealed. */
  readonly hidden: number | null
  /** Whether it is the student who asks. */
  readonly own: boolean
}

export interface Standings {
  readonly name: string
  readonly className: string
  readonly levels: readonly { readonly name: string; readonly points: number }[]
  readonly revealed: boolean
  readonly waiting: number
  readonly standings: readonly Standing[]
}

/** Episodes that a student’s program plays, as the student watches them. */
export interface WatchedSession {
  readonly id: string
  readonly level: string
  /** Requests for steps so far, episodes altogether, and those that go on. */
  readonly steps: number
  readonly episodes: number
  readonly open: number
  /** What is seen in the first of those that go on, by the name of a state. */
  readonly at: readonly string[]
}
