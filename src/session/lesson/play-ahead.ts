import { documentOfView } from '../../core/lesson/lesson'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { LessonView } from '../../core/lesson/lesson-document'
import { openSandbox, sandboxOf } from './sandbox'

/** Plays the runs of a view that compares, before it is shown: they are kept in this browser. @returns stops */
export function playAhead(
  lesson: string,
  { scene, environment }: LessonView,
  document: EnvironmentDocument,
): () => void {
  if (!scene.compare) return () => {}
  const now = documentOfView(scene, document).document
  const { compare } = openSandbox(sandboxOf(lesson, environment), now, scene)
  let stopped = false
  void compare.open('1').then(() => {
    if (!stopped) void compare.start(now)
  })
  return () => {
    stopped = true
    compare.stop()
  }
}
