'use client'

import { Checkbox } from '../../parts/Checkbox'
import { useState } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { cursorOf } from '../../../session/study/cursor'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { differenceOf } from '../../layers/difference'
import { kindView } from '../../kinds/kinds'

/** What became different since a plan was held: how many states act differently, and where values moved most. */
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
              Keep for comparison
            </Button>
            <Questions onFail={setFailure} />
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
          states act differently
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
      <Checkbox checked={shows} onChange={() => toggle('difference')}>
        Show the difference on the board
      </Checkbox>
      <div className="flex flex-wrap gap-2">
        <Button className="px-1.5 py-0.5 text-[13px]" onClick={() => plan.hold()}>
          Compare with this plan instead
        </Button>
        <Questions onFail={onFail} />
        <Button
          className="px-1.5 py-0.5 text-[13px]"
          onClick={() => {
            if (shows) toggle('difference')
            plan.hold(null)
          }}
        >
          Stop comparing
        </Button>
      </div>
    </>
  )
}

/** What the kind of the environment has to ask besides. */
function Questions({ onFail }: { onFail(message: string): void }) {
  const document = useStudy((state) => state.document)
  const { Questions: Own } = kindView(document.kind)
  return Own && <Own document={document} onFail={onFail} />
}
