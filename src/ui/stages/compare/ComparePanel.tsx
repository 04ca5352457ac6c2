'use client'

import { useStore } from 'zustand'
import { contestantNames } from '../../../core/compare/contestant'
import { runsOf } from '../../../session/compare/compare-runs'
import { Section } from '../../parts/Section'
import { Waiting } from '../../parts/Waiting'
import { useParts, useStudy } from '../../study/study-context'
import { drawnContestants } from '../../views/comparison-lines'
import { AddContestant } from './AddContestant'
import { ComparisonHead } from './ComparisonHead'
import { ContestantLine } from './ContestantLine'
import { RunFields } from './RunFields'
import { SweepVerdicts } from './SweepFields'
import { Verdicts } from './Verdicts'

/** The comparison that is open: its contestants, the runs that are asked of them, and what came of those. */
export function ComparePanel() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const loaded = useStore(compare.shelf.store, (shelf) => shelf.loaded)
  const { contestants, hidden, view } = state.comparison
  // What is begun before would be a comparison of its own.
  if (!loaded) return <Waiting />
  const names = contestantNames(contestants)
  return (
    <>
      <ComparisonHead />
      <Section title="Contestants">
        <ul aria-label="Contestants" className="space-y-1">
          {contestants.map((contestant, i) => (
            <ContestantLine
              key={contestant.id}
              contestant={contestant}
              name={names[i]}
              place={i}
              last={i === contestants.length - 1}
              hidden={hidden.includes(contestant.id)}
              problem={runsOf(state, document, contestant).problem}
            />
          ))}
        </ul>
        <AddContestant />
      </Section>
      <RunFields />
      {view.picture === 'sweep' ? <SweepVerdicts /> : <Verdicts drawn={drawnContestants(state, document)} />}
    </>
  )
}
