'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { fixedNumber } from '../../core/formats/number'
import type { Model } from '../../core/model/model'
import type { Overlay } from './overlay'

interface Props {
  readonly model: Model
  readonly overlay?: Overlay
  /** What the numbers of actions are. */
  readonly rowTitle: string
  readonly selected: number | null
  readonly pointed: number | null
  onSelect(state: number): void
}

interface Order {
  /** -2: as in the file; -1: value; else an action */
  readonly by: number
  readonly down: boolean
}

const ROW = 28

/** Any environment as a table: a row a state, a column an action. Sortable, searchable, drawn only where it is seen. */
export function StateTable({ model, overlay, rowTitle, selected, pointed, onSelect }: Props) {
  const scroller = useRef<HTMLDivElement>(null)
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<Order>({ by: -2, down: true })
  const { values, rowValues, policy } = overlay ?? {}
  const rowOf = useMemo(() => rowLookup(model), [model])
  const shown = useMemo(() => {
    const needle = search.trim().toLowerCase()
    const states: number[] = []
    for (let s = 0; s < model.states; s++)
      if (!needle || model.labels[s].toLowerCase().includes(needle)) states.push(s)
    if (order.by === -2) return order.down ? states : states.reverse()
    const key = (s: number) => {
      const value = order.by === -1 ? values?.[s] : rowValues?.[rowOf(s, order.by)]
      return value === undefined || Number.isNaN(value) ? -Infinity : value
    }
    return states.sort((x, y) => (order.down ? key(y) - key(x) : key(x) - key(y)) || x - y)
  }, [model, search, order, values, rowValues, rowOf])
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called while rendering only
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  const columns = `minmax(9rem, 1.6fr) minmax(5.5rem, .8fr) repeat(${model.actions.length}, minmax(5.5rem, 1fr))`
  const heading = (title: string, by: number) => (
    <button
      type="button"
      role="columnheader"
      aria-sort={order.by === by ? (order.down ? 'descending' : 'ascending') : 'none'}
      className={`truncate px-2 py-1 font-semibold ${by === -2 ? 'text-left' : 'text-right'}`}
      onClick={() => setOrder({ by, down: order.by === by ? !order.down : true })}
    >
      {title}
      {order.by === by && by !== -2 ? (order.down ? ' ▾' : ' ▴') : ''}
    </button>
  )
  return (
    <div className="flex h-full min-h-0 w-full flex-col gap-2">
      <div className="flex items-center gap-3 text-[13px] text-ink-soft">
        <input
          type="search"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          placeholder="Find a state"
          aria-label="Find a state"
          className="w-56 rounded-sm border border-rule-strong bg-sheet px-2 py-1 text-ink placeholder:text-ink-soft"
        />
        <span>
          {shown.length === model.states
            ? `${model.states} states`
            : `${shown.length} of ${model.states} states`}
          {rowValues ? `; under each action its ${rowTitle}` : '; the numbers come with Plan and Learn'}
        </span>
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto border border-rule-strong bg-sheet"
        tabIndex={0}
        aria-label="Table of states"
      >
        <div role="table" aria-rowcount={shown.length} className="min-w-fit text-[14px]">
          <div
            role="row"
            className="sticky top-0 z-10 grid border-b border-rule-strong bg-paper"
            style={{ gridTemplateColumns: columns }}
          >
            {heading('State', -2)}
            {heading('Value', -1)}
            {model.actions.map((action, a) => (
              <span key={action} className="contents">
                {heading(action, a)}
              </span>
            ))}
          </div>
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const s = shown[item.index]
              return (
                <div
                  key={s}
                  role="row"
                  aria-selected={selected === s}
                  className={`absolute inset-x-0 grid cursor-pointer border-b border-rule ${selected === s ? 'bg-rule/50 shadow-[inset_4px_0_0_var(--brass-bright)]' : pointed === s ? 'outline-2 -outline-offset-2 outline-spruce' : 'hover:bg-rule/40'}`}
                  style={{
                    gridTemplateColumns: columns,
                    height: ROW,
                    transform: `translateY(${item.start}px)`,
                  }}
                  onClick={() => onSelect(s)}
                >
                  <span role="cell" className="truncate px-2 py-1" title={model.labels[s]}>
                    {model.labels[s]}
                    {model.ending[s] ? <span className="text-brass"> · ending</span> : null}
                  </span>
                  <span role="cell" className="px-2 py-1 text-right font-semibold">
                    {values ? fixedNumber(values[s], 3) : ''}
                  </span>
                  {model.actions.map((action, a) => {
                    const row = rowOf(s, a)
                    const chance = row >= 0 ? (policy?.[row] ?? 0) : 0
                    return (
                      <span
                        role="cell"
                        key={action}
                        className={`px-2 py-1 text-right ${chance >= 0.005 ? 'font-semibold' : 'text-ink-soft'}`}
                        title={
                          row >= 0 && policy ? `chosen with chance ${fixedNumber(chance, 2)}` : undefined
                        }
                      >
                        {row < 0
                          ? ''
                          : rowValues
                            ? `${chance >= 0.005 ? '▸ ' : ''}${fixedNumber(rowValues[row], 3)}`
                            : '·'}
                      </span>
                    )
                  })}
                </div>
              )
            })}
          </div>
        </div>
      </div>
    </div>
  )
}

/** The row of an action in a state, -1 where it is not available. */
function rowLookup(model: Model): (state: number, action: number) => number {
  return (state, action) => {
    for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
      if (model.rowAction[r] === action) return r
    return -1
  }
}
