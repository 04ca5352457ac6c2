import { cache } from 'react'
import { database } from '../../../server/db/database'
import { getEnvironment } from '../../../server/repositories/environments'
import { getLesson } from '../../../server/repositories/lessons'
import type { EnvironmentDocument } from '../../../core/kinds/kinds'
import { ProblemError } from '../../../core/problem'

/** A lesson, and what its environments are now on the shelf; null where there is none. */
export const lessonOf = cache(async (id: string) => {
  const db = await database()
  const record = await getLesson(db, id)
  if (!record) return null
  const current: Record<string, EnvironmentDocument> = {}
  for (const { shelf } of Object.values(record.lesson.environments)) {
    if (shelf === null || Object.hasOwn(current, shelf)) continue
    try {
      const found = await getEnvironment(db, shelf)
      if (found) current[shelf] = found.document
    } catch (error) {
      // What cannot be read is shown as the lesson has it.
      if (!(error instanceof ProblemError)) throw error
    }
  }
  return { record, current }
})
