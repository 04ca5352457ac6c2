'use client'

import { useEffect, useState } from 'react'
import { useStore } from 'zustand'
import { pairedDifference } from '../../../core/evaluate/paired'
import { cutOffSentence, likeliest } from '../../../core/evaluate/rollout'
import { formatCount, formatNumber, signedNumber, significantNumber } from '../../../core/formats/number'
import { carryCheckpoint } from '../../../core/learn/checkpoint'
import { learnMethod } from '../../../core/learn/methods/methods'
import { World } from '../../../core/learn/world'
import { greedyPolicy } from '../../../core/plan/backup'
import { randomPolicy } from '../../../core/plan/evaluate'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'
import { Select } from '../../parts/Select'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { EQUIPROBABLE } from '../../../core/settings/first-choice'
import type { PolicySource } from '../../../session/plan/policy-source'
import { findPolicy, policySources } from '../../../session/plan/policy-sources'
import type { Contestant } from '../../../session/learn/trials-session'
import { WatchTrial } from './WatchTrial'

/** What the value of a choice begins with that stands for a kept table. */
/** The two ways to run a softmax policy. */
const MOST_LIKELY = 'most likely action'
const SAMPLED = 'sampled'
const KEPT = 'kept:'

/** What was learned, put to the test: episodes without learning, beside a random agent, a held policy and the optimum. */
export function TrialsPanel() {
  const { study, learn, trials, kept } = useParts()
  const compiled = useModel((state) => state.compiled)
  const choice = useStore(learn.store, (state) => state.running)
  // What the run on the board met: runs may have problems of their own.
  const problem = useStore(learn.store, (state) => state.problem)
  const spans = useStore(learn.store, (state) => state.frame?.spans)
  const { contestants, running, failure, measures } = useStore(trials.store)
  const drawn = useStudy((state) => state.document.policy !== undefined)
  const covered = useCovered()
  const { list, problems } = useStore(kept.store)
  useEffect(() => {
    void kept.refresh()
  }, [kept])
  const [episodes, setEpisodes] = useState(500)
  const [seed, setSeed] = useState(1)
  const [held, setHeld] = useState<string>('')
  if (!compiled || !choice) return null
  const model = problem ?? compiled.model
  const usable = (list ?? []).filter(({ holds }) => holds !== 'values')
  const sources: Record<string, string> = {
    '': 'none',
    ...policySources(compiled, null),
    ...Object.fromEntries(usable.map(({ id, name }) => [`${KEPT}${id}`, `kept: ${name}`])),
  }
  delete sources[EQUIPROBABLE]
  if (!drawn) delete sources.drawn
  /** The best actions of a table that was kept, carried to this environment by name. */
  const keptPolicy = async (id: string) => {
    const checkpoint = await kept.read(id)
    return (
      checkpoint &&
      kept.attempt(() => {
        const world = new World(model)
        const { table } = carryCheckpoint(checkpoint, world, checkpoint.holds)
        return world.toModelRows(
          greedyPolicy(
            world.tableStart,
            table.map((value) => (Number.isNaN(value) ? 0 : value)),
          ),
        )
      })
    )
  }
  const start = async () => {
    const { policy, behaviour } = await learn.take()
    const { purpose, tableHolds } = learnMethod(choice.method)
    const other = held.startsWith(KEPT)
      ? await keptPolicy(held.slice(KEPT.length))
      : held
        ? findPolicy(held as PolicySource, compiled, study.getState().document, learn)
        : null
    trials.start(
      model,
      { episodes, seed, cap: choice.cap, discount: choice.discount },
      [
        ...(purpose === 'prediction'
          ? [{ title: 'evaluated policy', policy }]
          : tableHolds === 'preferences'
            ? [
                { title: MOST_LIKELY, policy: likeliest(model, policy) },
                { title: SAMPLED, policy },
              ]
            : [
                { title: 'greedy policy', policy: likeliest(model, policy) },
                { title: 'behaviour policy (as it explores)', policy: behaviour },
              ]),
        ...(other ? [{ title: sources[held], policy: other }] : []),
        { title: 'uniform random policy', policy: randomPolicy(model) },
        ...(covered ? [] : [{ title: 'optimal policy', policy: null }]),
      ],
      compiled.measures,
    )
  }
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-[1fr_1fr_1.4fr_auto] items-end gap-2">
        <NumberField
          label="Trial episodes"
          whole
          value={episodes}
          min={1}
          max={100_000}
          hint="Played without learning."
          onChange={setEpisodes}
        />
        <NumberField
          label="Trial seed"
          whole
          value={seed}
          min={0}
          max={Number.MAX_SAFE_INTEGER}
          hint="All policies are given the same random numbers."
          onChange={setSeed}
        />
        <Select
          label="Compare with"
          value={held}
          options={sources}
          hint="Another policy to compare with."
          onChange={setHeld}
        />
        {running ? (
          <Button onClick={trials.stop}>Stop</Button>
        ) : (
          <Button look={contestants.length ? 'plain' : 'ink'} onClick={() => void start()}>
            Evaluate
          </Button>
        )}
      </div>
      {running && (
        <p role="status" className="text-[13px]">
          Playing …
        </p>
      )}
      {problems.length > 0 && <ProblemList problems={problems} />}
      {failure && (
        <p role="alert" className="text-alert">
          {failure}
        </p>
      )}
      {contestants.length > 0 && (
        <>
          <TrialsTable contestants={contestants} measures={measures.map(({ name }) => name)} />
          <Paired contestants={contestants} />
        </>
      )}
      <WatchTrial />
      {spans?.first != null && (
        <p className="text-[13px] text-ink-soft">
          While learning: mean return of the first {formatCount(spans.size)} episodes{' '}
          <b className="text-ink">{formatNumber(spans.first)}</b>
          {spans.next != null && (
            <>
              , of the next {formatCount(spans.size)} <b className="text-ink">{formatNumber(spans.next)}</b>
            </>
          )}
          {spans.last != null && (
            <>
              , of the last <b className="text-ink">{formatNumber(spans.last)}</b>
            </>
          )}
          .
        </p>
      )}
    </div>
  )
}

/** The two ways to run a softmax policy, episode by episode. */
function Paired({ contestants }: { contestants: readonly Contestant[] }) {
  const [likely, sampled] = [MOST_LIKELY, SAMPLED].map((title) =>
    contestants.find((each) => each.title === title),
  )
  const paired = likely && sampled && pairedDifference(likely.trials, sampled.trials)
  if (!paired) return null
  const { mean, standardError, episodes } = paired
  const clear = standardError !== null && Math.abs(mean) > 2 * standardError
  return (
    <p className="text-[13px]">
      Always taking the most likely action instead of sampling changes the return by{' '}
      <b>{signedNumber(mean, 3)}</b>
      {standardError !== null && ` ± ${significantNumber(standardError)} (standard error)`}, over the same{' '}
      {formatCount(episodes)} episodes
      {!clear && ': no difference that could not be chance'}.
    </p>
  )
}

/** What the cap did, each sentence once with those that it is true of. */
function cutOffNotes(contestants: readonly Contestant[], cap: number): [string, string[]][] {
  const notes = new Map<string, string[]>()
  for (const { title, trials } of contestants) {
    const said = cutOffSentence(trials, cap)
    if (said) notes.set(said, [...(notes.get(said) ?? []), title])
  }
  return [...notes]
}

function TrialsTable({
  contestants,
  measures,
}: {
  contestants: readonly Contestant[]
  measures: readonly string[]
}) {
  const { learn, trials } = useParts()
  const model = useStore(learn.store, (state) => state.problem)
  const watched = useStore(trials.store, (state) => state.watched?.title)
  const cap = useStore(trials.store, (state) => state.settings?.cap ?? 0)
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[13px]" aria-label="Trials">
        <thead>
          <tr className="border-b border-rule-strong text-ink-soft">
            <th scope="col" className="pr-1 text-left font-normal">
              Policy
            </th>
            <th
              scope="col"
              className="pl-1.5 text-right font-normal"
              title="Episodes that ended by themselves and, where some endings pay more than 0, in one that did"
            >
              success
            </th>
            <th
              scope="col"
              className="pl-1.5 text-right font-normal"
              title="Mean and standard deviation of the return"
            >
              return ±
            </th>
            <th scope="col" className="pl-1.5 text-right font-normal" title="Mean length of an episode">
              steps
            </th>
            {measures.map((name) => (
              <th key={name} scope="col" className="pl-1.5 text-right font-normal" title="Mean of an episode">
                {name.replaceAll('_', ' ')}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {contestants.map(({ title, trials: came }) => (
            <tr key={title} className="border-b border-rule">
              <th scope="row" className="py-0.5 pr-1 text-left font-normal">
                <button
                  type="button"
                  className={`text-left underline decoration-dotted underline-offset-4 ${watched === title ? 'font-semibold' : ''}`}
                  title="Watch an episode on the board"
                  onClick={() => model && trials.watch({ model, title, number: 0 })}
                >
                  {title}
                </button>
              </th>
              <td className="pl-1.5 text-right">
                {came.success === null ? '–' : `${formatNumber(came.success * 100, 1)} %`}
              </td>
              <td className="pl-1.5 text-right whitespace-nowrap">
                <b>{formatNumber(came.mean)}</b>{' '}
                <span className="text-ink-soft">
                  {came.spread === null ? '' : `± ${formatNumber(came.spread)}`}
                </span>
              </td>
              <td className="pl-1.5 text-right">{formatNumber(came.meanLength, 1)}</td>
              {came.measures.map((mean, m) => (
                <td key={measures[m]} className="pl-1.5 text-right">
                  {formatNumber(mean)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {cutOffNotes(contestants, cap).map(([said, titles]) => (
        <p key={said} className="mt-1 text-[13px] leading-[18px] text-ink-soft">
          {titles.length === contestants.length ? '' : `${titles.join(', ')}: `}
          {said}
        </p>
      ))}
    </div>
  )
}
