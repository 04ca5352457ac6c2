'use client'

import Link from 'next/link'
import { useEffect, useState } from 'react'
import { ProblemError, type Problem } from '../../core/problem'
import type { ClassSummary } from '../../server/contract/classes'
import { openClasses } from '../../session/api/following'
import { setFollowed } from '../../session/lesson/followed-class'
import { Button } from '../parts/Button'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'

/** Chooses the class that is to follow what is shown. */
export function FollowDialog({ onClose }: { onClose(): void }) {
  const [classes, setClasses] = useState<readonly ClassSummary[] | null>(null)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  useEffect(() => {
    openClasses().then(setClasses, (error: unknown) => {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    })
  }, [])
  return (
    <Modal open title="Let a class follow" onClose={onClose} width="w-[28rem]">
      <p className="mb-3 text-ink-soft">
        Its students see on their own pages what is shown here, as it changes, and may look at it on their
        own.
      </p>
      {classes?.length === 0 && (
        <p>
          No class is open.{' '}
          <Link href="/classes" className="underline">
            Open one
          </Link>
          , then come back.
        </p>
      )}
      <ul className="space-y-2">
        {classes?.map(({ id, name, students }) => (
          <li key={id}>
            <Button
              className="w-full !justify-between"
              onClick={() => {
                setFollowed({ id, name })
                onClose()
              }}
            >
              <span className="truncate">{name}</span>
              <span className="text-[13px] text-ink-soft">
                {students} student{students === 1 ? '' : 's'}
              </span>
            </Button>
          </li>
        ))}
      </ul>
      <ProblemList problems={problems} />
    </Modal>
  )
}
