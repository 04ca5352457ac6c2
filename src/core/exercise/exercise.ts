import type { Followed } from '../compare/followed'
import { turnKnob } from '../environment/knobs'
import type { EnvironmentDocument } from '../kinds/kinds'
import type { HandInKind } from './hand-in'

export const EXERCISE_FORMAT = 'jaunty-pawn/exercise'
export const EXERCISE_VERSION = 1

/** A degree of difficulty. */
export interface Level {
  readonly name: string
  /** By name, what its knobs are turned to; the others stand as in the environment. */
  readonly knobs: Readonly<Record<string, number>>
  /** Points for all that is possible; a policy no better than a random agent gets none. */
  readonly points: number
}

/** What students are told of the environment: of each, what stands before it as well. */
export const SHOWS = {
  /** What the states and actions are called. */
  names: 'the names of states and actions',
  /** A picture of its floor. */
  board: 'the board, with states and actions',
  /** What it says of itself as text: its map or its rules. */
  rules: 'the board and the whole text: map or rules',
} as const

export type Shows = keyof typeof SHOWS

/** What an exercise may take: a file that is handed in, or a program that plays. */
export type Accepted = HandInKind | 'program'

/** A task for a class. */
export interface Exercise {
  readonly format: typeof EXERCISE_FORMAT
  readonly version: typeof EXERCISE_VERSION
  readonly name: string
  /** The task, as students read it. */
  readonly note: string
  readonly environment: EnvironmentDocument
  /** At least one; no two of a name. */
  readonly levels: readonly Level[]
  /** Episodes that are played on each level. */
  readonly episodes: number
  readonly seeds: {
    /** What students see their score on. */
    readonly open: number
    /** What the score counts on in the end; null where that is the open one. */
    readonly hidden: number | null
  }
  /** What may be handed in. */
  readonly accepts: readonly Accepted[]
  readonly shows: Shows
  /** A policy of the instructor, to compare with; null for none. */
  readonly reference: Followed | null
}

/** The environment of a level. @throws ProblemError for a knob that is not there, or does not go so far */
export function environmentOf({ environment }: Exercise, { knobs }: Level): EnvironmentDocument {
  return Object.entries(knobs).reduce(
    (document, [name, value]) => turnKnob(document, name, value),
    environment,
  )
}

/** The seeds that a hand-in is played with: the open one, and the hidden one where there is one. */
export function scoreSeeds({ seeds: { open, hidden } }: Exercise): number[] {
  return hidden === null ? [open] : [open, hidden]
}
