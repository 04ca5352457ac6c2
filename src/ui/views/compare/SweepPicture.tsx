'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { scoreOf } from '../../../core/compare/scores'
import { axisValues, isOption, variedTitle, type Sweep, type SweepAxis } from '../../../core/compare/sweep'
import { ProblemError } from '../../../core/problem'
import { bandChart } from '../../charts/band-chart'
import { EChart } from '../../charts/EChart'
import { heatCellName, heatChart } from '../../charts/heat-chart'
import { Button } from '../../parts/Button'
import { LineSelect } from '../../parts/Select'
import { useCovered, useParts, useStudy } from '../../study/study-context'
import {
  lineCellName,
  nearestCell,
  sweepValueText,
  sweptContestants,
  sweptLines,
  sweptMap,
  wordsOf,
} from '../comparison-lines'
import { shownScore } from '../shown-told'
import { UseInLearn } from '../UseInLearn'

/** Scores over the values of one setting, or a map over two. */
export function SweepPicture() {
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
        ? heatChart(map, {
            x: variedTitle(along.varied),
            y: variedTitle(up.varied),
            smaller,
            words: [along, up].map(wordsOf),
          })
        : null
    if (!lines.length) return null
    const values = placesOf(along)
    const words = wordsOf(along)
    return bandChart(lines, {
      x: { name: variedTitle(along.varied), min: values[0], max: values[values.length - 1] },
      ...(words ? { words } : {}),
      along: goesByFactors(values) ? 'doublings' : 'even',
      marks: true,
      y: title,
      share: false,
      bands: true,
    })
  }, [up, map, along, lines, title, smaller])
  const picked = up
    ? of?.cells.find(({ at: [x, y] }) => heatCellName({ x, y }) === cell)
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
                : (x, y) => setCell(nearestCell(swept, lines, x, y, goesByFactors(placesOf(along))))
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
          {sweep.axes
            .map(({ varied }, i) => `${variedTitle(varied)} ${sweepValueText(picked.values[i])}`)
            .join(', ')}
          :
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
          {!picked.contestant.follows && !takesOption(sweep) && (
            <UseInLearn choice={picked.contestant.choice} />
          )}
        </p>
      )}
    </>
  )
}

/** Whether the environment of a cell is not as it stands in Build. */
function takesOption({ axes }: Sweep): boolean {
  return axes.some(({ varied }) => isOption(varied))
}

/** The places along an axis. */
function placesOf(axis: SweepAxis): number[] {
  try {
    return axisValues(axis).map((value, i) => (typeof value === 'string' ? i : value))
  } catch (error) {
    if (error instanceof ProblemError) return [0, 1]
    throw error
  }
}

/** Whether values are better drawn by their factors than by their distances. */
function goesByFactors(values: readonly number[]): boolean {
  return values.length > 2 && values[0] > 0 && values[values.length - 1] / values[0] >= 16
}
