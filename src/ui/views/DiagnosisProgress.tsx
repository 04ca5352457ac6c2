'use client'

import { useStore } from 'zustand'
import { formatCount } from '../../core/formats/number'
import type { DiagnosisSession } from '../../session/learn/diagnosis-session'
import { ProgressBar } from '../parts/ProgressBar'

/** How far looking for findings is, or why it failed; nothing while it rests. */
export function DiagnosisProgress({ diagnosis }: { diagnosis: DiagnosisSession }) {
  const { progress, failure } = useStore(diagnosis.store)
  return (
    <>
      {progress && (
        <>
          <ProgressBar label="Looking for findings" value={progress.done} max={progress.of} />
          <p role="status" className="text-[13px] text-ink-soft">
            Rules are checked and changes tried: {formatCount(progress.done)} of {formatCount(progress.of)}.
          </p>
        </>
      )}
      {failure && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {failure}
        </p>
      )}
    </>
  )
}
