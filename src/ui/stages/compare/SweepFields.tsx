'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { bestOf, meanWithError } from '../../../core/compare/run-statistics'
import { scoreOf, scoresOf } from '../../../core/compare/scores'
import {
  checkAxis,
  firstValues,
  isOption,
  variedIds,
  variedTitle,
  type Sweep,
  type SweepAxis,
} from '../../../core/compare/sweep'
import { VALUES_HINT } from '../../../core/compare/value-range'
import { fixedNumber, formatCount } from '../../../core/formats/number'
import { ProblemError } from '../../../core/problem'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useCovered, useParts, useStudy } from '../../study/study-context'
import { sweepValueText, sweptContestants } from '../../views/comparison-lines'
import { shownScore } from '../../views/shown-told'
import { ScoreSelect } from './ScoreSelect'

/** Which settings are swept, and over which values. */
export function SweepFields() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const { contestants, view } = useStore(compare.store, ({ comparison }) => comparison)
  const { axes } = view.sweep
  const ids = variedIds(contestants, document)
  const firstOf = (id: string) => firstValues(id, contestants, document)
  const problemOf = (axis: SweepAxis) => inWords(() => checkAxis(axis, contestants, document))
  const put = (sweep: Sweep) => compare.look({ sweep })
  const [first, second] = axes
  return (
    <div className="space-y-1.5">
      <AxisFields
        label="Setting"
        axis={first}
        ids={ids}
        firstOf={firstOf}
        problem={problemOf(first)}
        onChange={(axis) => put({ axes: second ? [axis, second] : [axis] })}
      />
      <AxisFields
        label="And (a map)"
        axis={second ?? null}
        ids={ids.filter((id) => id !== first.varied)}
        firstOf={firstOf}
        problem={second ? problemOf(second) : null}
        onChange={(axis) => put({ axes: [first, axis] })}
        onNone={() => put({ axes: [first] })}
      />
    </div>
  )
}

function AxisFields({
  label,
  axis,
  ids,
  firstOf,
  problem,
  onChange,
  onNone,
}: {
  label: string
  axis: SweepAxis | null
  ids: readonly string[]
  /** The values that something is tried at first. */
  firstOf(id: string): string
  /** What is wrong with the values. */
  problem: string | null
  onChange(axis: SweepAxis): void
  /** Where there may be none. */
  onNone?(): void
}) {
  // Numbers that were asked for are asked for of another setting too; words belong to their own.
  const valuesAfter = (before: SweepAxis | null, varied: string) =>
    before && !isOption(before.varied) && !isOption(varied) ? before.values : firstOf(varied)
  const offered = axis && !ids.includes(axis.varied) ? [axis.varied, ...ids] : ids
  return (
    <div className="grid grid-cols-2 items-end gap-x-3">
      <Select
        label={label}
        value={axis?.varied ?? ''}
        options={{
          ...(onNone ? { '': 'no second one' } : {}),
          ...Object.fromEntries(offered.map((id) => [id, variedTitle(id)])),
        }}
        hint="Tried at every value for every contestant that has it; constant throughout a run."
        onChange={(varied) => (varied ? onChange({ varied, values: valuesAfter(axis, varied) }) : onNone?.())}
      />
      {axis && (
        <label
          className="block min-w-0 text-[13px] text-ink-soft"
          title={isOption(axis.varied) ? 'Its values, with commas between.' : VALUES_HINT}
        >
          Values
          <input
            className={`w-full rounded-sm border bg-sheet px-2 py-1 leading-5 text-ink ${problem ? 'border-alert' : 'border-rule-strong'}`}
            aria-label={`Values of ${variedTitle(axis.varied)}`}
            aria-invalid={problem !== null}
            value={axis.values}
            maxLength={400}
            onChange={(event) => onChange({ ...axis, values: event.target.value })}
          />
        </label>
      )}
      {problem && (
        <p role="alert" className="col-span-2 text-[13px] text-alert">
          {problem}
        </p>
      )}
    </div>
  )
}

/** What a check finds wrong, in words. */
function inWords(check: () => void): string | null {
  try {
    check()
    return null
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    return error.problems.map(({ cause, remedy }) => `${cause} ${remedy}`).join(' ')
  }
}

/** The best values for each contestant, and those that cannot be told from them. */
export function SweepVerdicts() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const state = useStore(compare.store)
  const { running, comparison } = state
  const { axes } = comparison.view.sweep
  const score = shownScore(comparison.view.score, covered)
  const swept = useMemo(() => sweptContestants(state, document), [state, document])
  const verdicts = useMemo(() => {
    // Resampling takes its time: not while runs come in.
    if (running) return []
    return swept.flatMap(({ contestant, name, cells }) => {
      const found = bestOf(
        cells.map(({ runs }) => runs),
        score,
      )
      if (!found) return []
      const { runs, values } = cells[found.best]
      return [
        {
          id: contestant.id,
          name,
          values,
          ...meanWithError(scoresOf(runs, scoreOf(score))),
          alike: found.alike.map((k) => cells[k].values.map(sweepValueText).join(' and ')),
        },
      ]
    })
  }, [swept, running, score])
  return (
    <Section title="The best values">
      <ScoreSelect />
      {verdicts.map(({ id, name, values, mean, error, alike }) => (
        <p key={id} className="text-[13px] leading-[18px]" data-testid="verdict">
          <b>{name}</b> is best with{' '}
          {axes.map(({ varied }, i) => `${variedTitle(varied)} ${sweepValueText(values[i])}`).join(' and ')}:{' '}
          {fixedNumber(mean)} ± {fixedNumber(error)}.{' '}
          {alike.length === 0
            ? 'All other values are worse.'
            : alike.length > 8
              ? `These runs cannot tell it from ${formatCount(alike.length)} others.`
              : `These runs cannot tell it from ${alike.join(', ')}.`}
        </p>
      ))}
    </Section>
  )
}
