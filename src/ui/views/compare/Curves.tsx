'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import type { ComparisonView } from '../../../core/compare/comparison'
import { episodesPerPoint } from '../../../core/compare/learning-runs'
import { runMeasure, runMeasuresOf } from '../../../core/compare/run-measures'
import { BANDS, type BandKind } from '../../../core/compare/run-statistics'
import { formatCount } from '../../../core/formats/number'
import type { Compiled } from '../../../core/kinds/kinds'
import { bandChart } from '../../charts/band-chart'
import { EChart } from '../../charts/EChart'
import { Checkbox } from '../../parts/Checkbox'
import { LineSelect } from '../../parts/Select'
import { useCovered, useParts } from '../../study/study-context'
import { curveLines } from '../comparison-lines'
import { shownMeasure } from '../shown-told'
import { levelsOf, useDrawn, useOpenRun } from './drawn'

/** Points of a curve that may be smoothed over. */
const SMOOTH = [1, 5, 10, 20, 50]

/** What curves are of, and how they are drawn. */
export function CurveChoices({ compiled }: { compiled: Compiled | null }) {
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

/** A curve for each contestant, with its band. */
export function Curves() {
  const { compare } = useParts()
  const covered = useCovered()
  const view = useStore(compare.store, ({ comparison }) => comparison.view)
  const drawn = useDrawn()
  const { open, note } = useOpenRun(drawn)
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
          onMark={open}
        />
      </div>
      {note}
    </>
  )
}
