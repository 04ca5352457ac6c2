import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { asShown } from '../../../../ui/lesson/standing'
import { PrintedLesson } from '../../../../ui/lesson/PrintedLesson'
import { lessonOf } from '../lesson'

export const dynamic = 'force-dynamic'

interface Props {
  params: Promise<{ id: string }>
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await lessonOf((await params).id)
  return { title: found?.record.lesson.name ?? 'Lesson' }
}

export default async function PrintLesson({ params }: Props) {
  const found = await lessonOf((await params).id)
  if (!found || !found.record.lesson.views.length) notFound()
  const { record, current } = found
  return (
    <PrintedLesson
      lesson={asShown(record.lesson, current)}
      back={`/lesson/${record.id}`}
      about={`Lesson, revision ${record.revision}.`}
    />
  )
}
