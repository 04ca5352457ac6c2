import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../server/db/database'
import { classNow } from '../../server/class-events'
import { studentHome } from '../../server/http/student'
import { ownAnswer } from '../../server/repositories/questions'
import { StudentHomePage } from '../../ui/student/StudentHomePage'
import { pageCaller } from '../caller'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Your class' }

export default async function Class() {
  const { student } = await pageCaller()
  if (!student) notFound()
  const db = await database()
  const [home, now] = await Promise.all([studentHome(db, student), classNow(student.classId)])
  if (!home) notFound()
  const answered = now.question && (await ownAnswer(db, now.question.id, student.id))
  return <StudentHomePage home={home} first={now} answered={answered} />
}
