import type { EnvironmentDocument } from '../kinds/kinds'
import { refuse } from '../problem'
import { addView } from './lesson'
import { newLesson, type Lesson } from './lesson-document'
import type { Scene } from './scene'

/**
 * A lesson as students get it: without what is said to the speaker alone.
 * @throws ProblemError for a lesson without views
 */
export function handedOut(lesson: Lesson): Lesson {
  if (!lesson.views.length) refuse('views', 'The lesson has no views yet.', 'Add one, then hand it out.')
  return { ...lesson, views: lesson.views.map((view) => ({ ...view, notes: '' })) }
}

/** One view of an environment, to be handed out by itself. */
export function lessonOfView(document: EnvironmentDocument, scene: Scene): Lesson {
  const words = { title: document.name, text: '', notes: '' }
  return addView(newLesson(document.name), words, scene, { shelf: null, document })
}

/** Where in the page that stands alone the lesson is put. */
const PLACE = '<!--lesson-->'

/**
 * The page that stands alone with a lesson in it.
 * @param page  without one, as it was bundled
 */
export function pageWith(page: string, given: Lesson): string {
  // As a part of a page, where "<" could end the script that it stands in.
  const json = JSON.stringify(given).replaceAll('<', '\\u003c')
  const [before, after] = page.split(PLACE)
  return `${before}${json}${after}`
}
