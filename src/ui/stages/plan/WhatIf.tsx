'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber } from '../../../core/formats/number'
import {
  BONUS_QUESTIONS,
  gridWithBonuses,
  type BonusQuestion,
} from '../../../core/kinds/grid/without-bonuses'
import { Button } from '../../parts/Button'
import { cursorOf } from '../../study/selection'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { differenceOf } from '../../study/use-overlay'
import { planAside } from './plan-aside'

/** What became different since a plan was held: how many states act otherwise, and where values moved most. */
export function WhatIf() {
  const { plan } = useParts()
  const held = useStore(plan.store, (state) => state.held)
  const frame = useStore(plan.store, (state) => state.frame)
  const [failure, setFailure] = useState('')
  return (
    <>
      {held ? (
        <Held onFail={setFailure} />
      ) : (
        <>
          <p className="text-[13px] text-ink-soft">
            Plan to the end, then turn a knob, the discount, a wall or a reward: the plan follows, and is
            compared with what it was.
          </p>
          <div className="flex flex-wrap gap-2">
            <Button
              className="px-1.5 py-0.5 text-[13px]"
              disabled={!frame || frame.sweep === 0}
              onClick={() => plan.hold()}
            >
              Hold this plan
            </Button>
            <BonusButtons onFail={setFailure} />
          </div>
        </>
      )}
      {failure && (
        <p role="alert" className="text-[13px] text-alert">
          {failure}
        </p>
      )}
    </>
  )
}

function Held({ onFail }: { onFail(message: string): void }) {
  const { plan, study } = useParts()
  const held = useStore(plan.store, (state) => state.held)!
  const frame = useStore(plan.store, (state) => state.frame)
  const tolerance = useStore(plan.store, (state) => state.tolerance)
  const compiled = useModel((state) => state.compiled)
  const shows = useStudy((state) => state.layers.has('difference'))
  const toggle = useStudy((state) => state.toggleLayer)
  const model = compiled?.model
  const difference =
    model && frame && frame.values.length === model.states && frame.policy.length === model.rows
      ? differenceOf(model, frame, held)
      : null
  return (
    <>
      <p className="text-[13px]">
        <span className="text-ink-soft">Compared with </span>
        {held.title}
      </p>
      {difference && (
        <p data-testid="difference">
          <strong>
            {formatCount(difference.turnedCount)} of {formatCount(difference.compared)}
          </strong>{' '}
          states act otherwise
          {difference.largestState >= 0 && Math.abs(difference.largest) > tolerance ? (
            <>
              ; values differ most in{' '}
              <button
                type="button"
                className="underline decoration-dotted underline-offset-4"
                onClick={() => study.getState().select(cursorOf(compiled, difference.largestState))}
              >
                {model!.labels[difference.largestState]}
              </button>
              , by {difference.largest > 0 ? '+' : ''}
              {formatNumber(difference.largest, 3)}
            </>
          ) : (
            '; no value differs by more than the tolerance'
          )}
          .{difference.unmatched > 0 && ` ${formatCount(difference.unmatched)} states were not there.`}
        </p>
      )}
      <label className="flex items-center gap-1.5">
        <input type="checkbox" className="size-4" checked={shows} onChange={() => toggle('difference')} />
        Show the difference on the board
      </label>
      <div className="flex flex-wrap gap-2">
        <Button className="px-1.5 py-0.5 text-[13px]" onClick={() => plan.hold()}>
          Hold this plan instead
        </Button>
        <BonusButtons onFail={onFail} />
        <Button
          className="px-1.5 py-0.5 text-[13px]"
          onClick={() => {
            if (shows) toggle('difference')
            plan.hold(null)
          }}
        >
          Let go
        </Button>
      </div>
    </>
  )
}

/** Do the bonuses of a grid bend the best policy? Compares with the same grid where they pay otherwise. */
function BonusButtons({ onFail }: { onFail(message: string): void }) {
  const { plan, study } = useParts()
  const [busy, setBusy] = useState(false)
  const document = useStudy((state) => state.document)
  if (document.kind !== 'grid' || document.grid.bonuses.length === 0) return null
  const ask = async (question: BonusQuestion) => {
    setBusy(true)
    onFail('')
    try {
      const { discount, tolerance } = plan.store.getState()
      const model = gridWithBonuses({ ...document, discount }, question)
      plan.hold(await planAside(model, discount, tolerance, BONUS_QUESTIONS[question]))
      if (!study.getState().layers.has('difference')) study.getState().toggleLayer('difference')
    } catch (error) {
      onFail(`It could not be compared. ${error instanceof Error ? error.message : ''}`)
    } finally {
      setBusy(false)
    }
  }
  return (Object.keys(BONUS_QUESTIONS) as BonusQuestion[]).map((question) => (
    <Button
      key={question}
      className="px-1.5 py-0.5 text-[13px]"
      disabled={busy}
      title={`Compares with ${BONUS_QUESTIONS[question]}`}
      onClick={() => void ask(question)}
    >
      {question === 'nothing' ? 'Without bonuses' : 'Bonuses as a potential'}
    </Button>
  ))
}
