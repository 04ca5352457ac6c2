'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { contestantNames, type Contestant } from '../../../core/compare/contestant'
import type { LearningRun } from '../../../core/compare/learning-runs'
import {
  differenceOf,
  meanWithError,
  SCORE_IDS,
  SCORES,
  type ScoreId,
} from '../../../core/compare/run-statistics'
import { fixedNumber, formatCount } from '../../../core/formats/number'
import { canCompare, runsOf, wantedRuns } from '../../../session/compare/compare-session'
import { LineItem } from '../../charts/LineItem'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { RunProgress } from '../../parts/RunProgress'
import { LineSelect } from '../../parts/Select'
import { Section } from '../../parts/Section'
import { useCovered, useParts, useStudy } from '../../study/study-context'
import { SweepFields, SweepVerdicts } from './SweepFields'
import { ContestantFields } from './ContestantFields'

/** The contestants, the runs that are asked of them, and what came of those. */
export function ComparePanel() {
  const { compare, learn } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const choice = useStore(learn.store, (learning) => learning.choice)
  const { contestants, hidden, runs, running, done, asked, left, failure } = state
  const names = contestantNames(contestants)
  const shown = contestants.flatMap((contestant, i) => {
    if (hidden.has(contestant.id)) return []
    return [{ contestant, name: names[i], ...runsOf(state, document, contestant) }]
  })
  const missing = wantedRuns(state).some((contestant) => {
    const { runs: made, problem } = runsOf(state, document, contestant)
    return problem === null && made.length < runs
  })
  return (
    <>
      <Section title="Contestants">
        <ul aria-label="Contestants" className="space-y-1">
          {contestants.map((contestant, i) => (
            <ContestantLine
              key={contestant.id}
              contestant={contestant}
              name={names[i]}
              hidden={hidden.has(contestant.id)}
              problem={runsOf(state, document, contestant).problem}
            />
          ))}
        </ul>
        <div className="flex flex-wrap gap-2">
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            title="The method and settings of Learn, as one more contestant"
            disabled={!canCompare(choice)}
            why="the method of Learn only evaluates a policy"
            onClick={() => compare.add(choice)}
          >
            Add the settings of Learn
          </Button>
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            title="Q-learning, SARSA and Expected SARSA with the settings of Learn"
            onClick={() => {
              for (const method of ['q-learning', 'sarsa', 'expected-sarsa'] as const)
                compare.add({ ...choice, method })
            }}
          >
            Add three methods
          </Button>
        </div>
      </Section>
      <Section title="Runs">
        <div className="flex items-end gap-2">
          <div className="w-24">
            <NumberField
              label="Runs each"
              whole
              value={runs}
              min={1}
              max={1000}
              hint="Runs 0, 1, 2 … of the seed: all contestants meet the same random numbers."
              onChange={(value) => compare.set({ runs: value })}
            />
          </div>
          {running ? (
            <Button onClick={compare.stop}>Stop</Button>
          ) : (
            <Button
              look={missing ? 'ink' : 'plain'}
              disabled={!missing}
              why={contestants.length ? 'all of these runs are done' : 'add a contestant first'}
              onClick={() => compare.start(document)}
            >
              Run
            </Button>
          )}
        </div>
        {state.picture === 'sweep' && <SweepFields />}
        {running && <RunProgress done={done} asked={asked} left={left} />}
        {failure && (
          <p role="alert" className="text-alert">
            {failure} Run them again.
          </p>
        )}
      </Section>
      {state.picture === 'sweep' ? (
        <SweepVerdicts />
      ) : (
        <Scores shown={shown.filter(({ runs: made }) => made.length > 0)} />
      )}
    </>
  )
}

/** A contestant of the list: how it is drawn, what it is, and what can be done with it. */
function ContestantLine({
  contestant,
  name,
  hidden,
  problem,
}: {
  contestant: Contestant
  name: string
  hidden: boolean
  problem: string | null
}) {
  const { compare, learn } = useParts()
  const [open, setOpen] = useState(false)
  const { id } = contestant
  return (
    <LineItem
      look={id}
      name={name}
      hidden={hidden}
      onHide={(next) => compare.hide(id, next)}
      onRemove={() => compare.remove(id)}
      actions={
        <>
          <Button
            look="quiet"
            className="!px-1 !py-0 text-[13px]"
            aria-expanded={open}
            aria-label={`Change ${name}`}
            onClick={() => setOpen(!open)}
          >
            Change
          </Button>
          <Button
            look="quiet"
            className="!px-1 !py-0"
            title="The same once more, to change one thing"
            aria-label={`Duplicate ${name}`}
            onClick={() => compare.duplicate(id)}
          >
            <Icon name="plus" className="size-3.5" />
          </Button>
        </>
      }
    >
      {problem && (
        <p role="alert" className="pl-[30px] text-alert">
          {problem}
        </p>
      )}
      {open && (
        <div className="my-1.5 space-y-2 border-l-4 border-rule-strong pl-2.5">
          <ContestantFields contestant={contestant} name={name} />
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            title="Its method and settings, in Learn"
            onClick={() => learn.choose(contestant.choice)}
          >
            Use its settings in Learn
          </Button>
        </div>
      )}
    </LineItem>
  )
}

interface Shown {
  readonly contestant: Contestant
  readonly name: string
  readonly runs: readonly LearningRun[]
}

/** What the runs came to, best first, and whether that was luck. */
function Scores({ shown }: { shown: readonly Shown[] }) {
  const { compare } = useParts()
  const wanted = useStore(compare.store, (state) => state.score)
  const covered = useCovered()
  const score: ScoreId = covered && wanted === 'exact' ? 'mean' : wanted
  const ranked = useMemo(
    () =>
      shown
        .map((each) => {
          const numbers = Float64Array.from(each.runs, SCORES[score].of).filter(
            (value) => !Number.isNaN(value),
          )
          return { ...each, count: numbers.length, ...meanWithError(numbers) }
        })
        .filter(({ count }) => count > 0)
        .sort((x, y) => y.mean - x.mean),
    [shown, score],
  )
  if (!shown.length) return null
  const [best, ...others] = ranked
  return (
    <Section title="Was it luck?">
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
      <table className="w-full text-[13px]">
        <caption className="sr-only">Mean over the runs, with half the width of its 95 % interval</caption>
        <thead>
          <tr className="border-b border-rule text-ink-soft">
            <th scope="col" className="text-left font-normal">
              contestant
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              runs
            </th>
            <th
              scope="col"
              className="pl-2 text-right font-normal"
              title="Mean, and 1.96 standard errors of it"
            >
              mean
            </th>
          </tr>
        </thead>
        <tbody>
          {ranked.map(({ contestant, name, count, mean, error }) => (
            <tr key={contestant.id}>
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {name}
              </th>
              <td className="pl-2 text-right">{formatCount(count)}</td>
              <td className="pl-2 text-right whitespace-nowrap">
                {fixedNumber(mean)}
                {count > 1 && ` ± ${fixedNumber(error)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {best &&
        others.map((other) => <Verdict key={other.contestant.id} best={best} other={other} score={score} />)}
      {ranked.length < shown.length && (
        <p className="text-[13px] text-ink-soft">
          The others have no such score: no episode was finished, or the model is too large for exact values.
        </p>
      )}
    </Section>
  )
}

/** Whether one contestant is better than another, in words. */
function Verdict({ best, other, score }: { best: Shown; other: Shown; score: ScoreId }) {
  const difference = useMemo(() => differenceOf(best.runs, other.runs, score), [best, other, score])
  if (!difference) return null
  const { runs, better, worse, mean, low, high, needed } = difference
  if (better + worse === 0)
    return (
      <p className="text-[13px] leading-[18px]" data-testid="verdict">
        <b>{best.name}</b> and <b>{other.name}</b> come to the same in all of {formatCount(runs)} runs.
      </p>
    )
  return (
    <p className="text-[13px] leading-[18px]" data-testid="verdict">
      <b>{best.name}</b> beats <b>{other.name}</b> in {formatCount(better)} of {formatCount(runs)} runs, by{' '}
      {fixedNumber(mean)} on average ({fixedNumber(low)} to {fixedNumber(high)}, 95 %).{' '}
      {low <= 0
        ? `These runs cannot tell them apart${Number.isFinite(needed) ? `; about ${formatCount(needed)} would, if this difference is real` : ''}.`
        : worse > 0
          ? `With one run you would have been wrong 1 time in ${formatCount(runs / worse)}.`
          : 'In no run was it the other way round.'}
    </p>
  )
}
