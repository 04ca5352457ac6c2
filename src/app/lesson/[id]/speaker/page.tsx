import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { SpeakerPage } from '../../../../ui/lesson/SpeakerPage'
import { lessonOf } from '../lesson'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Speaker’s window' }

interface Props {
  params: Promise<{ id: string }>
}

export default async function Speaker({ params }: Props) {
  const found = await lessonOf((await params).id)
  if (!found) notFound()
  return <SpeakerPage record={found.record} />
}
