'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { VARIABLES } from '../../core/compare/variables'
import { contestantNames, sweepOf } from '../../core/compare/contestant'
import {
  episodesPerPoint,
  lastEpisodes,
  RUN_MEASURE_IDS,
  RUN_MEASURES,
  type RunMeasure,
} from '../../core/compare/learning-runs'
import {
  bandOver,
  BANDS,
  meanWithError,
  rolling,
  SCORES,
  type BandKind,
  type ScoreId,
} from '../../core/compare/run-statistics'
import { formatCount, formatNumber } from '../../core/formats/number'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import { runsOf, type CompareState } from '../../session/compare/compare-session'
import { bandChart, type BandLine } from '../charts/band-chart'
import { boxChart, type Box } from '../charts/box-chart'
import { EChart } from '../charts/EChart'
import { Button } from '../parts/Button'
import { LineSelect } from '../parts/Select'
import { useCovered, useParts, useStudy } from '../study/study-context'

/** Points of a curve that may be smoothed over. */
const SMOOTH = [1, 5, 10, 20, 50]

/** The contestants of Compare in one picture: what they earn over the episodes. */
export function ComparisonPane(_: { compiled: Compiled | null }) {
  const { compare, learn } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const state = useStore(compare.store)
  const optimum = useStore(learn.store, (learning) => learning.optimum?.optimum ?? null)
  const { contestants, picture, sweep, measure, smooth, band, running, done, asked, left } = state
  const score = covered && state.score === 'exact' ? 'mean' : state.score
  const lines = useMemo(
    () => (picture === 'sweep' ? sweptLines(state, document, score) : curvesOf(state, document)),
    [state, document, picture, score],
  )
  const episodes = Math.max(0, ...lines.map(({ x }) => x[x.length - 1]))
  // The optimum is that of the environment as it stands, without knobs turned for a contestant.
  const plain = contestants.every(
    ({ knobs, choice }) => Object.keys(knobs).length === 0 && choice.discount === document.discount,
  )
  const level =
    measure === 'return' && plain && !covered && optimum !== null
      ? { title: `optimum ${formatNumber(optimum)}`, value: optimum }
      : null
  const boxes = useMemo(
    () => (picture === 'spread' ? boxesOf(state, document, score) : []),
    [state, document, picture, score],
  )
  const build = useMemo(
    () =>
      picture === 'spread'
        ? boxes.length
          ? boxChart(boxes, SCORES[score].title, score === 'exact' ? level : null)
          : null
        : lines.length
          ? bandChart(lines, {
              x:
                picture === 'sweep'
                  ? { name: VARIABLES[sweep.varied].title, min: sweep.from, max: sweep.to }
                  : { name: 'episode', min: 0, max: episodes },
              along: picture === 'sweep' ? 'doublings' : 'even',
              y: picture === 'sweep' ? SCORES[score].title : RUN_MEASURES[measure].axis,
              share: false,
              bands: true,
              level: picture === 'sweep' ? null : level,
            })
          : null,
    // `level` is made anew each time: what it is made of tells whether it changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [lines, boxes, picture, sweep, score, episodes, measure, level?.value],
  )
  return (
    <>
      <div className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1.5 text-[13px]">
        <LineSelect
          label="Picture"
          labelled
          value={picture}
          options={[
            ['curves', 'curves'],
            ['spread', 'spread of the runs'],
            ['sweep', 'sweep of a setting'],
          ]}
          onChange={(value) => compare.set({ picture: value as CompareState['picture'] })}
        />
        {picture !== 'curves' && <span className="text-ink-soft">by the {SCORES[score].title}</span>}
        {picture === 'curves' && (
          <>
            <LineSelect
              label="of"
              labelled
              hint={RUN_MEASURES[measure].hint}
              value={measure}
              options={RUN_MEASURE_IDS.map((id) => [id, RUN_MEASURES[id].title.toLowerCase()] as const)}
              onChange={(value) => compare.set({ measure: value as RunMeasure })}
            />
            <LineSelect
              label="mean over"
              labelled
              hint="A rolling mean over so many episodes of each run."
              value={String(smooth)}
              options={SMOOTH.map(
                (points) =>
                  [
                    String(points),
                    `${formatCount(points * episodesPerPoint(Math.max(1, episodes)))} episodes`,
                  ] as const,
              )}
              onChange={(value) => compare.set({ smooth: Number(value) })}
            />
            <LineSelect
              label="shown as"
              labelled
              hint={BANDS[band].hint}
              value={band}
              options={Object.entries(BANDS).map(([id, { title }]) => [id, title] as const)}
              onChange={(value) => compare.set({ band: value as BandKind })}
            />
          </>
        )}
        {running && (
          <span role="status" className="text-ink-soft">
            {formatCount(done)} of {formatCount(asked)} runs
            {left !== null && left > 1500 && `, about ${formatCount(left / 1000)} s left`} …
          </span>
        )}
      </div>
      <div className="min-h-0 flex-1">
        {build ? (
          <EChart
            build={build}
            label={
              picture === 'spread'
                ? `Runs by the ${SCORES[score].title}: ${boxes.map(({ title }) => title).join('; ')}`
                : `${
                    picture === 'sweep'
                      ? `The ${SCORES[score].title} over the ${VARIABLES[sweep.varied].title}`
                      : `${RUN_MEASURES[measure].title} over the episodes`
                  }: ${lines.map(({ title }) => title).join('; ')}`
            }
          />
        ) : (
          <div className="mt-16 space-y-3 text-center text-ink-soft">
            <p>
              {contestants.length
                ? 'Many runs of each contestant, in one picture.'
                : 'Which agent, which setting, which environment, and was it luck? Add contestants at the right.'}
            </p>
            {contestants.length > 0 && !running && (
              <Button look="ink" onClick={() => compare.start(document)}>
                Run them
              </Button>
            )}
          </div>
        )}
      </div>
    </>
  )
}

/** A curve for each contestant that has some runs. */
function curvesOf(state: CompareState, document: EnvironmentDocument): BandLine[] {
  const { contestants, hidden, measure, band, smooth } = state
  const names = contestantNames(contestants)
  return contestants.flatMap((contestant, i): BandLine[] => {
    const { runs } = runsOf(state, document, contestant)
    if (hidden.has(contestant.id) || !runs.length) return []
    return [
      {
        title: names[i],
        look: contestant.id,
        x: lastEpisodes(contestant.choice.episodes),
        ...bandOver(
          runs.map(({ curves }) => rolling(curves[measure], smooth)),
          band,
        ),
      },
    ]
  })
}

/** The scores of the runs of each contestant that has some. */
function boxesOf(state: CompareState, document: EnvironmentDocument, score: ScoreId): Box[] {
  const { contestants, hidden } = state
  const names = contestantNames(contestants)
  return contestants.flatMap((contestant, i): Box[] => {
    if (hidden.has(contestant.id)) return []
    const { runs } = runsOf(state, document, contestant)
    const known = runs.filter((run) => !Number.isNaN(SCORES[score].of(run)))
    if (!known.length) return []
    return [
      {
        title: names[i],
        look: contestant.id,
        runs: known.map(({ run }) => run),
        values: Float64Array.from(known, SCORES[score].of),
      },
    ]
  })
}

/** The score of each contestant over the values of the setting that is swept. */
function sweptLines(state: CompareState, document: EnvironmentDocument, score: ScoreId): BandLine[] {
  const { contestants, hidden, sweep } = state
  const names = contestantNames(contestants)
  return contestants.flatMap((each, i): BandLine[] => {
    if (hidden.has(each.id)) return []
    const points = sweepOf(each, sweep).flatMap(({ value, contestant }) => {
      const scores = Float64Array.from(runsOf(state, document, contestant).runs, SCORES[score].of)
      const known = scores.filter((number) => !Number.isNaN(number))
      return known.length ? [{ value, ...meanWithError(known) }] : []
    })
    if (!points.length) return []
    return [
      {
        title: names[i],
        look: each.id,
        x: points.map(({ value }) => value),
        middle: points.map(({ mean }) => mean),
        low: points.map(({ mean, error }) => mean - error),
        high: points.map(({ mean, error }) => mean + error),
      },
    ]
  })
}
