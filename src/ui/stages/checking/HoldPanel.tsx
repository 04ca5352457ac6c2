'use client'

import { useEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { walkOfEpisode } from '../../../core/check/walk'
import { followedName, followedPolicy, type Followed } from '../../../core/compare/followed'
import { histogramOf } from '../../../core/evaluate/histogram'
import { cutOffSentence, playTrial } from '../../../core/evaluate/rollout'
import { formatCount, formatNumber, significantNumber } from '../../../core/formats/number'
import type { Compiled } from '../../../core/kinds/kinds'
import { World } from '../../../core/learn/world'
import { ProblemError } from '../../../core/problem'
import { capFor } from '../../../core/settings/settings'
import type { Contestant } from '../../../session/learn/trials-session'
import { EChart } from '../../charts/EChart'
import { histogramChart } from '../../charts/histogram-chart'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'

/** Actions that are offered one by one. */
const ACTIONS = 40
const KEPT = 'kept '

/** A policy that does not learn, for many episodes: what it comes to, how episodes end, and any of them on the board. */
export function HoldPanel() {
  const { held, kept, study } = useParts()
  const compiled = useModel((state) => state.compiled)
  const drawing = useStudy((state) => state.document.policy)
  const covered = useCovered()
  const { contestants, running, failure, settings, measures } = useStore(held.store)
  const tables = useStore(kept.store, (state) => state.list)
  useEffect(() => {
    void kept.refresh()
  }, [kept])
  const [chosen, setChosen] = useState('random')
  const [episodes, setEpisodes] = useState(1000)
  const [seed, setSeed] = useState(1)
  const [problem, setProblem] = useState<string | null>(null)
  if (!compiled) return null
  const offers = offersOf(compiled, drawing, covered)
  const usable = (tables ?? []).filter(({ holds }) => holds !== 'values').slice(0, ACTIONS)
  const play = async () => {
    const { document } = study.getState()
    try {
      setProblem(null)
      const id = chosen.startsWith(KEPT) ? chosen.slice(KEPT.length) : null
      const checkpoint = id ? await kept.read(id) : null
      const follows: Followed = checkpoint
        ? { kind: 'table', checkpoint }
        : (offers.find((each) => each.id === chosen)?.follows ?? { kind: 'random' })
      held.start(
        compiled.model,
        { episodes, seed, cap: capFor(document.cap), discount: document.discount },
        [
          {
            title: followedName(follows),
            // The optimum is worked out where it takes nobody's time.
            policy: follows.kind === 'optimum' ? null : followedPolicy(compiled, follows, document.discount),
          },
        ],
        compiled.measures,
      )
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblem(error.message)
    }
  }
  const [contestant] = contestants
  return (
    <Section title="Hold a policy" hint="Episodes without learning: what one policy comes to.">
      <Select
        label="Policy"
        value={chosen}
        groups={[
          { title: 'Policies', options: offers.map(({ id, title }) => [id, title] as const) },
          ...(usable.length
            ? [
                {
                  title: 'Kept tables',
                  options: usable.map(({ id, name }) => [`${KEPT}${id}`, name] as const),
                },
              ]
            : []),
        ]}
        onChange={setChosen}
      />
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-3">
        <NumberField label="Episodes" whole value={episodes} min={1} max={100_000} onChange={setEpisodes} />
        <NumberField
          label="Seed"
          whole
          value={seed}
          min={0}
          max={Number.MAX_SAFE_INTEGER}
          hint="The same seed gives the same episodes."
          onChange={setSeed}
        />
        {running ? (
          <Button onClick={held.stop}>Stop</Button>
        ) : (
          <Button look={contestant ? 'plain' : 'ink'} onClick={() => void play()}>
            Play them
          </Button>
        )}
      </div>
      {(problem ?? failure) && (
        <p role="alert" className="text-[13px] text-alert">
          {problem ?? failure}
        </p>
      )}
      {running && (
        <p role="status" className="text-[13px]">
          Playing …
        </p>
      )}
      {contestant && settings && (
        <Played
          contestant={contestant}
          compiled={compiled}
          measures={measures.map(({ name }) => name)}
          cap={settings.cap}
        />
      )}
    </Section>
  )
}

function offersOf(
  { policies, model }: Compiled,
  drawing: Readonly<Record<string, string>> | undefined,
  covered: boolean,
): { readonly id: string; readonly title: string; readonly follows: Followed }[] {
  const offer = (id: string, follows: Followed) => ({ id, title: followedName(follows), follows })
  return [
    offer('random', { kind: 'random' }),
    ...(covered ? [] : [offer('optimum', { kind: 'optimum' })]),
    ...policies.map(({ title }) => offer(`written ${title}`, { kind: 'written', title })),
    ...(drawing ? [offer('drawn', { kind: 'drawn', drawing })] : []),
    ...model.actions.slice(0, ACTIONS).map((action) => offer(`action ${action}`, { kind: 'action', action })),
  ]
}

function Played({
  contestant: { title, policy, trials },
  compiled: { model },
  measures,
  cap,
}: {
  contestant: Contestant
  compiled: Compiled
  measures: readonly string[]
  cap: number
}) {
  const { check, held } = useParts()
  const settings = useStore(held.store, (state) => state.settings)
  const [shown, setShown] = useState<number | null>(null)
  const lengths = useMemo(() => trials.lengths.map(Math.abs), [trials])
  const episodes = trials.returns.length
  const walk = (number: number) => {
    if (!settings) return
    const k = Math.max(0, Math.min(episodes - 1, number))
    setShown(k)
    check.walk({
      kind: 'trial',
      walk: walkOfEpisode(model, playTrial(new World(model), policy, settings, k)),
      title: `episode ${formatCount(k + 1)} of the ${title}`,
    })
  }
  const cut = cutOffSentence(trials, cap)
  return (
    <div className="space-y-2 text-[13.5px]">
      <p>
        <b>{title}</b>: mean return <b className="text-brass">{formatNumber(trials.mean, 3)}</b>
        {trials.standardError !== null && ` ± ${significantNumber(trials.standardError)} (standard error)`}
        {trials.spread !== null && `, standard deviation ${significantNumber(trials.spread)}`};{' '}
        {formatNumber(trials.meanLength, 1)} steps on average
        {trials.success !== null && `; success ${formatNumber(100 * trials.success, 1)} %`}.
      </p>
      <Histogram values={trials.returns} of="return" axis="discounted return" onPick={walk} />
      <Histogram values={lengths} of="length" axis="steps" onPick={walk} />
      <table className="w-full" aria-label="How the episodes ended">
        <tbody>
          {endingsOf(trials, model.labels).map(({ name, count, first }) => (
            <tr key={name} className="border-b border-rule">
              <th scope="row" className="py-0.5 pr-1 text-left font-normal">
                <button
                  type="button"
                  className="text-left underline decoration-dotted underline-offset-4"
                  title="Shows the first of them on the board"
                  onClick={() => walk(first)}
                >
                  {name}
                </button>
              </th>
              <td className="text-right">
                {formatCount(count)}{' '}
                <span className="text-ink-soft">({significantNumber((100 * count) / episodes)} %)</span>
              </td>
            </tr>
          ))}
          {trials.measures.map((mean, m) => (
            <tr key={measures[m]} className="border-b border-rule">
              <th scope="row" className="py-0.5 pr-1 text-left font-normal">
                {measures[m].replaceAll('_', ' ')}, mean of an episode
              </th>
              <td className="text-right">{formatNumber(mean, 3)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {cut && <p className="text-[13px] text-ink-soft">{cut}</p>}
      <div className="flex items-end gap-2">
        <div className="w-40">
          <NumberField
            label="Episode on the board"
            whole
            value={(shown ?? 0) + 1}
            min={1}
            max={episodes}
            onChange={(number) => walk(number - 1)}
          />
        </div>
        <Button onClick={() => walk(shown === null ? 0 : shown + 1)}>
          {shown === null ? 'Show it' : 'Next one'}
        </Button>
      </div>
    </div>
  )
}

/** How often each value came over the episodes; a click on a bar picks the first episode in it. */
function Histogram({
  values,
  of,
  axis,
  onPick,
}: {
  values: Float64Array | Int32Array
  of: string
  axis: string
  onPick(episode: number): void
}) {
  const bars = useMemo(() => histogramOf(values), [values])
  const build = useMemo(() => histogramChart(bars, { name: axis, of: 'episodes' }), [bars, axis])
  return (
    <div className="h-36">
      <EChart
        small
        build={build}
        label={`Histogram of the ${of} of ${formatCount(values.length)} episodes`}
        onMark={(place) => onPick(bars[Number(place)].first)}
      />
    </div>
  )
}

/** How often each ending came, the most frequent first, and what was cut off. */
function endingsOf(
  { lasts, lengths }: Contestant['trials'],
  labels: readonly string[],
): { readonly name: string; readonly count: number; readonly first: number }[] {
  const found = new Map<string, { count: number; first: number }>()
  lasts.forEach((last, k) => {
    const name = lengths[k] < 0 ? 'cut off by the step limit' : `ended in ${labels[last]}`
    const known = found.get(name)
    if (known) known.count++
    else found.set(name, { count: 1, first: k })
  })
  return [...found]
    .map(([name, each]) => ({ name, ...each }))
    .sort((x, y) => y.count - x.count)
    .slice(0, 12)
}
