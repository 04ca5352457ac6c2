import type { Metadata } from 'next'
import type { ComponentType } from 'react'
import { notFound } from 'next/navigation'
import { reportOf } from '../../../../core/lesson/report'
import { firstChoice } from '../../../../core/settings/first-choice'
import { ProblemError } from '../../../../core/problem'
import type { EnvironmentDocument } from '../../../../core/kinds/kinds'
import { PRINTED } from '../../../../ui/kinds/printed'
import { PrintedLesson } from '../../../../ui/lesson/PrintedLesson'
import { Unreadable } from '../../../../ui/shelf/Unreadable'
import { recordOf } from '../[[...stage]]/record'

export const dynamic = 'force-dynamic'

interface Props {
  params: Promise<{ id: string }>
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const record = await recordOf((await params).id)
  return { title: record && !(record instanceof ProblemError) ? record.document.name : 'Report' }
}

export default async function Report({ params }: Props) {
  const { id } = await params
  const record = await recordOf(id)
  if (!record) notFound()
  if (record instanceof ProblemError) return <Unreadable id={id} problems={record.problems} />
  const { document, revision, updatedAt } = record
  const Printed = PRINTED[document.kind] as ComponentType<{ document: EnvironmentDocument }> | null
  return (
    <PrintedLesson
      lesson={await reportOf(document)}
      back={`/environment/${id}/build`}
      numbers
      about={`Environment, revision ${revision} of ${updatedAt.slice(0, 10)}; seed ${firstChoice(document).seed}.`}
    >
      {Printed && <Printed document={document} />}
    </PrintedLesson>
  )
}
