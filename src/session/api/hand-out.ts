import type { Lesson } from '../../core/lesson/lesson-document'
import { send } from './send'

/** A page that shows a lesson to students without any server. @throws ProblemError */
export async function handOutPage(lesson: Lesson): Promise<Blob> {
  return (await send('/api/hand-out', { method: 'POST', body: JSON.stringify(lesson) })).blob()
}
