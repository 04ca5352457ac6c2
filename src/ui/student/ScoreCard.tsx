'use client'

import { useState } from 'react'
import { formatCount, formatNumber, significantNumber } from '../../core/formats/number'
import type { LevelScore, Score } from '../../core/exercise/score'
import { shareWords } from '../../core/exercise/score-words'
import type { Walk } from '../../core/exercise/walk'
import { Button } from '../parts/Button'
import type { BoardOfWalks } from './board-of-walks'
import { WalkView } from './WalkView'

/** A score, level by level, each on its own scale from a random agent to what is possible. */
export function ScoreCard({
  title,
  score: { levels, points, of, seed },
  walks,
  board,
}: {
  title: string
  score: Score
  walks: readonly Walk[]
  board: BoardOfWalks | null
}) {
  const [walked, setWalked] = useState<number | null>(null)
  return (
    <div className="space-y-3 rounded-sm border border-rule-strong bg-sheet p-3">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-title text-[28px] leading-8 font-semibold tabular-nums">
          {formatNumber(points)}{' '}
          <span className="text-[17px] text-ink-soft">of {formatNumber(of)} points</span>
        </span>
        <span className="text-[13px] text-ink-soft">
          {title} {seed}
        </span>
      </p>
      <ul className="space-y-4">
        {levels.map((level, i) => (
          <li key={level.level}>
            <p className="flex flex-wrap items-baseline gap-x-2">
              <span className="font-semibold">{level.level}</span>
              <span className="text-[15px]">{shareWords(level.share)}</span>
              <span className="ml-auto text-[15px] tabular-nums">
                {formatNumber(level.points)} of {formatNumber(level.of)}
              </span>
            </p>
            <ReturnScale score={level} />
            {walks[i] && (
              <Button
                look="quiet"
                className="text-[14px] underline decoration-dotted underline-offset-4"
                aria-expanded={walked === i}
                onClick={() => setWalked(walked === i ? null : i)}
              >
                Walk the worst episode
              </Button>
            )}
            {walks[i] && walked === i && <WalkView walk={walks[i]} board={board} />}
          </li>
        ))}
      </ul>
    </div>
  )
}

/** The mean return between what a random agent gets and what is possible. */
function ReturnScale({ score }: { score: LevelScore }) {
  const { mean, interval, random, optimum, reference, likely = null, episodes } = score
  const numbers = [mean, random, optimum, ...(reference === null ? [] : [reference])]
  const low = Math.min(...numbers)
  const span = Math.max(...numbers) - low || 1
  const x = (value: number) => 4 + 92 * Math.min(1, Math.max(0, (value - low) / span))
  const words = [
    `mean return ${significantNumber(mean, 4)} over ${formatCount(episodes)} episodes`,
    ...(interval
      ? [`95 % from ${significantNumber(interval[0], 4)} to ${significantNumber(interval[1], 4)}`]
      : []),
  ].join(', ')
  return (
    <div className="pt-1">
      <svg viewBox="0 0 100 9" className="w-full overflow-visible" role="img" aria-label={words}>
        <line x1={x(random)} x2={x(optimum)} y1={5} y2={5} className="stroke-rule-strong" strokeWidth={0.8} />
        <Tick x={x(random)} />
        <Tick x={x(optimum)} />
        {reference !== null && <Tick x={x(reference)} dashed />}
        {interval && (
          <line
            x1={x(interval[0])}
            x2={x(interval[1])}
            y1={5}
            y2={5}
            className="stroke-brass-bright"
            strokeWidth={2}
            strokeLinecap="round"
          />
        )}
        <circle cx={x(mean)} cy={5} r={1.9} className="fill-ink" />
      </svg>
      <p className="text-[13px] leading-5 text-ink-soft">
        Mean return <b className="text-ink">{significantNumber(mean, 4)}</b>
        {interval && (
          <>
            {' '}
            (95 %: {significantNumber(interval[0], 4)} to {significantNumber(interval[1], 4)})
          </>
        )}{' '}
        · random agent {significantNumber(random, 4)}
        {likely !== null && <> · always its most likely action {significantNumber(likely, 4)}</>}
        {reference !== null && <> · instructor {significantNumber(reference, 4)} (dashed)</>} · possible{' '}
        {significantNumber(optimum, 4)}
      </p>
    </div>
  )
}

function Tick({ x, dashed = false }: { x: number; dashed?: boolean }) {
  return (
    <line
      x1={x}
      x2={x}
      y1={1.5}
      y2={8.5}
      className="stroke-ink"
      strokeWidth={0.6}
      strokeDasharray={dashed ? '1.2 0.8' : undefined}
    />
  )
}
