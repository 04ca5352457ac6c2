import type { EnvironmentDocument } from '../kinds/kinds'
import { addView } from './lesson'
import { newLesson, type Lesson } from './lesson-document'
import type { Scene } from './scene'

/** A lesson as students get it: without what is said to the speaker alone. */
export function handedOut(lesson: Lesson): Lesson {
  return { ...lesson, views: lesson.views.map((view) => ({ ...view, notes: '' })) }
}

/** One view of an environment, to be handed out by itself. */
export function lessonOfView(document: EnvironmentDocument, scene: Scene): Lesson {
  const words = { title: document.name, text: '', notes: '' }
  return addView(newLesson(document.name), words, scene, { shelf: null, document })
}
