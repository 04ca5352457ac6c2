import { createRoot } from 'react-dom/client'
import { startWorkersFrom } from '../hosts/browser/launcher'
import type { Lesson } from '../core/lesson/lesson-document'
import { HandOut } from '../ui/lesson/HandOut'

declare global {
  interface Window {
    /** The script of all workers, as the page unpacked it. */
    handOutWorkers: string
  }
}

startWorkersFrom(URL.createObjectURL(new Blob([window.handOutWorkers], { type: 'text/javascript' })))

// Checked when it was put here.
const lesson = JSON.parse(document.getElementById('lesson')!.textContent!) as Lesson
document.title = lesson.name
createRoot(document.getElementById('page')!).render(<HandOut lesson={lesson} />)
