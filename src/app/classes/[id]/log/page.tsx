import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../../server/db/database'
import { auditOf } from '../../../../server/repositories/audit'
import { getClass, membersOf } from '../../../../server/repositories/classes'
import { ClassLogPage } from '../../../../ui/class/ClassLogPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Change log' }

export default async function ClassLog({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const db = await database()
  const found = await getClass(db, id)
  if (!found) notFound()
  const [lines, members] = await Promise.all([auditOf(db, id), membersOf(db, id)])
  const names = new Map(members.map((member) => [member.id, member.name]))
  return (
    <ClassLogPage
      id={id}
      name={found.name}
      lines={lines.map(({ at, who, what }) => ({
        at: at.toISOString(),
        who: who === 'owner' ? 'Instructor' : (names.get(who) ?? 'a student who is gone'),
        what,
      }))}
    />
  )
}
