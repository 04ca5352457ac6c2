'use client'

import { useEffect, useRef } from 'react'
import { useStore } from 'zustand'
import type { Covered } from '../../core/lesson/covered'
import { endFollowing } from '../../session/api/following'
import { followedClass, setFollowed } from '../../session/lesson/followed-class'
import { tellScreen } from '../../session/lesson/shown-screen'
import { useParts } from '../study/study-context'

/** What is told beside the study itself. */
export interface ShownWords {
  readonly title: string
  readonly text?: string
  readonly covers?: readonly Covered[]
}

const NONE: readonly Covered[] = []

/** Tells the class that follows what is on the screen of a study; a note says so as long as one does. */
export function FollowedScreen({ title, text = '', covers = NONE }: ShownWords) {
  const parts = useParts()
  const { followed, problem } = useStore(followedClass)
  const id = followed?.id
  const words = useRef({ title, text, covers })
  useEffect(() => {
    words.current = { title, text, covers }
  })
  useEffect(() => {
    if (id === undefined) return
    return tellScreen(
      parts,
      id,
      () => words.current,
      (error) => setFollowed(null, error.message),
    )
  }, [parts, id])
  if (!followed)
    return problem === null ? null : (
      <p role="alert" className="border-b border-alert bg-sheet px-4 py-1 text-[14px]">
        The class does not follow: {problem}
      </p>
    )
  return (
    <p
      role="status"
      className="flex items-center gap-3 border-b border-rule-strong bg-brass-bright/20 px-4 py-0.5 text-[14px]"
    >
      The class {followed.name} follows what is shown here.
      <button
        type="button"
        className="underline decoration-dotted underline-offset-4"
        onClick={() => {
          setFollowed(null)
          void endFollowing(followed.id)
        }}
      >
        End it
      </button>
    </p>
  )
}
