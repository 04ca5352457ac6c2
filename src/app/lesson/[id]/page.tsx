import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { LessonPage } from '../../../ui/lesson/LessonPage'
import { lessonOf } from './lesson'

export const dynamic = 'force-dynamic'

interface Props {
  params: Promise<{ id: string }>
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await lessonOf((await params).id)
  return { title: found ? `${found.record.lesson.name}: lesson` : 'Lesson' }
}

export default async function Lesson({ params }: Props) {
  const found = await lessonOf((await params).id)
  if (!found) notFound()
  return <LessonPage key={found.record.id} {...found} />
}
