'use client'

import { useEffect, useState } from 'react'
import { useStore } from 'zustand'
import { documentFor, type Contestant } from '../../../core/compare/contestant'
import type { Change } from '../../../core/diagnose/finding'
import { refusalOf } from '../../../core/diagnose/refusal'
import { summaryLine } from '../../../core/diagnose/report'
import { createDiagnosisSession } from '../../../session/learn/diagnosis-session'
import { Button } from '../../parts/Button'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { DiagnosisProgress } from '../../views/DiagnosisProgress'
import { FindingAction, FindingList } from '../../views/FindingList'

/** Why a contestant does not learn, or that it does, by the first runs of the comparison. */
export function ContestantFindings({ contestant }: { contestant: Contestant }) {
  const { compare } = useParts()
  const [diagnosis] = useState(() => createDiagnosisSession())
  const document = useStudy((state) => state.document)
  const states = useModel((state) => state.compiled?.model.states ?? 0)
  const runs = useStore(compare.store, (state) => state.comparison.runs)
  const { report, progress } = useStore(diagnosis.store)
  const covered = useCovered()
  const { choice } = contestant
  const reason = covered
    ? 'What is wrong is told from the truth, which is hidden here.'
    : (refusalOf(choice, contestant.environment ? 0 : states)?.cause ?? null)
  const look = () =>
    diagnosis.start({ document: documentFor(document, contestant), choice: { ...choice, run: 0 } })
  // What was found is of the settings as they were.
  useEffect(() => diagnosis.clear(), [diagnosis, document, contestant])
  useEffect(() => () => diagnosis.close(), [diagnosis])
  if (reason) return <p className="text-[13px] text-ink-soft">{reason}</p>
  const addMended = (change: Change) => {
    const { id: _, ...rest } = contestant
    compare.insert({ ...rest, choice: { ...choice, ...change.choice } })
    void compare.start(document)
  }
  return (
    <div className="space-y-2">
      {progress ? (
        <Button onClick={diagnosis.stop}>Stop</Button>
      ) : (
        !report && (
          <Button
            title="Run 1 of this comparison is played once more and looked at, and others with it"
            onClick={() => {
              diagnosis.setOthers(Math.min(9, runs - 1))
              look()
            }}
          >
            Find out what is wrong
          </Button>
        )
      )}
      <DiagnosisProgress diagnosis={diagnosis} />
      {report && (
        <>
          <p className="text-[13px] leading-[18px] text-ink-soft">{summaryLine(report)}</p>
          <FindingList findings={report.findings} diagnosis={diagnosis}>
            {({ change }) => (
              <FindingAction
                title="One more contestant with these settings, on the same seeds"
                onClick={() => addMended(change!)}
              >
                Add with this change
              </FindingAction>
            )}
          </FindingList>
        </>
      )}
    </div>
  )
}
