'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef } from 'react'
import { useStore } from 'zustand'
import { fixedNumber } from '../../../core/formats/number'
import { learnMethod } from '../../../core/learn/methods/methods'
import { cursorOf, stateAt } from '../../../session/study/cursor'
import { useModel, useParts, useStudy } from '../../study/study-context'

const ROW = 24

/** The table of the run beside the board: a row a state, a column an action, the last change marked. Follows the agent. */
export function ActionTable() {
  const { learn, study } = useParts()
  const compiled = useModel((state) => state.compiled)
  const cursor = useStudy((state) => state.cursor)
  const { frame, running } = useStore(learn.store)
  const scroller = useRef<HTMLDivElement>(null)
  const model = compiled?.model
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called while rendering only
  const virtual = useVirtualizer({
    count: model?.states ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  })
  const updated = frame?.last.state ?? -1
  const still = !frame?.running
  useEffect(() => {
    if (updated >= 0 && still) virtual.scrollToIndex(updated, { align: 'auto' })
  }, [virtual, updated, still])
  if (!compiled || !model || !frame || !running) return null
  if (frame.values.length !== model.states) return null
  const holds = learnMethod(running.method).tableHolds
  const { rowValues, values, last, lastAction, lastBefore } = frame
  const selected = stateAt(compiled, cursor)
  const actions = holds === 'values' ? [] : model.actions
  const columns = `minmax(4.5rem, 1.2fr) repeat(${Math.max(1, actions.length)}, minmax(3.6rem, 1fr))`
  return (
    <div className="space-y-1">
      <p className="text-[13px] text-ink-soft">
        {holds === 'values' ? 'The value of each state' : `The ${holds} of each state`}; ▸ marks the best, the
        frame what the last step changed.
      </p>
      <div
        ref={scroller}
        className="h-64 overflow-auto border border-rule-strong bg-sheet text-[13px]"
        tabIndex={0}
        role="table"
        aria-label="Table of the run"
        aria-rowcount={model.states}
      >
        <div
          role="row"
          className="sticky top-0 z-10 grid min-w-fit border-b border-rule-strong bg-paper"
          style={{ gridTemplateColumns: columns }}
        >
          <span role="columnheader" className="px-1.5 py-0.5 font-semibold">
            State
          </span>
          {(holds === 'values' ? ['value'] : actions).map((action) => (
            <span
              key={action}
              role="columnheader"
              className="truncate px-1.5 py-0.5 text-right font-semibold"
            >
              {action}
            </span>
          ))}
        </div>
        <div className="relative min-w-fit" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: state, start }) => (
            <div
              key={state}
              role="row"
              className={`absolute inset-x-0 grid cursor-pointer border-b border-rule ${state === selected ? 'bg-rule/50' : state === updated ? 'bg-brass-bright/15' : ''}`}
              style={{ gridTemplateColumns: columns, height: ROW, transform: `translateY(${start}px)` }}
              onClick={() => study.getState().select(cursorOf(compiled, state))}
            >
              <span role="cell" className="truncate px-1.5 leading-6" title={model.labels[state]}>
                {model.labels[state]}
              </span>
              {holds === 'values' || !rowValues ? (
                <TableCell
                  value={values[state]}
                  before={state === last.state ? lastBefore : null}
                  best={false}
                />
              ) : (
                actions.map((action, a) => {
                  const row = rowOf(model.rowStart, model.rowAction, state, a)
                  if (row < 0) return <span role="cell" key={action} />
                  return (
                    <TableCell
                      key={action}
                      value={rowValues[row]}
                      before={state === last.state && a === lastAction ? lastBefore : null}
                      best={holds === 'action values' && rowValues[row] === values[state]}
                    />
                  )
                })
              )}
            </div>
          ))}
        </div>
      </div>
    </div>
  )
}

function TableCell({ value, before, best }: { value: number; before: number | null; best: boolean }) {
  const changed = before !== null && before !== value
  return (
    <span
      role="cell"
      className={`px-1.5 text-right leading-6 ${best ? 'font-semibold' : ''} ${changed ? 'outline-2 -outline-offset-2 outline-brass-bright' : ''}`}
      title={changed ? `was ${fixedNumber(before, 4)}` : undefined}
      data-changed={changed || undefined}
    >
      {best ? '▸ ' : ''}
      {fixedNumber(value, 2)}
    </span>
  )
}

function rowOf(rowStart: Int32Array, rowAction: Int32Array, state: number, action: number): number {
  for (let row = rowStart[state]; row < rowStart[state + 1]; row++) if (rowAction[row] === action) return row
  return -1
}
