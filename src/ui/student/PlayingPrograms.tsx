'use client'

import { useEffect, useState } from 'react'
import { formatCount } from '../../core/formats/number'
import { ProblemError } from '../../core/problem'
import type { WatchedSession } from '../../server/contract/classes'
import { readPlaying } from '../../session/api/student'
import type { BoardOfWalks } from './board-of-walks'
import { BoardPicture } from './BoardPicture'

/** How often it is looked what programs play: while some do, and while none does, in milliseconds. */
const WATCHING = 400
const WAITING = 3_000

/** What the student’s own programs play now, on the board where there is one. */
export function PlayingPrograms({ id, board }: { id: string; board: BoardOfWalks | null }) {
  const [sessions, setSessions] = useState<readonly WatchedSession[]>([])
  useEffect(() => {
    let gone = false
    let timer: ReturnType<typeof setTimeout>
    const look = async () => {
      let wait = WAITING
      // Nobody watches a page that lies behind others.
      if (!document.hidden)
        try {
          const found = await readPlaying(id)
          if (gone) return
          setSessions(found)
          if (found.some(({ open }) => open > 0)) wait = WATCHING
        } catch (error) {
          if (!(error instanceof ProblemError)) throw error
        }
      if (!gone) timer = setTimeout(() => void look(), wait)
    }
    void look()
    return () => {
      gone = true
      clearTimeout(timer)
    }
  }, [id])
  if (!sessions.length) return null
  return (
    <section aria-label="Your programs">
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Your programs</h2>
      <ul className="space-y-3 pt-2">
        {sessions.map((session) => (
          <li key={session.id}>
            <p className="text-[15px]">
              <b>{session.level}</b>: {formatCount(session.open)} of {formatCount(session.episodes)} episodes
              go on, step {formatCount(session.steps)}
            </p>
            {board && session.open > 0 && <Crowd board={board} at={session.at} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Where the episodes are: the more are in a place, the larger its dot. */
function Crowd({
  board: {
    seen,
    board: { columns, rows, places },
    picture,
  },
  at,
}: {
  board: BoardOfWalks
  at: readonly string[]
}) {
  const number = new Map<string, number>()
  for (const state of at) number.set(state, (number.get(state) ?? 0) + 1)
  return (
    <div className="relative max-w-sm border border-ink" style={{ aspectRatio: `${columns} / ${rows}` }}>
      <BoardPicture address={picture} />
      <svg
        viewBox={`0 0 ${columns} ${rows}`}
        className="absolute inset-0 size-full"
        role="img"
        aria-label={`Episodes in ${number.size} places`}
      >
        {seen.states.map(({ states: [state] }, i) => {
          const here = number.get(state)
          return (
            here && (
              <circle
                key={state}
                cx={(places[i] % columns) + 0.5}
                cy={Math.floor(places[i] / columns) + 0.5}
                r={0.12 + 0.3 * Math.sqrt(here / at.length)}
                className="fill-ink stroke-paper"
                strokeWidth={0.05}
              />
            )
          )
        })}
      </svg>
    </div>
  )
}
