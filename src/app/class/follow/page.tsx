import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { classNow } from '../../../server/class-events'
import { FollowPage } from '../../../ui/student/FollowPage'
import { pageCaller } from '../../caller'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'What is shown' }

export default async function Follow() {
  const { student } = await pageCaller()
  if (!student) notFound()
  return <FollowPage first={await classNow(student.classId)} />
}
