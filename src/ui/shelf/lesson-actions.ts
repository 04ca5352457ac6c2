// Loaded when something is done with lessons.
import { newLesson } from '../../core/lesson/lesson-document'
import { takeFromBin } from '../../session/api/bin'
import { serverLessons } from '../../session/api/lessons'

/** @returns the number of a new lesson */
export async function makeLesson(): Promise<string> {
  return (await serverLessons.create(newLesson('New lesson'))).id
}

/** @returns what brings it back */
export async function removeLesson(id: string): Promise<() => Promise<void>> {
  await serverLessons.remove(id)
  return () => takeFromBin('lesson', id)
}

/** Takes the text of a file for a lesson where it says that it is one. @returns its number; null for others */
export async function importLesson(text: string): Promise<string | null> {
  if (!/^[^]{0,200}"format"\s*:\s*"jaunty-pawn\/lesson"/.test(text)) return null
  const { parseLesson } = await import('../../core/lesson/read-lesson')
  return (await serverLessons.create(parseLesson(text))).id
}
