'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { scoreOf } from '../../../core/compare/scores'
import { boxChart } from '../../charts/box-chart'
import { EChart } from '../../charts/EChart'
import { useCovered, useParts } from '../../study/study-context'
import { scoreBoxes } from '../comparison-lines'
import { shownScore } from '../shown-told'
import { TrialTable } from '../TrialTable'
import { levelsOf, useDrawn, useOpenRun } from './drawn'

/** The runs by their score, or the episodes after training, with the table of those. */
export function Spread() {
  const { compare } = useParts()
  const covered = useCovered()
  const { view } = useStore(compare.store, ({ comparison }) => comparison)
  const drawn = useDrawn()
  const { open, note } = useOpenRun(drawn)
  const trials = view.picture === 'trials'
  const score = trials && !scoreOf(view.score).trials ? 'trials' : shownScore(view.score, covered)
  const boxes = useMemo(() => scoreBoxes(drawn, score), [drawn, score])
  const levels = useMemo(
    () =>
      !covered && ['mean', 'last-tenth', 'last-100', 'exact', 'trials'].includes(score)
        ? levelsOf(drawn)
        : [],
    [drawn, score, covered],
  )
  const build = useMemo(
    () => (boxes.length ? boxChart(boxes, scoreOf(score).title, levels) : null),
    [boxes, score, levels],
  )
  if (!build) return null
  return (
    <>
      <div className="min-h-48 flex-1">
        <EChart
          build={build}
          label={`Runs by the ${scoreOf(score).title}: ${boxes.map(({ title }) => title).join('; ')}`}
          onMark={open}
        />
      </div>
      {note}
      {trials && <TrialTable drawn={drawn} />}
    </>
  )
}
