'use client'

import { useMemo, useState, type KeyboardEvent } from 'react'
import type { Span } from '../../../core/kinds/rulebook/place'
import {
  dependenceOf,
  type DependentPart,
  type PartKind,
} from '../../../core/kinds/rulebook/reading/dependence'

/** Sizes in the units of the picture. */
const WIDTH = 132
const HEIGHT = 26
const GAP = 58
const PITCH = 44
const EDGE = 10
/** Letters that fit into a part. */
const LETTERS = 17

/** What each kind of part is called, and how its frame is drawn. */
const KINDS: Readonly<
  Record<PartKind, { readonly title: string; readonly frame: string; readonly round: number }>
> = {
  state: { title: 'state', frame: 'fill-paper stroke-ink', round: 3 },
  action: { title: 'action', frame: 'fill-ink stroke-ink', round: 3 },
  chance: { title: 'chance', frame: 'fill-sheet stroke-slate [stroke-dasharray:4_3]', round: 13 },
  let: { title: 'let', frame: 'fill-sheet stroke-rule-strong', round: 3 },
  measure: { title: 'measure', frame: 'fill-sheet stroke-rule-strong [stroke-dasharray:1_3]', round: 3 },
  reward: { title: 'reward', frame: 'fill-brass-bright stroke-ink', round: 3 },
  discount: { title: 'discount', frame: 'fill-brass-bright stroke-ink', round: 3 },
  next: { title: 'next state', frame: 'fill-paper stroke-ink [stroke-width:2]', round: 3 },
  end: { title: 'end', frame: 'fill-sheet stroke-plum', round: 3 },
  pass: { title: 'passing', frame: 'fill-sheet stroke-plum', round: 3 },
}

/**
 * What depends on what in a rulebook, from left to right; a part that is pointed at shows what it is joined with.
 * @param onPick  null on paper, where nothing is clicked
 */
export function DependencePicture({ text, onPick }: { text: string; onPick: ((span: Span) => void) | null }) {
  const { parts, arrows, columns, most } = useMemo(() => dependenceOf(text), [text])
  const [pointed, setPointed] = useState<string | null>(null)
  if (!parts.length) return <p className="p-4 text-ink-soft">There is no rule that can be read yet.</p>
  const width = columns * WIDTH + (columns - 1) * GAP + 2 * EDGE
  const height = most * PITCH + 2 * EDGE
  const inColumn = (column: number) => parts.filter((each) => each.column === column).length
  const left = ({ column }: DependentPart) => EDGE + column * (WIDTH + GAP)
  const middle = ({ column, place }: DependentPart) =>
    EDGE + ((place + 0.5) * most * PITCH) / inColumn(column)
  const byId = new Map(parts.map((part) => [part.id, part]))
  const kinds = (Object.keys(KINDS) as PartKind[]).filter((kind) => parts.some((part) => part.kind === kind))
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1 overflow-auto p-3">
        <svg
          viewBox={`0 0 ${width} ${height}`}
          style={{ width: '100%', minWidth: width * 0.85, maxWidth: width * 1.2 }}
          role="group"
          aria-label="What depends on what"
        >
          {arrows.map(([from, to]) => {
            const [one, other] = [byId.get(from)!, byId.get(to)!]
            const [x1, y1, x2, y2] = [left(one) + WIDTH, middle(one), left(other), middle(other)]
            const lit = pointed === null || pointed === from || pointed === to
            const bend = Math.max(20, (x2 - x1) / 2)
            return (
              <path
                key={`${from} ${to}`}
                d={`M${x1} ${y1} C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2 - 5} ${y2} m-4 -3 l5 3 l-5 3`}
                className={`fill-none ${lit ? 'stroke-ink-soft' : 'stroke-rule'} ${pointed !== null && lit ? '[stroke-width:1.8]' : ''}`}
              />
            )
          })}
          {parts.map((part) => {
            const { frame, round, title } = KINDS[part.kind]
            const shown = part.label.length > LETTERS ? `${part.label.slice(0, LETTERS - 1)}…` : part.label
            return (
              <g
                key={part.id}
                {...(onPick && {
                  role: 'button',
                  tabIndex: 0,
                  'aria-label': `${title} ${part.label}: go to the rule`,
                  className: 'cursor-pointer outline-offset-2',
                  onClick: () => onPick(part),
                  onKeyDown: ({ key }: KeyboardEvent) => {
                    if (key === 'Enter' || key === ' ') onPick(part)
                  },
                  onPointerEnter: () => setPointed(part.id),
                  onPointerLeave: () => setPointed(null),
                  onFocus: () => setPointed(part.id),
                  onBlur: () => setPointed(null),
                })}
              >
                <title>{`${title} ${part.label}`}</title>
                <rect
                  x={left(part)}
                  y={middle(part) - HEIGHT / 2}
                  width={WIDTH}
                  height={HEIGHT}
                  rx={round}
                  className={frame}
                />
                <text
                  x={left(part) + WIDTH / 2}
                  y={middle(part) + 4.5}
                  textAnchor="middle"
                  className={`text-[13px] ${part.kind === 'action' ? 'fill-paper' : 'fill-ink'}`}
                >
                  {shown}
                </text>
              </g>
            )
          })}
        </svg>
      </div>
      <ul
        className="flex shrink-0 flex-wrap gap-x-4 gap-y-1 border-t border-rule-strong px-3 py-1.5 text-[13px] text-ink-soft"
        aria-label="Legend"
      >
        {kinds.map((kind) => (
          <li key={kind} className="flex items-center gap-1.5">
            <svg width={24} height={14} aria-hidden>
              <rect
                x={1}
                y={1}
                width={22}
                height={12}
                rx={Math.min(6, KINDS[kind].round)}
                className={KINDS[kind].frame}
              />
            </svg>
            {KINDS[kind].title}
          </li>
        ))}
        <li>Knobs and tables are left out.</li>
      </ul>
    </div>
  )
}
