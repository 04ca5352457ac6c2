import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../../server/db/database'
import { studentExercise } from '../../../../server/http/student'
import { StudentExercisePage } from '../../../../ui/student/StudentExercisePage'
import { pageCaller } from '../../../caller'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Exercise' }

export default async function Exercise({ params }: { params: Promise<{ assignment: string }> }) {
  const { student } = await pageCaller()
  const exercise = student && (await studentExercise(await database(), student, (await params).assignment))
  if (!exercise) notFound()
  return <StudentExercisePage first={exercise} />
}
