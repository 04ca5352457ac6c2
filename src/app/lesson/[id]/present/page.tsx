import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { Presentation } from '../../../../ui/lesson/Presentation'
import { lessonOf } from '../lesson'

export const dynamic = 'force-dynamic'

interface Props {
  params: Promise<{ id: string }>
  searchParams: Promise<{ at?: string | string[] }>
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await lessonOf((await params).id)
  return { title: found?.record.lesson.name ?? 'Lesson' }
}

export default async function Present({ params, searchParams }: Props) {
  const found = await lessonOf((await params).id)
  if (!found || !found.record.lesson.views.length) notFound()
  const at = Math.floor(Number((await searchParams).at)) || 1
  const place = Math.min(Math.max(at, 1), found.record.lesson.views.length) - 1
  return <Presentation key={found.record.id} {...found} first={place} />
}
