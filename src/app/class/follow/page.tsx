import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { classNow } from '../../../server/class-events'
import { database } from '../../../server/db/database'
import { ownAnswer } from '../../../server/repositories/questions'
import { FollowPage } from '../../../ui/student/FollowPage'
import { pageCaller } from '../../caller'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'What is shown' }

export default async function Follow() {
  const { student } = await pageCaller()
  if (!student) notFound()
  const now = await classNow(student.classId)
  const answered = now.question && (await ownAnswer(await database(), now.question.id, student.id))
  return <FollowPage first={now} answered={answered} />
}
