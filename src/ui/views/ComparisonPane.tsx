'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { PICTURES, type ComparisonView, type Picture } from '../../core/compare/comparison'
import { episodesPerPoint } from '../../core/compare/learning-runs'
import { runMeasure, runMeasuresOf } from '../../core/compare/run-measures'
import { BANDS, type BandKind } from '../../core/compare/run-statistics'
import { scoreOf } from '../../core/compare/scores'
import { variedTitle } from '../../core/compare/sweep'
import { readValues } from '../../core/compare/value-range'
import { formatCount, formatNumber } from '../../core/formats/number'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import { missingRuns } from '../../session/compare/compare-runs'
import { bandChart, runName, type Level } from '../charts/band-chart'
import { boxChart } from '../charts/box-chart'
import { EChart } from '../charts/EChart'
import { heatCellName, heatChart } from '../charts/heat-chart'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { LineSelect } from '../parts/Select'
import { useCovered, useParts, useStudy } from '../study/study-context'
import {
  curveLines,
  drawnContestants,
  lineCellName,
  nearestCell,
  scoreBoxes,
  sweptContestants,
  sweptLines,
  sweptMap,
  type Drawn,
} from './comparison-lines'
import { shownMeasure, shownScore } from './shown-told'
import { TrialTable } from './TrialTable'
import { UseInLearn } from './UseInLearn'

/** Points of a curve that may be smoothed over. */
const SMOOTH = [1, 5, 10, 20, 50]

/** The contestants of Compare in one picture. */
export function ComparisonPane({ compiled }: { compiled: Compiled | null }) {
  const { compare, jobs, study } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const atWork = useStore(jobs.store, ({ jobs: list }) =>
    list.some((job) => job.state === 'active' && job.environment.id === study.getState().id),
  )
  const { comparison, running, done, asked, left } = state
  const { view, contestants } = comparison
  const { picture } = view
  return (
    <>
      <div className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1.5 text-[13px]">
        <LineSelect
          label="Picture"
          labelled
          value={picture}
          options={Object.entries(PICTURES)}
          onChange={(value) => compare.look({ picture: value as Picture })}
        />
        {picture === 'curves' && <CurveChoices compiled={compiled} />}
        {running && (
          <span role="status" className="text-ink-soft">
            {formatCount(done)} of {formatCount(asked)} runs
            {left !== null && left > 1500 && `, about ${formatCount(left / 1000)} s left`} …
          </span>
        )}
      </div>
      <div className="flex min-h-0 flex-1 flex-col">
        {contestants.length ? (
          picture === 'curves' ? (
            <Curves />
          ) : picture === 'sweep' ? (
            <SweepPicture />
          ) : (
            <Spread />
          )
        ) : (
          <p className="mt-16 text-center text-ink-soft">
            Which agent, which setting, which environment, and was it luck? Add contestants at the right.
          </p>
        )}
        {contestants.length > 0 && !running && !atWork && missingRuns(state, document) > 0 && (
          <p className="shrink-0 py-2 text-center text-[13px] text-ink-soft">
            {formatCount(missingRuns(state, document))} runs are still to be played.{' '}
            <Button look="ink" className="!px-2 !py-0.5" onClick={() => compare.start(document)}>
              Run them
            </Button>
          </p>
        )}
      </div>
    </>
  )
}

/** What curves are of, and how they are drawn. */
function CurveChoices({ compiled }: { compiled: Compiled | null }) {
  const { compare } = useParts()
  const covered = useCovered()
  const { contestants, view } = useStore(compare.store, ({ comparison }) => comparison)
  const { along, smooth, rolling, band, beneath, logarithmic, singles } = view
  const measure = shownMeasure(view.measure, covered)
  const measures = useMemo(() => {
    const offered = compiled ? runMeasuresOf(compiled) : ['return']
    const told = offered.filter((id) => !covered || !runMeasure(id)?.exact)
    return told.includes(measure) ? told : [measure, ...told]
  }, [compiled, covered, measure])
  const words = runMeasure(measure)!
  const episodes = Math.max(1, ...contestants.map(({ choice }) => choice.episodes))
  const look = (part: Partial<ComparisonView>) => compare.look(part)
  return (
    <>
      <LineSelect
        label="of"
        labelled
        hint={words.hint}
        value={measure}
        options={measures.map((id) => [id, runMeasure(id)!.title.toLowerCase()] as const)}
        onChange={(value) => look({ measure: value })}
      />
      <LineSelect
        label="over"
        labelled
        value={along}
        options={[
          ['episodes', 'episodes'],
          ['steps', 'steps'],
        ]}
        onChange={(value) => look({ along: value as ComparisonView['along'] })}
      />
      <LineSelect
        label="Rolling"
        value={rolling}
        disabled={words.standsAlone}
        options={[
          ['mean', 'mean over'],
          ['sum', 'sum over'],
        ]}
        onChange={(value) => look({ rolling: value as ComparisonView['rolling'] })}
      />
      <LineSelect
        label="Window"
        hint={
          words.standsAlone ? 'These curves are drawn as they are.' : 'Over so many episodes of each run.'
        }
        disabled={words.standsAlone}
        value={String(smooth)}
        options={SMOOTH.map(
          (points) =>
            [String(points), `${formatCount(points * episodesPerPoint(episodes))} episodes`] as const,
        )}
        onChange={(value) => look({ smooth: Number(value) })}
      />
      <LineSelect
        label="shown as"
        labelled
        hint={BANDS[band].hint}
        value={band}
        options={Object.entries(BANDS).map(([id, { title }]) => [id, title] as const)}
        onChange={(value) => look({ band: value as BandKind })}
      />
      <LineSelect
        label="beneath"
        labelled
        hint="Drawn beneath on the same axis: the mean over the runs."
        value={beneath ?? ''}
        options={[
          ['', 'nothing'],
          ['level', 'exploration'],
          ['rate', 'learning rate'],
        ]}
        onChange={(value) => look({ beneath: (value || null) as ComparisonView['beneath'] })}
      />
      <Checkbox checked={logarithmic} onChange={(checked) => look({ logarithmic: checked })}>
        logarithmic
      </Checkbox>
      <Checkbox
        checked={singles}
        title="Every run as a thin line; a click opens it in Learn"
        onChange={(checked) => look({ singles: checked })}
      >
        single runs
      </Checkbox>
    </>
  )
}

/** The value of the optimum and of the random policy, where all contestants that are drawn have the same. */
function levelsOf(drawn: readonly Drawn[]): Level[] {
  const common = (of: (run: Drawn['runs'][number]) => number | null): number | null => {
    const all = drawn.flatMap(({ runs }) => runs.map(of))
    const [first] = all
    return first !== undefined &&
      first !== null &&
      all.every((each) => each !== null && Math.abs(each - first) < 1e-9)
      ? first
      : null
  }
  const [optimum, random] = [common((run) => run.optimum), common((run) => run.random)]
  const has = (kind: string) => drawn.some(({ contestant }) => contestant.follows?.kind === kind)
  return [
    ...(optimum === null || has('optimum')
      ? []
      : [{ title: `optimum ${formatNumber(optimum, 2)}`, value: optimum }]),
    ...(random === null || has('random')
      ? []
      : [{ title: `random ${formatNumber(random, 2)}`, value: random, optional: true }]),
  ]
}

/** Opens a single run in Learn, by the name it is drawn under. */
function useOpenRun(): (drawn: readonly Drawn[], name: string) => string | null {
  const { learn, study, compare } = useParts()
  return (drawn, name) => {
    for (const { contestant, name: title, runs, stale } of drawn)
      for (const { run } of runs) {
        if (runName(title, run) !== name) continue
        if (stale) return 'Its settings or its environment were changed since: run it again first.'
        const { follows, environment, knobs, choice } = contestant
        if (follows) return 'It does not learn: there is nothing to go through in Learn.'
        if (environment) return `It learns in another environment, “${environment.name}”: open that one.`
        if (Object.keys(knobs).length)
          return `It learns with ${Object.keys(knobs).join(', ')} turned: turn it in Build first.`
        void compare.shelf.save()
        learn.choose({ ...choice, run })
        learn.restart()
        study.getState().show('learn')
        return null
      }
    return null
  }
}

function useDrawn(document: EnvironmentDocument): readonly Drawn[] {
  const { compare } = useParts()
  const state = useStore(compare.store)
  return useMemo(() => drawnContestants(state, document), [state, document])
}

function Curves() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const view = useStore(compare.store, ({ comparison }) => comparison.view)
  const drawn = useDrawn(document)
  const openRun = useOpenRun()
  const [note, setNote] = useState<string | null>(null)
  const { along, logarithmic, beneath } = view
  const measure = shownMeasure(view.measure, covered)
  const words = runMeasure(measure)!
  const lines = useMemo(() => curveLines(drawn, measure, view), [drawn, measure, view])
  const below = useMemo(
    () => (beneath ? curveLines(drawn, beneath, { ...view, band: 'interval', singles: false }) : []),
    [drawn, beneath, view],
  )
  const levels = useMemo(
    () =>
      !covered && (measure === 'greedy' || (measure === 'return' && view.rolling === 'mean'))
        ? levelsOf(drawn)
        : [],
    [drawn, measure, covered, view.rolling],
  )
  const build = useMemo(() => {
    if (!lines.length) return null
    const ends = lines.map(({ x }) => x[x.length - 1])
    return bandChart(lines, {
      x: {
        name: along === 'steps' ? 'steps' : 'episode',
        min: logarithmic ? Math.min(...lines.map(({ x }) => x[0])) : 0,
        max: Math.max(...ends),
      },
      along: logarithmic ? 'tens' : 'even',
      y: view.rolling === 'sum' && !words.standsAlone ? `${words.axis}, summed up` : words.axis,
      share: (words.share ?? false) && view.rolling === 'mean',
      bands: true,
      levels,
      beneath: beneath && below.length ? { title: runMeasure(beneath)!.axis, lines: below } : null,
    })
  }, [lines, below, levels, along, logarithmic, beneath, words, view.rolling])
  if (!build) return null
  return (
    <>
      <div className="min-h-0 flex-1">
        <EChart
          build={build}
          label={`${words.title} over the ${along}: ${lines.map(({ title }) => title).join('; ')}`}
          onMark={(name) => setNote(openRun(drawn, name))}
        />
      </div>
      {note && (
        <p role="status" className="shrink-0 text-[13px] text-ink-soft">
          {note}
        </p>
      )}
    </>
  )
}

/** The runs by their score, or the episodes after training, with the table of those. */
function Spread() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const { view } = useStore(compare.store, ({ comparison }) => comparison)
  const drawn = useDrawn(document)
  const openRun = useOpenRun()
  const [note, setNote] = useState<string | null>(null)
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
          onMark={(name) => setNote(openRun(drawn, name))}
        />
      </div>
      {note && (
        <p role="status" className="shrink-0 text-[13px] text-ink-soft">
          {note}
        </p>
      )}
      {trials && <TrialTable drawn={drawn} />}
    </>
  )
}

/** Scores over the values of one setting, or a map over two. */
function SweepPicture() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const state = useStore(compare.store)
  const { sweep, score: wanted } = state.comparison.view
  const score = shownScore(wanted, covered)
  const swept = useMemo(() => sweptContestants(state, document), [state, document])
  const [shown, setShown] = useState<number | null>(null)
  const [cell, setCell] = useState<string | null>(null)
  const of = swept.find(({ contestant }) => contestant.id === shown) ?? swept[0]
  const [along, up] = sweep.axes
  const { title, smaller = false } = scoreOf(score)
  const lines = useMemo(() => (up ? [] : sweptLines(swept, score)), [up, swept, score])
  // Telling cells apart takes its time: not while runs come in.
  const map = useMemo(
    () => (up && of && !state.running ? sweptMap(of, score) : []),
    [up, of, score, state.running],
  )
  const build = useMemo(() => {
    if (up)
      return map.length
        ? heatChart(map, { x: variedTitle(along.varied), y: variedTitle(up.varied), smaller })
        : null
    if (!lines.length) return null
    const values = numbersOf(along.values)
    return bandChart(lines, {
      x: { name: variedTitle(along.varied), min: values[0], max: values[values.length - 1] },
      along: goesByFactors(values) ? 'doublings' : 'even',
      marks: true,
      y: title,
      share: false,
      bands: true,
    })
  }, [up, map, along, lines, title, smaller])
  const picked = up
    ? of?.cells.find(({ values: [x, y] }) => heatCellName({ x, y }) === cell)
    : swept.flatMap(({ cells }) => cells).find((each) => lineCellName(each) === cell)
  return (
    <>
      {up && swept.length > 1 && (
        <div className="text-[13px]">
          <LineSelect
            label="Map of"
            labelled
            value={String(of.contestant.id)}
            options={swept.map(({ contestant, name }) => [String(contestant.id), name] as const)}
            onChange={(value) => setShown(Number(value))}
          />
        </div>
      )}
      {build && (
        <div className="min-h-0 flex-1">
          <EChart
            build={build}
            label={`The ${title} over the ${sweep.axes.map(({ varied }) => variedTitle(varied)).join(' and the ')}: ${
              up ? of.name : lines.map((line) => line.title).join('; ')
            }`}
            onMark={up ? setCell : undefined}
            onPick={
              up
                ? undefined
                : (x, y) => setCell(nearestCell(swept, lines, x, y, goesByFactors(numbersOf(along.values))))
            }
          />
        </div>
      )}
      {up && build && (
        <p className="shrink-0 text-[13px] text-ink-soft">
          Darker is better. Double frame: the best; single frame: not told from it by these runs. A click
          shows a cell.
        </p>
      )}
      {picked && (
        <p className="flex shrink-0 flex-wrap items-center gap-2 py-1 text-[13px]" role="status">
          {sweep.axes.map(({ varied }, i) => `${variedTitle(varied)} ${picked.values[i]}`).join(', ')}:
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            onClick={() => {
              const { id: _, ...contestant } = picked.contestant
              compare.insert(contestant)
              compare.look({ picture: 'curves' })
            }}
          >
            Show its curve
          </Button>
          {!picked.contestant.follows && <UseInLearn choice={picked.contestant.choice} />}
        </p>
      )}
    </>
  )
}

function numbersOf(values: string): number[] {
  try {
    return readValues(values)
  } catch (error) {
    if (error instanceof ProblemError) return [0, 1]
    throw error
  }
}

/** Whether values are better drawn by their factors than by their distances. */
function goesByFactors(values: readonly number[]): boolean {
  return values.length > 2 && values[0] > 0 && values[values.length - 1] / values[0] >= 16
}
