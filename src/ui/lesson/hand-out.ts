import { fileName } from '../../core/formats/file-name'
import { lessonOfView } from '../../core/lesson/hand-out'
import type { Lesson } from '../../core/lesson/lesson-document'
import { handOutPage } from '../../session/api/hand-out'
import { takeScene } from '../../session/lesson/take-scene'
import { downloadBlob } from '../parts/download'
import type { StudyParts } from '../study/study-context'

/** Gives a lesson to the browser as a page that stands alone. @throws ProblemError */
export async function downloadPage(lesson: Lesson): Promise<void> {
  downloadBlob(fileName(lesson.name, '.html'), await handOutPage(lesson))
}

/** Gives what is on the screen to the browser as a page that stands alone. @throws ProblemError */
export function downloadView(parts: StudyParts): Promise<void> {
  return downloadPage(lessonOfView(parts.study.getState().document, takeScene(parts)))
}
