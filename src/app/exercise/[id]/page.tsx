import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../server/db/database'
import { documentWorkers } from '../../../server/document-workers'
import { getExercise } from '../../../server/repositories/exercises'
import { ExercisePage } from '../../../ui/class/ExercisePage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Exercise' }

export default async function Exercise({ params }: { params: Promise<{ id: string }> }) {
  const record = await getExercise(await database(), (await params).id)
  if (!record) notFound()
  const policies = await documentWorkers().urgent.do('policies', {
    exercise: JSON.stringify(record.exercise),
  })
  return <ExercisePage key={record.id} record={record} policies={policies} />
}
