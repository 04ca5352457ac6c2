import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { ProblemError } from '../../../../core/problem'
import { isStage } from '../../../../core/lesson/names'
import { recordOf } from './record'

interface Props {
  readonly params: Promise<{ id: string; stage?: string[] }>
  readonly children: ReactNode
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const record = await recordOf((await params).id)
  if (record instanceof ProblemError) return { title: 'Cannot be read' }
  return { title: record?.document.name ?? 'Not on the shelf' }
}

/** What is not there is told before anything is sent, so that the answer has the status 404. */
export default async function EnvironmentLayout({ params, children }: Props) {
  const { id, stage = ['build'] } = await params
  if (!(await recordOf(id)) || stage.length !== 1 || !isStage(stage[0])) notFound()
  return children
}
