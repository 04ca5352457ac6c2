import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../../../server/db/database'
import { getAssignment } from '../../../../../server/repositories/assignments'
import { getClass } from '../../../../../server/repositories/classes'
import { StandingsPage } from '../../../../../ui/class/StandingsPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Standings' }

export default async function Standings({ params }: { params: Promise<{ id: string; assignment: string }> }) {
  const { id, assignment } = await params
  const db = await database()
  const [found, given] = await Promise.all([getClass(db, id), getAssignment(db, id, assignment)])
  if (!found || !given) notFound()
  return (
    <StandingsPage classId={id} className={found.name} assignment={assignment} name={given.exercise.name} />
  )
}
