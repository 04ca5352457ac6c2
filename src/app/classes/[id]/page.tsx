import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../server/db/database'
import { classRecord } from '../../../server/http/classes'
import { listExercises } from '../../../server/repositories/exercises'
import { ClassPage } from '../../../ui/class/ClassPage'
import { entryOf } from './entry'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Class' }

export default async function Class({ params }: { params: Promise<{ id: string }> }) {
  const db = await database()
  const record = await classRecord(db, (await params).id)
  if (!record) notFound()
  const entry = record.code === null ? null : await entryOf(record.code)
  return <ClassPage record={record} exercises={await listExercises(db)} entry={entry} />
}
