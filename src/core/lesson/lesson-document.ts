import type { EnvironmentDocument } from '../kinds/kinds'
import type { Scene } from './scene'

export const LESSON_FORMAT = 'jaunty-pawn/lesson'
export const LESSON_VERSION = 1

/** An environment as it was when a view of it was added. */
export interface LessonEnvironment {
  /** Its number on the shelf that the lesson is kept on; null where it never stood there. */
  readonly shelf: string | null
  readonly document: EnvironmentDocument
}

/** One view of a lesson: something on the screen, and what is said of it. */
export interface LessonView {
  /** A name that no other view of the lesson has. */
  readonly id: string
  readonly title: string
  /** Markdown without HTML, formulas between dollars, numbers by name: see `named-numbers.ts`. */
  readonly text: string
  /** For the speaker alone. */
  readonly notes: string
  /** The key of its environment. */
  readonly environment: string
  readonly scene: Scene
  /** Whether it is shown with the timeline, and with the side column. */
  readonly timeline: boolean
  readonly column: boolean
}

/** A prepared sequence of views. */
export interface Lesson {
  readonly format: typeof LESSON_FORMAT
  readonly version: typeof LESSON_VERSION
  readonly name: string
  /** A sentence that says what it is about. */
  readonly note: string
  readonly environments: Readonly<Record<string, LessonEnvironment>>
  readonly views: readonly LessonView[]
}

export function newLesson(name: string): Lesson {
  return {
    format: LESSON_FORMAT,
    version: LESSON_VERSION,
    name,
    note: '',
    environments: {},
    views: [],
  }
}
