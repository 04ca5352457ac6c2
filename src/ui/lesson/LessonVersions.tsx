'use client'

import { useCallback, useEffect, useState } from 'react'
import type { VersionSummary } from '../../server/contract/environments'
import { serverLessons } from '../../session/api/lessons'
import type { Lesson } from '../../core/lesson/lesson-document'
import type { KeptSession } from '../../session/kept-session'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { titleOf, VersionList } from '../parts/VersionList'

/** Opens the earlier states of a lesson; restoring one can be undone. */
export function LessonVersions({ session }: { session: KeptSession<Lesson> }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button look="quiet" aria-label="Versions" title="Versions" onClick={() => setOpen(true)}>
        <Icon name="clock" />
      </Button>
      <Modal open={open} title="Versions" width="w-[28rem]" onClose={() => setOpen(false)}>
        <Versions session={session} onClose={() => setOpen(false)} />
      </Modal>
    </>
  )
}

function Versions({ session, onClose }: { session: KeptSession<Lesson>; onClose(): void }) {
  const [list, setList] = useState<readonly VersionSummary[] | null>(null)
  const [chosen, setChosen] = useState<VersionSummary | null>(null)
  const { problems, attempt } = useAttempt()
  const look = useCallback(
    () =>
      attempt(async () => {
        // What is still on its way to the shelf belongs to it.
        await session.save()
        setList(await serverLessons.versions(session.id))
      }),
    [attempt, session],
  )
  useEffect(() => {
    // What is listed comes later.
    const timer = setTimeout(() => void look())
    return () => clearTimeout(timer)
  }, [look])
  const restore = (version: VersionSummary) =>
    attempt(async () => {
      session.edit(await serverLessons.readVersion(session.id, version.id))
      onClose()
    })
  return (
    <div className="space-y-3">
      {problems.length > 0 && <ProblemList problems={problems} />}
      <VersionList
        list={list}
        chosen={chosen?.id}
        onChoose={setChosen}
        onKeep={(name) =>
          attempt(async () => {
            await session.save()
            await serverLessons.keepVersion(session.id, name)
            await look()
          })
        }
      />
      {chosen && (
        <div className="flex flex-wrap items-center gap-3">
          <Button look="ink" onClick={() => void restore(chosen)}>
            Restore {titleOf(chosen)}
          </Button>
          <span className="text-[13px] text-ink-soft">Undo brings the present state back.</span>
        </div>
      )}
    </div>
  )
}
