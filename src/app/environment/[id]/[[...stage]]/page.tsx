import { notFound } from 'next/navigation'
import { readRunLink } from '../../../../session/learn/read-run-link'
import { RUN } from '../../../../session/learn/run-link'
import { ProblemError } from '../../../../core/problem'
import { linkedScene } from './link'
import { LINK } from '../../../../session/lesson/link'
import { PLANNED } from '../../../../session/study/planned'
import { isStage } from '../../../../core/lesson/names'
import { Unreadable } from '../../../../ui/shelf/Unreadable'
import { Study } from '../../../../ui/study/Study'
import { recordOf } from './record'

interface Props {
  params: Promise<{ id: string; stage?: string[] }>
  searchParams: Promise<{ [Name in typeof RUN | typeof LINK | typeof PLANNED]?: string | string[] }>
}

export default async function EnvironmentPage({ params, searchParams }: Props) {
  const { id, stage = ['build'] } = await params
  const { [RUN]: asked, [LINK]: link, [PLANNED]: planned } = await searchParams
  const record = await recordOf(id)
  if (!record || !isStage(stage[0])) notFound()
  if (record instanceof ProblemError) return <Unreadable id={id} problems={record.problems} />
  return (
    <Study
      key={record.id}
      record={record}
      stage={stage[0]}
      link={readRunLink(asked)}
      planned={planned !== undefined}
      linked={link === undefined ? null : await linkedScene(record, String(link))}
    />
  )
}
