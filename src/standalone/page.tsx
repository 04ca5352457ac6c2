import { createRoot } from 'react-dom/client'
import { startWorkersFrom } from '../hosts/browser/launcher'
import type { Lesson } from '../core/lesson/lesson-document'
import { HandOut } from '../ui/lesson/HandOut'

/** Shows the lesson of the page. `script` is this very program, for the page’s workers. */
export function showLesson(script: string): void {
  startWorkersFrom(URL.createObjectURL(new Blob([script], { type: 'text/javascript' })))
  // Checked when it was put here.
  const lesson = JSON.parse(document.getElementById('lesson')!.textContent!) as Lesson
  document.title = lesson.name
  createRoot(document.getElementById('page')!).render(<HandOut lesson={lesson} />)
}
