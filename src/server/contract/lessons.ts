import type { Lesson } from '../../core/lesson/lesson-document'

/** A lesson as the shelf shows it. */
export interface LessonSummary {
  readonly id: string
  readonly name: string
  readonly views: number
  /** ISO 8601 */
  readonly updatedAt: string
}

/** A lesson as it is opened. */
export interface LessonRecord {
  readonly id: string
  readonly revision: number
  readonly lesson: Lesson
}
