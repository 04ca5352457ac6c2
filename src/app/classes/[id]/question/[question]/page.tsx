import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../../../server/db/database'
import { getClass } from '../../../../../server/repositories/classes'
import { getQuestion } from '../../../../../server/repositories/questions'
import { QuestionPage } from '../../../../../ui/class/QuestionPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Question' }

export default async function Asked({ params }: { params: Promise<{ id: string; question: string }> }) {
  const { id, question } = await params
  const db = await database()
  const [found, asked] = await Promise.all([getClass(db, id), getQuestion(db, id, question)])
  if (!found || !asked) notFound()
  return <QuestionPage classId={id} className={found.name} first={asked} />
}
