import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { sameButKnobs } from '../../core/lesson/lesson'
import type { Lesson, LessonEnvironment } from '../../core/lesson/lesson-document'

/** What an environment of a lesson is now on the shelf, by its number there; of those that are there. */
export type CurrentDocuments = Readonly<Record<string, EnvironmentDocument>>

export interface Standing {
  readonly now: EnvironmentDocument
  /** Whether it has changed there since a view was made of it. */
  readonly changed: boolean
  readonly missing: boolean
}

/** How an environment of a lesson stands to the one on the shelf. */
export function standingOf({ shelf, document }: LessonEnvironment, current: CurrentDocuments): Standing {
  const found = shelf === null ? undefined : current[shelf]
  return found
    ? { now: found, changed: !sameButKnobs(found, document), missing: false }
    : { now: document, changed: false, missing: true }
}

/** With its environments as they are now on the shelf, as a presentation shows them. */
export function asShown(lesson: Lesson, current: CurrentDocuments): Lesson {
  const environments = Object.entries(lesson.environments).map(([key, each]) => [
    key,
    { shelf: null, document: standingOf(each, current).now },
  ])
  return { ...lesson, environments: Object.fromEntries(environments) }
}
