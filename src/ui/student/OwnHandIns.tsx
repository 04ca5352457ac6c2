'use client'

import { useState } from 'react'
import { formatNumber } from '../../core/formats/number'
import type { HandInState, OwnHandIn, StudentExercise } from '../../server/contract/classes'
import { Select } from '../parts/Select'
import { ProblemList } from '../parts/ProblemList'
import { boardOf } from './board-of-walks'
import { ScoreCard } from './ScoreCard'

const STATE_WORDS: Readonly<Record<HandInState, string>> = {
  waiting: 'waiting to be scored …',
  playing: 'being played by your program',
  abandoned: 'left by your program before its end',
  scored: 'scored',
  refused: 'not scored: see what is wrong. It does not count as a try',
  late: 'late: kept, but not scored',
}

/** What the student handed in, the last one open. */
export function OwnHandIns({ exercise }: { exercise: StudentExercise }) {
  const { handIns, hidden, revealed } = exercise
  const [chosen, setChosen] = useState<string | null>(null)
  const shown = handIns.find((each) => each.id === chosen) ?? handIns.at(0)
  return (
    <section className="space-y-3" aria-label="Your hand-ins">
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Your hand-ins</h2>
      {!shown && <p className="text-ink-soft">Nothing yet.</p>}
      {handIns.length > 1 && (
        <Select
          label="Hand-in"
          value={shown!.id}
          options={Object.fromEntries(handIns.map((each, i) => [each.id, titleOf(each, handIns.length - i)]))}
          onChange={setChosen}
        />
      )}
      {shown && (
        <div className="space-y-3" aria-live="polite">
          {shown.state !== 'scored' && <p className="font-semibold">State: {STATE_WORDS[shown.state]}</p>}
          <ProblemList problems={shown.problems} />
          {shown.score && (
            <ScoreCard
              title="Public seed"
              score={shown.score}
              walks={shown.walks}
              board={boardOf(exercise)}
            />
          )}
          {shown.hidden && <ScoreCard title="Hidden seed" score={shown.hidden} walks={[]} board={null} />}
          {shown.score && hidden && !revealed && (
            <p className="text-[13px] text-ink-soft">
              Final scores use a hidden seed, which your instructor reveals.
            </p>
          )}
        </div>
      )}
    </section>
  )
}

function titleOf({ at, state, score }: OwnHandIn, number: number): string {
  const time = new Date(at).toLocaleTimeString('en-GB', { timeStyle: 'short' })
  const outcome = score ? `${formatNumber(score.points)} points` : STATE_WORDS[state]
  return `${number}, ${time}: ${outcome}`
}
