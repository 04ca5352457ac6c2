'use client'

import { useEffect } from 'react'
import { useStore } from 'zustand'
import type { Change } from '../../../core/diagnose/finding'
import { refusalOf } from '../../../core/diagnose/refusal'
import { summaryLine } from '../../../core/diagnose/report'
import { formatCount } from '../../../core/formats/number'
import type { LearnChoice } from '../../../core/settings/choice'
import { isDone } from '../../../session/learn/run-state'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { FindingAction, FindingList } from '../../views/FindingList'
import { DiagnosisProgress } from '../../views/DiagnosisProgress'
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
      <DiagnosisProgress diagnosis={diagnosis} />
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
          <FindingList findings={report.findings} diagnosis={diagnosis} marks>
            {(finding) => <RunActions choice={ask.choice} change={finding.change!} />}
          </FindingList>
        </>
      )}
    </div>
  )
}

/** Why a run cannot be looked at; null where it can. */
function refusal(running: LearnChoice | null, given: boolean, states: number): string | null {
  if (given)
    return 'The run began with a table that was given to it: only runs that begin from their settings can be played again.'
  const refused = running && refusalOf(running, states)
  return refused && `${refused.cause} ${refused.remedy}`
}

/** What can be done with a change of the settings of the run. */
function RunActions({ choice, change }: { choice: LearnChoice; change: Change }) {
  const { learn, compare } = useParts()
  const document = useStudy((state) => state.document)
  const show = useStudy((state) => state.show)
  const tryBeside = async () => {
    await compare.open()
    compare.add(choice)
    compare.add({ ...choice, ...change.choice })
    show('compare')
    await compare.start(document)
  }
  return (
    <>
      <FindingAction
        title="Both settings as contestants of Compare, with the same seeds"
        onClick={() => void tryBeside()}
      >
        Compare both
      </FindingAction>
      <FindingAction
        title="Takes these settings, and starts the run over"
        onClick={() => {
          learn.choose(change.choice)
          learn.restart()
        }}
      >
        Start over with it
      </FindingAction>
    </>
  )
}
