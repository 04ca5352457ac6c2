'use client'

import type { Part, Role, Working } from '../../core/explain/working'
import { formatNumber } from '../../core/formats/number'
import { useStudy } from '../study/study-context'
import { Formula } from './Formula'

/** The colour of a term is the colour of its place on the board. */
const COLOURS: Record<Role, string> = {
  plain: 'text-ink',
  probability: 'text-slate',
  rate: 'text-slate',
  reward: 'text-brass',
  old: 'text-plum',
  next: 'text-spruce',
  result: 'text-ink font-semibold',
}

/** A calculation with its numbers. Pointing at a term lights the state it comes from. */
export function WorkingView({
  working,
  label = 'Working',
  tint,
}: {
  working: Working
  label?: string
  /** The colour that a value has on the board, for terms that are values of a state. */
  tint?: (value: number) => string | undefined
}) {
  return (
    <section aria-label={label} className="space-y-2">
      <h3 className="font-semibold">{working.title}</h3>
      {working.formula.length === 0 ? null : working.latex ? (
        <Formula latex={working.latex} words={working.formula.map(({ text }) => text).join(' ')} />
      ) : (
        <p className="leading-6">
          {working.formula.map((part, i) => (
            <PartText key={i} part={part} digits={working.digits ?? 3} tint={tint} />
          ))}
        </p>
      )}
      {working.lines.length > 0 && (
        <dl className="divide-y divide-rule border-y border-rule">
          {working.lines.map((line) => (
            <div
              key={line.label}
              className={`py-1.5 pl-2.5 ${line.strong ? 'border-l-4 border-brass-bright' : 'border-l-4 border-transparent'}`}
            >
              <dt className={`text-[13px] ${line.strong ? 'font-semibold' : 'text-ink-soft'}`}>
                {line.label}
              </dt>
              <dd className="leading-6">
                {line.parts.map((part, i) => (
                  <PartText key={i} part={part} digits={working.digits ?? 3} tint={tint} />
                ))}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {working.note && <p className="text-[13px] text-ink-soft">{working.note}</p>}
    </section>
  )
}

function PartText({
  part,
  digits,
  tint,
}: {
  part: Part
  digits: number
  tint?: (value: number) => string | undefined
}) {
  const point = useStudy((state) => state.point)
  const text = part.value === undefined ? part.text : formatNumber(part.value, digits)
  const { state } = part
  const colour = part.value === undefined || part.role !== 'next' ? undefined : tint?.(part.value)
  if (state === undefined) return <span className={COLOURS[part.role]}>{text} </span>
  return (
    <>
      <button
        type="button"
        className={`${COLOURS[part.role]} rounded-xs underline decoration-dotted underline-offset-4 hover:bg-spruce/15`}
        onPointerEnter={() => point(state)}
        onPointerLeave={() => point(null)}
        onFocus={() => point(state)}
        onBlur={() => point(null)}
      >
        {colour && (
          <span
            aria-hidden
            className="mr-0.5 inline-block size-[0.65em] border border-rule-strong"
            style={{ background: colour }}
          />
        )}
        {text}
      </button>{' '}
    </>
  )
}
