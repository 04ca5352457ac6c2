import { isStage } from '../../../../session/study/names'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { database } from '../../../../server/db/database'
import { getEnvironment } from '../../../../server/repositories/environments'
import { Study } from '../../../../ui/study/Study'
import { readRunLink } from '../../../../session/learn/read-run-link'
import { RUN } from '../../../../session/learn/run-link'

interface Props {
  params: Promise<{ id: string; stage?: string[] }>
  searchParams: Promise<{ [RUN]?: string | string[] }>
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const record = await getEnvironment(await database(), (await params).id)
  return { title: record?.document.name ?? 'Not on the shelf' }
}

export default async function EnvironmentPage({ params, searchParams }: Props) {
  const { id, stage = ['build'] } = await params
  const { [RUN]: asked } = await searchParams
  const record = await getEnvironment(await database(), id)
  if (!record || stage.length !== 1 || !isStage(stage[0])) notFound()
  return <Study key={record.id} record={record} stage={stage[0]} link={readRunLink(asked)} />
}
