import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../server/db/database'
import { studentHome } from '../../server/http/student'
import { StudentHomePage } from '../../ui/student/StudentHomePage'
import { pageCaller } from '../caller'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Your class' }

export default async function Class() {
  const { student } = await pageCaller()
  const home = student && (await studentHome(await database(), student))
  if (!home) notFound()
  return <StudentHomePage home={home} />
}
