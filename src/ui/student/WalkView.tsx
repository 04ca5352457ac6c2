'use client'

import { useState } from 'react'
import { formatCount, signedNumber } from '../../core/formats/number'
import type { Walk } from '../../core/exercise/walk'
import { BoardPicture } from './BoardPicture'
import type { BoardOfWalks } from './board-of-walks'

/** An episode, step by step: on the board where there is one, and in words. */
export function WalkView({
  walk: { episode, steps, last, ended },
  board,
}: {
  walk: Walk
  board: BoardOfWalks | null
}) {
  const [at, setAt] = useState(0)
  const here = at < steps.length ? steps[at].state : last
  const gained = steps.slice(0, at).reduce((sum, { reward }) => sum + reward, 0)
  return (
    <div className="space-y-2 pt-1">
      {board && <Track board={board} states={[...steps.map(({ state }) => state), last]} at={at} />}
      <label className="block text-[13px] text-ink-soft">
        Step {at} of {formatCount(steps.length)} of episode {episode + 1}
        <input
          type="range"
          className="block w-full accent-(--brass)"
          min={0}
          max={steps.length}
          value={at}
          onChange={(event) => setAt(Number(event.target.value))}
        />
      </label>
      <p className="text-[15px]" role="status">
        <b>{here}</b>
        {at < steps.length ? (
          <>
            : {steps[at].action}, reward {signedNumber(steps[at].reward)}
          </>
        ) : ended ? (
          <>: the episode has ended.</>
        ) : (
          <>: the step limit cut it off.</>
        )}{' '}
        <span className="text-ink-soft">Rewards so far {signedNumber(gained)}.</span>
      </p>
    </div>
  )
}

/** The way of an episode over the board, as far as it was walked. */
function Track({
  board: {
    seen,
    board: { columns, rows, places },
    picture,
  },
  states,
  at,
}: {
  board: BoardOfWalks
  states: readonly string[]
  at: number
}) {
  const placeOf = new Map(seen.states.map((each, i) => [each.states[0], places[i]]))
  const centre = (state: string) => {
    const place = placeOf.get(state)
    return place === undefined
      ? null
      : ([(place % columns) + 0.5, Math.floor(place / columns) + 0.5] as const)
  }
  const walked = states.slice(0, at + 1).flatMap((state) => {
    const found = centre(state)
    return found ? [found] : []
  })
  const agent = walked.at(-1)
  return (
    <div className="relative max-w-sm border border-ink" style={{ aspectRatio: `${columns} / ${rows}` }}>
      <BoardPicture address={picture} />
      <svg viewBox={`0 0 ${columns} ${rows}`} className="absolute inset-0 size-full" aria-hidden>
        <polyline
          points={walked.map(([x, y]) => `${x},${y}`).join(' ')}
          fill="none"
          className="stroke-brass-bright"
          strokeWidth={0.1}
          strokeLinejoin="round"
        />
        {agent && (
          <circle cx={agent[0]} cy={agent[1]} r={0.24} className="fill-ink stroke-paper" strokeWidth={0.06} />
        )}
      </svg>
    </div>
  )
}
