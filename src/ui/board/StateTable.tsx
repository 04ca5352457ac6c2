'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, useState } from 'react'
import { fixedNumber } from '../../core/formats/number'
import { rowOf, type Model } from '../../core/model/model'
import type { Layer } from '../../core/lesson/names'
import type { Overlay } from './overlay'
import { colourAsProperty } from './svg-pen'
import { pictureScale, ringScale } from './scales'
import { valueColour, type ValueScale } from './value-scale'

/** What the last step of a run changed. */
export interface LastChange {
  readonly state: number
  /** An index into the model's actions; -1 where the value of the state itself changed. */
  readonly action: number
  /** What the number was; null when it did not change. */
  readonly before: number | null
}

interface Props {
  readonly model: Model
  readonly overlay?: Overlay
  /** What the numbers of actions are. */
  readonly rowTitle: string
  readonly selected: number | null
  readonly pointed: number | null
  /** It is marked, and scrolled to while the run stands still. */
  readonly change?: LastChange | null
  readonly follows?: boolean
  /** For a narrow place: no search, less room, and no values where there are action values. */
  readonly compact?: boolean
  readonly label: string
  onSelect(state: number): void
}

interface Order {
  /** -2: as in the file; -1: value; else an action */
  readonly by: number
  readonly down: boolean
}

/** Values and action values have one scale, as on the board. */
const BOTH: ReadonlySet<Layer> = new Set(['values', 'actionValues'])

/**
 * Any environment as a table: a row a state, a column an action, the cells in the colours of the board. Sortable,
 * searchable, drawn only where it is seen.
 */
export function StateTable({
  model,
  overlay,
  rowTitle,
  selected,
  pointed,
  change,
  follows = false,
  compact = false,
  label,
  onSelect,
}: Props) {
  const scroller = useRef<HTMLDivElement>(null)
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<Order>({ by: -2, down: true })
  const { values, rowValues, policy } = overlay ?? {}
  const scale = useMemo(() => pictureScale({ overlay, layers: BOTH }), [overlay])
  const rowScale = useMemo(() => ringScale({ overlay, layers: BOTH }), [overlay])
  const showsValues = !compact || !rowValues
  const actions = compact && !rowValues ? [] : model.actions
  const height = compact ? 24 : 28
  const shown = useMemo(() => {
    const needle = search.trim().toLowerCase()
    const states: number[] = []
    for (let s = 0; s < model.states; s++)
      if (!needle || model.labels[s].toLowerCase().includes(needle)) states.push(s)
    if (order.by === -2) return order.down ? states : states.reverse()
    const key = (s: number) => {
      const value = order.by === -1 ? values?.[s] : rowValues?.[rowOf(model, s, order.by)]
      return value === undefined || Number.isNaN(value) ? -Infinity : value
    }
    return states.sort((x, y) => (order.down ? key(y) - key(x) : key(x) - key(y)) || x - y)
  }, [model, search, order, values, rowValues])
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called while rendering only
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 12,
  })
  const changed = change?.state ?? -1
  useEffect(() => {
    const at = follows && changed >= 0 ? shown.indexOf(changed) : -1
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' })
  }, [virtual, follows, changed, shown])
  const [first, value, action] = compact
    ? ['minmax(4.5rem, 1.2fr)', 'minmax(3.6rem, 1fr)', 'minmax(3.6rem, 1fr)']
    : ['minmax(9rem, 1.6fr)', 'minmax(5.5rem, .8fr)', 'minmax(5.5rem, 1fr)']
  const columns = [first, ...(showsValues ? [value] : []), ...actions.map(() => action)].join(' ')
  const padding = compact ? 'px-1.5' : 'px-2'
  const heading = (title: string, by: number) => (
    <span
      key={by}
      role="columnheader"
      aria-sort={order.by === by ? (order.down ? 'descending' : 'ascending') : 'none'}
      className="min-w-0"
    >
      <button
        type="button"
        className={`w-full truncate ${padding} py-0.5 font-semibold ${by === -2 ? 'text-left' : 'text-right'}`}
        title={`${title}: sort by it`}
        onClick={() => setOrder({ by, down: order.by === by ? !order.down : true })}
      >
        {title}
        {order.by === by && by !== -2 ? (order.down ? ' ▾' : ' ▴') : ''}
      </button>
    </span>
  )
  const digits = compact ? 2 : 3
  return (
    <div className="flex h-full min-h-0 w-full flex-col gap-2">
      {!compact && (
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
            {rowValues ? `; under each action its ${rowTitle}` : '; its numbers are there in Plan and Learn'}
          </span>
        </div>
      )}
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto border border-rule-strong bg-sheet"
        tabIndex={0}
        role="group"
        aria-label={`${label}, to be scrolled`}
      >
        <div
          role="table"
          aria-label={label}
          aria-rowcount={shown.length + 1}
          className={`min-w-fit ${compact ? 'text-[13px]' : 'text-[14px]'}`}
        >
          <div
            role="row"
            className="sticky top-0 z-10 grid border-b border-rule-strong bg-paper"
            style={{ gridTemplateColumns: columns }}
          >
            {heading('State', -2)}
            {showsValues && heading('Value', -1)}
            {actions.map((title, a) => heading(title, a))}
          </div>
          <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const s = shown[item.index]
              return (
                <div
                  key={s}
                  role="row"
                  aria-rowindex={item.index + 2}
                  data-selected={selected === s || undefined}
                  className={`absolute inset-x-0 grid cursor-pointer border-b border-rule ${selected === s ? 'bg-rule/50 shadow-[inset_4px_0_0_var(--brass-bright)]' : pointed === s ? 'outline-2 -outline-offset-2 outline-spruce' : 'hover:bg-rule/40'}`}
                  style={{ gridTemplateColumns: columns, height, transform: `translateY(${item.start}px)` }}
                  onClick={() => onSelect(s)}
                >
                  <span role="rowheader" className={`truncate ${padding} leading-6`} title={model.labels[s]}>
                    {model.labels[s]}
                    {model.ending[s] ? <span className="text-brass"> · ending</span> : null}
                  </span>
                  {showsValues && (
                    <NumberCell
                      value={values?.[s]}
                      scale={model.ending[s] ? undefined : scale}
                      digits={digits}
                      strong
                      before={change?.state === s && change.action < 0 ? change.before : null}
                      padding={padding}
                    />
                  )}
                  {actions.map((title, a) => {
                    const row = rowOf(model, s, a)
                    if (row < 0) return <span role="cell" key={title} />
                    const chance = policy?.[row] ?? 0
                    return (
                      <NumberCell
                        key={title}
                        value={rowValues?.[row]}
                        scale={rowScale}
                        digits={digits}
                        strong={chance >= 0.005}
                        picked={chance >= 0.005}
                        before={change?.state === s && change.action === a ? change.before : null}
                        hint={policy && `chosen with chance ${fixedNumber(chance, 2)}`}
                        padding={padding}
                      />
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

/** A number in the colour it has on the board; the one that the last step changed has a frame. */
function NumberCell({
  value,
  scale,
  digits,
  strong,
  picked = false,
  before,
  hint,
  padding,
}: {
  value: number | undefined
  scale: ValueScale | undefined
  digits: number
  strong: boolean
  /** Whether the policy picks the action. */
  picked?: boolean
  before: number | null
  hint?: string
  padding: string
}) {
  const changed = before !== null && before !== value
  const tint = scale && value !== undefined && Number.isFinite(value) ? valueColour(scale, value) : undefined
  return (
    <span
      role="cell"
      className={`${padding} text-right leading-6 ${strong ? 'font-semibold' : ''} ${changed ? 'outline-2 -outline-offset-2 outline-brass-bright' : ''}`}
      style={tint && { background: colourAsProperty(tint) }}
      title={
        [changed ? `was ${fixedNumber(before, 4)}` : '', hint ?? ''].filter(Boolean).join('; ') || undefined
      }
      data-changed={changed || undefined}
    >
      {value === undefined ? '·' : `${picked ? '▸ ' : ''}${fixedNumber(value, digits)}`}
    </span>
  )
}
