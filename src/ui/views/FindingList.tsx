'use client'

import { Fragment, useState, type ReactNode } from 'react'
import { useStore } from 'zustand'
import type { Diagnosis, FindingPicture } from '../../core/diagnose/finding'
import { proofWords, TOLD_FIRST, triedWords } from '../../core/diagnose/report'
import { asBeginning } from '../../core/diagnose/words'
import { formatCount, significantNumber } from '../../core/formats/number'
import type { DiagnosisSession } from '../../session/learn/diagnosis-session'
import { Button } from '../parts/Button'

/** What was found in a run: three findings at first, all of them where they are asked for. */
export function FindingList({
  findings,
  diagnosis,
  marks = false,
  children,
}: {
  findings: readonly Diagnosis[]
  diagnosis: DiagnosisSession
  /** Whether the states of the one that is pointed at are marked on a board. */
  marks?: boolean
  /** What can be done with the change of a finding that has one. */
  children: (finding: Diagnosis) => ReactNode
}) {
  const [all, setAll] = useState(false)
  const told = all ? findings : findings.slice(0, TOLD_FIRST)
  return (
    <>
      <ol className="space-y-3" aria-label="Findings">
        {told.map((finding, i) => (
          <FindingItem key={finding.rule} finding={finding} place={i} diagnosis={diagnosis} marks={marks}>
            {children(finding)}
          </FindingItem>
        ))}
      </ol>
      {findings.length > TOLD_FIRST && (
        <Button look="quiet" onClick={() => setAll(!all)}>
          {all ? 'Only the first three' : `${findings.length - TOLD_FIRST} more`}
        </Button>
      )}
    </>
  )
}

function FindingItem({
  finding,
  place,
  diagnosis,
  marks,
  children,
}: {
  finding: Diagnosis
  place: number
  diagnosis: DiagnosisSession
  marks: boolean
  children: ReactNode
}) {
  const pointed = useStore(diagnosis.store, (state) => marks && state.pointed === place)
  const { title, evidence, states, picture, change, advice, rule, looksAt } = finding
  const marked = marks && states.length > 0
  return (
    <li
      data-rule={rule}
      className={`border-l-4 pl-2.5 ${edgeOf(finding)} ${pointed ? 'bg-rule/40' : ''}`}
      onMouseEnter={() => diagnosis.point(place)}
      onMouseLeave={() => diagnosis.point(null)}
      onFocus={() => diagnosis.point(place)}
      onBlur={() => diagnosis.point(null)}
    >
      {marked ? (
        // To be reached by the keyboard, which marks its states.
        <button type="button" className="w-full text-left leading-5 font-semibold" aria-pressed={pointed}>
          {title}
        </button>
      ) : (
        <p className="leading-5 font-semibold">{title}</p>
      )}
      <p className="text-[13px] leading-[18px]">{evidence}</p>
      {picture && <Bars {...picture} />}
      <p className="text-[13px] text-ink-soft" title={`Rule ${rule}: looks at ${looksAt}.`}>
        {asBeginning(proofWords(finding))}
        {marked &&
          `; ${formatCount(states.length)} ${states.length === 1 ? 'state is' : 'states are'} marked on the board while this is pointed at`}
        .
      </p>
      {change && (
        <p className="mt-1 text-[13px] leading-[18px]">
          <b>{change.words}</b> {triedWords(finding)}
        </p>
      )}
      {advice && <p className="mt-1 text-[13px] leading-[18px]">{advice}</p>}
      {change && <div className="mt-1 flex flex-wrap gap-2">{children}</div>}
    </li>
  )
}

/** One of the things that can be done with the change of a finding. */
export function FindingAction({
  title,
  onClick,
  children,
}: {
  title: string
  onClick: () => void
  children: string
}) {
  return (
    <Button className="!px-1.5 !py-0 text-[13px]" title={title} onClick={onClick}>
      {children}
    </Button>
  )
}

/** What keeps it from learning is marked as an error is, what only costs something as a warning. */
function edgeOf({ rule, explains, tried }: Diagnosis): string {
  if (rule === 'fine') return 'border-spruce'
  if (explains <= 0) return 'border-slate'
  return tried?.of === 'behaviour' ? 'border-brass-bright' : 'border-alert'
}

/** A small picture of a few numbers. */
function Bars({ title, bars }: FindingPicture) {
  const most = Math.max(...bars.map(({ value }) => Math.abs(value)), 1e-12)
  return (
    <figure className="my-1 text-[12.5px] leading-4">
      <figcaption className="text-ink-soft">{title}</figcaption>
      <table className="w-full">
        <tbody>
          {bars.map(({ label, value, group }, i) => (
            <Fragment key={i}>
              {group !== undefined && group !== bars[i - 1]?.group && (
                <tr>
                  <th scope="rowgroup" colSpan={3} className="pt-1 text-left font-semibold">
                    {group}
                  </th>
                </tr>
              )}
              <tr>
                <th scope="row" className="max-w-36 truncate pr-2 text-left font-normal" title={label}>
                  {label}
                </th>
                <td className="w-full">
                  <span
                    aria-hidden
                    className={`block h-2.5 ${value < 0 ? 'bg-alert/70' : 'bg-spruce/70'}`}
                    style={{ width: `${(100 * Math.abs(value)) / most}%` }}
                  />
                </td>
                <td className="pl-2 text-right tabular-nums">{significantNumber(value)}</td>
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
    </figure>
  )
}
