'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import type { VersionRecord, VersionSummary } from '../../server/contract/environments'
import { createEnvironment, keepVersion, listVersions, readVersion } from '../../session/api/environments'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { titleOf, VersionList } from '../parts/VersionList'
import { PICTURED_LENGTH } from '../../core/limits'
import { thumbnail } from '../kinds/thumbnails'
import { ChangeList } from './ChangeList'
import { useParts, useStudy } from './study-context'

/** Earlier states of the environment: what changed since, and the way back. */
export function Versions({ onClose }: { onClose(): void }) {
  const router = useRouter()
  const { study } = useParts()
  const id = useStudy((state) => state.id)
  const document = useStudy((state) => state.document)
  const [list, setList] = useState<readonly VersionSummary[] | null>(null)
  const [chosen, setChosen] = useState<VersionRecord | null>(null)
  const { problems, attempt } = useAttempt()
  const look = (version: VersionSummary) => attempt(async () => setChosen(await readVersion(id, version.id)))
  useEffect(() => {
    let wanted = true
    // What is still on its way to the shelf belongs to the picture.
    void attempt(async () => {
      await study.getState().save()
      const found = await listVersions(id)
      const newest = found.length > 0 ? await readVersion(id, found[0].id) : null
      if (!wanted) return
      setList(found)
      setChosen(newest)
    })
    return () => {
      wanted = false
    }
  }, [attempt, study, id])
  /** What is kept is what the shelf has: it must have everything first. */
  const settle = async () => {
    await study.getState().save()
    const { saving } = study.getState()
    if (saving.state === 'failed' || saving.state === 'stale' || saving.state === 'gone')
      throw new ProblemError([
        {
          place: 'environment',
          cause: 'The last changes are not saved yet.',
          remedy: 'Close this, and follow what the line under the head says.',
        },
      ])
  }
  const keep = (name: string) =>
    attempt(async () => {
      await settle()
      const kept = await keepVersion(id, name)
      setList([kept, ...(list ?? [])])
      await look(kept)
    })
  const restore = (version: VersionRecord) =>
    attempt(async () => {
      await settle()
      await keepVersion(id, `before restoring ${titleOf(version)}`.slice(0, 120))
      study.getState().edit({ ...version.document, name: document.name })
      onClose()
    })
  const open = (version: VersionRecord) =>
    attempt(async () => {
      const copy: EnvironmentDocument = {
        ...version.document,
        name: `${version.document.name.slice(0, 100)} (earlier)`,
      }
      const made = await createEnvironment(JSON.stringify(copy))
      router.push(`/environment/${made.id}/build`)
    })
  return (
    <div
      className={
        list?.length
          ? 'grid h-[30rem] max-h-[70vh] w-[59rem] max-w-full grid-cols-[17rem_minmax(0,1fr)] gap-5'
          : 'w-[26rem] max-w-full'
      }
    >
      <VersionList list={list} chosen={chosen?.id} onChoose={(version) => void look(version)} onKeep={keep} />
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto">
        {problems.length > 0 && <ProblemList problems={problems} />}
        {chosen && (
          <>
            <div className="flex gap-4">
              <Picture document={chosen.document} />
              <div className="space-y-2">
                <p className="font-title text-[18px] font-semibold">{titleOf(chosen)}</p>
                <div className="flex flex-wrap gap-2">
                  <Button look="ink" onClick={() => void restore(chosen)}>
                    Restore this version
                  </Button>
                  <Button onClick={() => void open(chosen)}>Open as a copy</Button>
                </div>
                <p className="text-[13px] text-ink-soft">The present state is kept as a version first.</p>
              </div>
            </div>
            <section>
              <h3 className="mb-1 font-title text-[17px] font-semibold">Since then</h3>
              <ChangeList before={chosen.document} after={document} />
            </section>
          </>
        )}
      </div>
    </div>
  )
}

function Picture({ document }: { document: EnvironmentDocument }) {
  if (JSON.stringify(document).length > PICTURED_LENGTH) return null
  return (
    <span
      className="block shrink-0 border border-rule-strong bg-sheet p-1 [&_svg]:block [&_svg]:h-auto [&_svg]:max-h-36 [&_svg]:w-auto [&_svg]:max-w-56"
      dangerouslySetInnerHTML={{ __html: thumbnail(document) }}
    />
  )
}
