'use client'

import dynamic from 'next/dynamic'
import { useMemo, useRef, useState } from 'react'
import type { RulebookEnvironment } from '../../../core/kinds/rulebook/kind'
import { formatCount } from '../../../core/formats/number'
import { TEXT_LIMIT } from '../../../core/kinds/rulebook/document'
import { LineMap, type Span } from '../../../core/kinds/rulebook/place'
import { newStroke } from '../../../session/study/stroke'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { DependencePicture } from './DependencePicture'
import { Sentences } from './Sentences'
import type { Place, Remark } from './RulebookEditor'

const RulebookEditor = dynamic(() => import('./RulebookEditor'), {
  ssr: false,
  loading: () => <p className="p-4 text-ink-soft">Opening the rulebook …</p>,
})

/** Quiet time after which typing begins a new step of undo, in milliseconds. */
const BURST = 1200

/** The ways in which the rules are shown. */
const READINGS = [
  ['rules', 'Rules'],
  ['sentences', 'Sentences'],
  ['dependence', 'What depends on what'],
] as const
type Reading = (typeof READINGS)[number][0]

/** Where a rulebook is written: the text, and what is wrong with it. */
export function RulebookDesk({ document }: { document: RulebookEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const problems = useModel((state) => state.problems)
  const facts = useModel(({ compiled }) => (compiled?.kind === 'rulebook' ? compiled.facts : undefined))
  const { check } = useParts()
  // Who looks at a finding of Check is shown its line.
  const [goTo, setGoTo] = useState<Place | null>(() => {
    const { report, chosen, stale } = check.store.getState()
    const span = chosen === null || stale ? undefined : report?.findings[chosen].span
    return span ? { ...span, quiet: true } : null
  })
  const [tooLong, setTooLong] = useState(false)
  const [reading, setReading] = useState<Reading>('rules')
  const pick = ({ from, to }: Span) => {
    setReading('rules')
    setGoTo({ from, to, quiet: true })
  }
  const burst = useRef({ last: 0, stroke: 0 })
  const { text } = document.rulebook
  const remarks = useMemo<Remark[]>(() => {
    const errors = problems.map((problem): Remark => ({ ...problem, severity: 'error' }))
    // Notes belong to the last good model: beside errors they would point at the wrong places.
    if (errors.length || !facts) return errors
    const lines = new LineMap(text)
    return [
      ...facts.notes.map((note): Remark => ({ ...note, severity: 'warning' })),
      ...facts.checks.flatMap(({ title, span, broken }): Remark[] =>
        broken
          ? [
              {
                place: lines.place(span.from),
                span,
                cause: `The check “${title}” is broken in ${broken.state}, action ${broken.action}${broken.chances ? `, ${broken.chances}` : ''}.`,
                remedy: 'The shortest way there is shown at the right.',
                severity: 'warning',
              },
            ]
          : [],
      ),
    ]
  }, [problems, facts, text])
  return (
    <section
      className="flex min-h-0 min-w-0 flex-col border-r border-rule-strong bg-sheet"
      aria-label="Rulebook"
    >
      <div
        className="flex shrink-0 gap-1 border-b border-rule-strong px-3 py-1"
        role="group"
        aria-label="Shown as"
      >
        {READINGS.map(([each, title]) => (
          <button
            key={each}
            type="button"
            aria-pressed={reading === each}
            className="rounded-sm px-2 text-[13px] leading-[22px] text-ink-soft hover:bg-rule/60 aria-pressed:bg-ink aria-pressed:text-paper"
            onClick={() => setReading(each)}
          >
            {title}
          </button>
        ))}
      </div>
      {reading !== 'rules' && (
        <div className="min-h-0 flex-1">
          {reading === 'sentences' ? (
            <Sentences text={text} onPick={pick} />
          ) : (
            <DependencePicture text={text} onPick={pick} />
          )}
        </div>
      )}
      {/* It keeps its history, and where one was, while the rules are read in another way. */}
      <div className={reading === 'rules' ? 'min-h-0 flex-1' : 'hidden'}>
        <RulebookEditor
          text={text}
          remarks={remarks}
          goTo={goTo}
          onTooLong={() => setTooLong(true)}
          onChange={(next) => {
            setTooLong(false)
            const now = performance.now()
            if (now - burst.current.last > BURST) burst.current.stroke = newStroke()
            burst.current.last = now
            edit({ ...document, rulebook: { ...document.rulebook, text: next } }, burst.current.stroke)
          }}
        />
      </div>
      {(remarks.length > 0 || tooLong) && (
        <div
          className="max-h-44 shrink-0 overflow-y-auto border-t border-rule-strong px-4 py-2"
          role="alert"
          aria-label="What is wrong"
        >
          {tooLong && (
            <p className="border-l-4 border-alert pl-2.5">
              The text was not inserted: a rulebook has at most {formatCount(TEXT_LIMIT)} characters. Nothing
              was changed.
            </p>
          )}
          <ul className="space-y-1.5">
            {remarks.map(({ place, cause, remedy, span, severity }, i) => (
              <li
                key={i}
                className={`border-l-4 pl-2.5 leading-5 ${severity === 'error' ? 'border-alert' : 'border-brass-bright'}`}
              >
                {span ? (
                  <button
                    type="button"
                    className="font-semibold underline decoration-dotted underline-offset-4"
                    onClick={() => {
                      setReading('rules')
                      setGoTo({ ...span, quiet: false })
                    }}
                  >
                    {place}
                  </button>
                ) : (
                  <span className="font-semibold">{place}</span>
                )}
                : {cause} <span className="text-ink-soft">{remedy}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  )
}
