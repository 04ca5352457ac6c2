'use client'

import { useEffect, useState } from 'react'
import { useStore } from 'zustand'
import type { Diagnosis, FindingPicture } from '../../../core/diagnose/finding'
import { proofWords, summaryLine, TOLD_FIRST, triedWords } from '../../../core/diagnose/report'
import { asBeginning } from '../../../core/diagnose/words'
import { formatCount, significantNumber } from '../../../core/formats/number'
import { learnMethod } from '../../../core/learn/methods/methods'
import { EXACT_STATES } from '../../../core/limits'
import type { LearnChoice } from '../../../core/settings/choice'
import { isDone } from '../../../session/learn/run-state'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { ProgressBar } from '../../parts/ProgressBar'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'

/** Steps of a run up to which it is looked at without being asked. */
const AT_ONCE = 1_000_000

/** Why the run on the board does not learn, or that it does: what shows it, and what would mend it. */
export function DiagnosisPanel() {
  const { learn, diagnosis } = useParts()
  const compiled = useModel((state) => state.compiled)
  const document = useStudy((state) => state.document)
  const { running, frame, given } = useStore(learn.store)
  const { report, progress, failure, others, ask } = useStore(diagnosis.store)
  const covered = useCovered()
  const done = isDone(frame)
  const reason = covered
    ? 'What is wrong is told from the truth, which is hidden here.'
    : refusal(running, given !== null, compiled?.model.states ?? 0)
  const start = () => {
    if (!running || !frame) return
    const episodes = done ? {} : { episodes: Math.max(1, frame.episodes) }
    diagnosis.start({ document, choice: running, ...episodes })
  }
  // Who looks here when a run is over wants to know.
  const due = done && frame!.steps <= AT_ONCE && reason === null && !report && !progress && !failure && !ask
  useEffect(() => {
    if (due) start()
  })
  if (reason !== null) return <p className="text-[13px] text-ink-soft">{reason}</p>
  return (
    <div className="space-y-2">
      <div className="flex items-end gap-2">
        <div className="w-28">
          <NumberField
            label="Other seeds"
            hint="Runs with the same settings that are looked at too, to tell what is luck."
            whole
            value={others}
            min={0}
            max={199}
            onChange={(value) => diagnosis.setOthers(value)}
          />
        </div>
        {progress ? (
          <Button onClick={diagnosis.stop}>Stop</Button>
        ) : (
          <Button look={report ? 'plain' : 'ink'} disabled={!frame?.episodes} onClick={start}>
            {report ? 'Look again' : 'Find out what is wrong'}
          </Button>
        )}
      </div>
      {progress && <ProgressBar label="Trying what would mend it" value={progress.done} max={progress.of} />}
      {failure && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {failure}
        </p>
      )}
      {!report && !progress && !failure && (
        <p className="text-[13px] text-ink-soft">
          {frame?.episodes
            ? 'The run is looked at up to here, against the exact model: what keeps it from learning, what shows that, and what would mend it, tried with the same seeds.'
            : 'Let it learn for an episode at least.'}
        </p>
      )}
      {report && ask && (
        <>
          {ask.episodes !== undefined && (
            <p className="text-[13px] text-ink-soft">After {formatCount(ask.episodes)} episodes.</p>
          )}
          <p className="text-[13px] leading-[18px] text-ink-soft" data-testid="diagnosis-line">
            {summaryLine(report)}
          </p>
          <Findings findings={report.findings} choice={ask.choice} />
        </>
      )}
    </div>
  )
}

/** Why a run cannot be looked at; null where it can. */
function refusal(running: LearnChoice | null, given: boolean, states: number): string | null {
  if (running && learnMethod(running.method).purpose !== 'control')
    return `${learnMethod(running.method).title} looks for no policy: it finds out what one is worth.`
  if (given)
    return 'The run began with a table that was given to it: only runs that begin from their settings can be played again.'
  if (states > EXACT_STATES)
    return `The environment has ${formatCount(states)} states; with more than ${formatCount(EXACT_STATES)} the exact values take too long.`
  return null
}

function Findings({ findings, choice }: { findings: readonly Diagnosis[]; choice: LearnChoice }) {
  const [all, setAll] = useState(false)
  const told = all ? findings : findings.slice(0, TOLD_FIRST)
  return (
    <>
      <ol className="space-y-3" aria-label="Findings">
        {told.map((finding, i) => (
          <FindingItem key={finding.rule} finding={finding} place={i} choice={choice} />
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

function FindingItem({ finding, place, choice }: { finding: Diagnosis; place: number; choice: LearnChoice }) {
  const { learn, compare, diagnosis } = useParts()
  const document = useStudy((state) => state.document)
  const show = useStudy((state) => state.show)
  const pointed = useStore(diagnosis.store, (state) => state.pointed === place)
  const { title, evidence, states, picture, change, advice, rule, looksAt } = finding
  const mended = change && { ...choice, ...change.choice }
  const tryBeside = async () => {
    await compare.open()
    compare.add(choice)
    compare.add(mended!)
    show('compare')
    await compare.start(document)
  }
  return (
    <li
      data-rule={rule}
      className={`border-l-4 pl-2.5 ${edgeOf(finding)} ${pointed ? 'bg-rule/40' : ''}`}
      onMouseEnter={() => diagnosis.point(place)}
      onMouseLeave={() => diagnosis.point(null)}
      onFocus={() => diagnosis.point(place)}
      onBlur={() => diagnosis.point(null)}
    >
      {states.length > 0 ? (
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
        {states.length > 0 &&
          `; ${formatCount(states.length)} ${states.length === 1 ? 'state is' : 'states are'} marked on the board while this is pointed at`}
        .
      </p>
      {change && (
        <p className="mt-1 text-[13px] leading-[18px]">
          <b>{change.words}</b> {triedWords(finding)}
        </p>
      )}
      {advice && <p className="mt-1 text-[13px] leading-[18px]">{advice}</p>}
      {mended && (
        <div className="mt-1 flex flex-wrap gap-2">
          <Button
            className="!px-1.5 !py-0 text-[13px]"
            title="Both settings as contestants of Compare, with the same seeds"
            onClick={() => void tryBeside()}
          >
            Compare both
          </Button>
          <Button
            className="!px-1.5 !py-0 text-[13px]"
            title="Takes these settings, and starts the run over"
            onClick={() => {
              learn.choose(change.choice)
              learn.restart()
            }}
          >
            Start over with it
          </Button>
        </div>
      )}
    </li>
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
          {bars.map(({ label, value }, i) => (
            <tr key={i}>
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
          ))}
        </tbody>
      </table>
    </figure>
  )
}
