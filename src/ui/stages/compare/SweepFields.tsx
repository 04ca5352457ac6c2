'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { VARIABLE_IDS, VARIABLES, type VariableId } from '../../../core/compare/variables'
import { contestantNames, sweepOf } from '../../../core/compare/contestant'
import { bestOf, meanWithError, SCORE_IDS, SCORES, type ScoreId } from '../../../core/compare/run-statistics'
import { fixedNumber } from '../../../core/formats/number'
import { runsOf } from '../../../session/compare/compare-session'
import { fraction } from '../../charts/band-chart'
import { DoublingFields } from '../../parts/DoublingFields'
import { Section } from '../../parts/Section'
import { LineSelect, Select } from '../../parts/Select'
import { useCovered, useParts, useStudy } from '../../study/study-context'

/** Which setting is swept, and from where to where. */
export function SweepFields() {
  const { compare } = useParts()
  const sweep = useStore(compare.store, (state) => state.sweep)
  const change = (part: Partial<typeof sweep>) => compare.set({ sweep: { ...sweep, ...part } })
  return (
    <div className="grid grid-cols-3 items-end gap-x-3">
      <Select
        label="Setting"
        value={sweep.varied}
        options={Object.fromEntries(VARIABLE_IDS.map((id) => [id, VARIABLES[id].title]))}
        hint="Tried at every value for every contestant that has it; constant throughout a run."
        onChange={(value) => change({ varied: value as VariableId })}
      />
      <DoublingFields range={sweep} onChange={change} />
    </div>
  )
}

/** The best value for each contestant, and those that cannot be told from it. */
export function SweepVerdicts() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const state = useStore(compare.store)
  const { contestants, hidden, sweep, running } = state
  const score: ScoreId = covered && state.score === 'exact' ? 'mean' : state.score
  const verdicts = useMemo(() => {
    // Resampling takes its time: not while runs come in.
    if (running) return []
    const names = contestantNames(contestants)
    return contestants.flatMap((contestant, i) => {
      if (hidden.has(contestant.id)) return []
      const tried = sweepOf(contestant, sweep).map(({ value, contestant: each }) => ({
        value,
        runs: runsOf(state, document, each).runs,
      }))
      const found = bestOf(
        tried.map(({ runs }) => runs),
        score,
      )
      if (!found) return []
      const { runs, value } = tried[found.best]
      const scores = Float64Array.from(runs, SCORES[score].of).filter((each) => !Number.isNaN(each))
      return [
        {
          id: contestant.id,
          name: names[i],
          value,
          ...meanWithError(scores),
          alike: found.alike.map((k) => tried[k].value),
        },
      ]
    })
  }, [state, running, contestants, hidden, sweep, document, score])
  return (
    <Section title="The best values">
      <div className="text-[13px]">
        <LineSelect
          label="By the"
          labelled
          value={score}
          options={SCORE_IDS.filter((id) => !covered || id !== 'exact').map(
            (id) => [id, SCORES[id].title] as const,
          )}
          onChange={(value) => compare.set({ score: value as ScoreId })}
        />
      </div>
      {verdicts.map(({ id, name, value, mean, error, alike }) => (
        <p key={id} className="text-[13px] leading-[18px]" data-testid="verdict">
          <b>{name}</b> is best with {VARIABLES[sweep.varied].title} <b>{fraction(value)}</b>:{' '}
          {fixedNumber(mean)} ± {fixedNumber(error)}.{' '}
          {alike.length
            ? `These runs cannot tell it from ${alike.map(fraction).join(', ')}.`
            : 'All other values are worse.'}
        </p>
      ))}
    </Section>
  )
}
