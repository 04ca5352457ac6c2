'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import { HandPulls, regretOf } from '../../../core/learn/hand-pulls'
import { World } from '../../../core/learn/world'
import type { Model } from '../../../core/model/model'
import { Button } from '../../parts/Button'
import { useParts } from '../../study/study-context'

/** Arms that have a button. */
const BUTTONS = 12

/** The class against the agent: arms pulled by hand, and what both have got. */
export function HandPullsPanel({ model, hidden }: { model: Model; hidden: boolean }) {
  const { learn } = useParts()
  const frame = useStore(learn.store, (state) => state.frame)
  const seed = useStore(learn.store, (state) => state.choice.seed)
  const [begun, setBegun] = useState(0)
  const hand = useMemo(() => {
    void begun
    return new HandPulls(new World(model), seed)
  }, [model, seed, begun])
  const [, setPulls] = useState(0)
  const { state } = hand
  const rows = model.rowStart[state + 1] - model.rowStart[state]
  const agent = frame && frame.policy.length === model.rows ? frame : null
  const regret = (pulls: Float64Array, shared: boolean) => {
    const found = hidden ? null : regretOf(model, pulls, shared)
    return found === null ? '–' : formatNumber(found, 1)
  }
  return (
    <section aria-label="Pull by hand" className="space-y-1.5 border-y border-rule py-1.5 text-[13px]">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-ink-soft">Pull an arm{model.states > 2 && ` (${model.labels[state]})`}:</span>
        {Array.from({ length: Math.min(BUTTONS, rows) }, (_, arm) => (
          <Button
            key={arm}
            className="px-1.5 py-0.5"
            onClick={() => {
              hand.pull(arm)
              setPulls(hand.pulls)
            }}
          >
            {model.actions[model.rowAction[model.rowStart[state] + arm]]}
          </Button>
        ))}
        <span role="status" className="ml-1 font-semibold text-brass">
          {hand.last !== null && `paid ${signedNumber(hand.last, 2)}`}
        </span>
        {hand.pulls > 0 && (
          <Button className="ml-auto px-1.5 py-0.5" onClick={() => setBegun(begun + 1)}>
            Start again
          </Button>
        )}
      </div>
      <table className="text-right" aria-label="By hand and by the agent">
        <thead className="text-ink-soft">
          <tr>
            <th />
            <th className="px-3 font-normal">pulls</th>
            <th className="px-3 font-normal">mean reward</th>
            <th
              className="px-3 font-normal"
              title="How much less was earned in expectation than by pulling the best arm each time"
            >
              regret
            </th>
          </tr>
        </thead>
        <tbody>
          <Tally
            name="by hand"
            pulls={hand.pulls}
            mean={hand.pulls ? hand.total / hand.pulls : null}
            regret={regret(hand.rowPulls, false)}
          />
          <Tally
            name="the agent"
            pulls={agent?.steps ?? 0}
            // Where every pull is an episode its return is the reward.
            mean={agent && agent.steps === agent.episodes ? agent.meanReturn : null}
            regret={agent ? regret(agent.rowVisits, true) : '–'}
          />
        </tbody>
      </table>
    </section>
  )
}

function Tally({
  name,
  pulls,
  mean,
  regret,
}: {
  name: string
  pulls: number
  mean: number | null
  regret: string
}) {
  return (
    <tr>
      <th className="text-left font-normal text-ink-soft">{name}</th>
      <td className="px-3">{formatCount(pulls)}</td>
      <td className="px-3 font-semibold">{mean === null ? '–' : formatNumber(mean, 3)}</td>
      <td className="px-3">{regret}</td>
    </tr>
  )
}
