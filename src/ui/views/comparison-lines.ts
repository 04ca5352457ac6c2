import type { Comparison } from '../../core/compare/comparison'
import { contestantNames, type Contestant } from '../../core/compare/contestant'
import { episodesPerPoint, lastEpisodes, type LearningRun } from '../../core/compare/learning-runs'
import { runMeasure } from '../../core/compare/run-measures'
import {
  alongSteps,
  bandOver,
  bestOf,
  meanWithError,
  rolling,
  rollingSum,
} from '../../core/compare/run-statistics'
import { scoreOf, scoresOf } from '../../core/compare/scores'
import {
  axisValues,
  isOption,
  sweepOf,
  type SweepAxis,
  type SweepCell,
  type SweepValue,
} from '../../core/compare/sweep'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import { runsOf } from '../../session/compare/compare-runs'
import type { CompareState } from '../../session/compare/compare-state'
import { fraction, type BandLine } from '../charts/band-chart'
import type { Box } from '../charts/box-chart'
import type { HeatCell } from '../charts/heat-chart'

/** Points of a curve over steps. */
const PLACES = 200

/** A contestant that is drawn, with the runs it has. */
export interface Drawn {
  readonly contestant: Contestant
  readonly name: string
  readonly runs: readonly LearningRun[]
  /** Whether they are of before its settings or its environment were changed. */
  readonly stale: boolean
}

/** The contestants that are shown and have runs. */
export function drawnContestants(state: CompareState, document: EnvironmentDocument): Drawn[] {
  const { contestants, hidden, runs: wanted } = state.comparison
  const names = contestantNames(contestants)
  return contestants.flatMap((contestant, i) => {
    if (hidden.includes(contestant.id)) return []
    const { runs, stale } = runsOf(state, document, contestant)
    const shown = runs.filter(({ run }) => run < wanted)
    return shown.length
      ? [{ contestant, name: stale ? `${names[i]} (as it was before)` : names[i], runs: shown, stale }]
      : []
  })
}

/** A curve for each contestant whose runs tell of the measure. */
export function curveLines(
  drawn: readonly Drawn[],
  measure: string,
  { along, smooth, rolling: kind, band, singles }: Comparison['view'],
): BandLine[] {
  const words = runMeasure(measure)
  const smoothed = words?.standsAlone ? 1 : smooth
  const told = drawn.flatMap((each) => {
    const runs = each.runs.filter(({ curves }) => curves[measure] && curves.steps)
    return runs.length ? [{ ...each, runs }] : []
  })
  const most = Math.max(0, ...told.flatMap(({ runs }) => runs.map(({ steps }) => steps)))
  const count = Math.max(1, Math.min(PLACES, most))
  const places = Float64Array.from({ length: count }, (_, i) => Math.round((most * (i + 1)) / count))
  return told.map(({ contestant, name, runs, stale }): BandLine => {
    // As far as all runs of it came: the few that took longest would stand for all of them.
    const until = Math.min(...runs.map(({ steps }) => steps))
    const curves = runs.map(({ curves: of }) => {
      const curve =
        kind === 'sum' && !words?.standsAlone
          ? rollingSum(of[measure], smoothed, episodesPerPoint(runs[0].episodes))
          : rolling(of[measure], smoothed)
      return along === 'steps'
        ? alongSteps(curve, of.steps, places).map((value, k) => (places[k] <= until ? value : NaN))
        : curve
    })
    return {
      title: name,
      look: contestant.id,
      faded: stale,
      x: along === 'steps' ? places : lastEpisodes(runs[0].episodes),
      ...bandOver(curves, band),
      ...(singles ? { singles: runs.map(({ run }, i) => ({ run, y: curves[i] })) } : {}),
    }
  })
}

/** The scores of the runs of each contestant that has some. */
export function scoreBoxes(drawn: readonly Drawn[], score: string): Box[] {
  const { of } = scoreOf(score)
  return drawn.flatMap(({ contestant, name, runs }): Box[] => {
    const known = runs.filter((run) => !Number.isNaN(of(run)))
    if (!known.length) return []
    return [
      {
        title: name,
        look: contestant.id,
        runs: known.map(({ run }) => run),
        values: Float64Array.from(known, of),
      },
    ]
  })
}

/** A cell of a sweep with the runs it has. */
export interface SweptCell extends SweepCell {
  /** [axes] where it is drawn: at its number, or the place of its word among the words */
  readonly at: readonly number[]
  readonly runs: readonly LearningRun[]
}

/** A contestant over a sweep. */
export interface Swept {
  readonly contestant: Contestant
  readonly name: string
  readonly cells: readonly SweptCell[]
}

/** The cells of a sweep of each contestant that is shown; none where its values cannot be read. */
export function sweptContestants(state: CompareState, document: EnvironmentDocument): Swept[] {
  const { contestants, hidden, view, runs: wanted } = state.comparison
  const names = contestantNames(contestants)
  try {
    const words = view.sweep.axes.map(wordsOf)
    return contestants.flatMap((contestant, i) => {
      if (hidden.includes(contestant.id)) return []
      const cells = sweepOf(contestant, view.sweep, document).map((cell) => ({
        ...cell,
        at: cell.values.map((value, axis) =>
          typeof value === 'number' ? value : (words[axis]?.indexOf(value) ?? 0),
        ),
        // What a cell had before it was changed belongs to other values.
        runs: runsOf({ results: state.results, before: {} }, document, cell.contestant).runs.filter(
          ({ run }) => run < wanted,
        ),
      }))
      return cells.length ? [{ contestant, name: names[i], cells }] : []
    })
  } catch (error) {
    if (error instanceof ProblemError) return []
    throw error
  }
}

/** What stands along an axis, where it is words. @throws ProblemError for values that cannot be read */
export function wordsOf(axis: SweepAxis): readonly string[] | null {
  return isOption(axis.varied) ? axisValues(axis).map(String) : null
}

/** A value of a sweep, as it is told. */
export function sweepValueText(value: SweepValue): string {
  return typeof value === 'string' ? value : fraction(value)
}

/** The score of each contestant over the one setting that is swept. */
export function sweptLines(swept: readonly Swept[], score: string): BandLine[] {
  return swept.flatMap(({ contestant, name, cells }): BandLine[] => {
    const points = cells.flatMap(({ at: [value], runs }) => {
      const known = scoresOf(runs, scoreOf(score))
      return known.length ? [{ value, ...meanWithError(known) }] : []
    })
    if (!points.length) return []
    return [
      {
        title: name,
        look: contestant.id,
        x: points.map(({ value }) => value),
        middle: points.map(({ mean }) => mean),
        low: points.map(({ mean, error }) => mean - error),
        high: points.map(({ mean, error }) => mean + error),
      },
    ]
  })
}

/** A cell of a sweep over one setting, for telling cells apart. */
export function lineCellName({ values, contestant }: SweptCell): string {
  return `${contestant.id} ${values[0]}`
}

/** The cell that is drawn nearest to a place in the plot, across first. */
export function nearestCell(
  swept: readonly Swept[],
  lines: readonly BandLine[],
  x: number,
  y: number,
  byFactors: boolean,
): string | null {
  const place = (value: number) => (byFactors ? Math.log(value) : value)
  let best: { readonly cell: SweptCell; readonly across: number; readonly up: number } | null = null
  for (const { contestant, cells } of swept) {
    const line = lines.find(({ look }) => look === contestant.id)
    if (!line) continue
    for (const cell of cells) {
      const at = Array.from(line.x).indexOf(cell.at[0])
      if (at < 0) continue
      const across = Math.abs(place(cell.at[0]) - place(x))
      const up = Math.abs(line.middle[at] - y)
      if (!best || across < best.across - 1e-12 || (across < best.across + 1e-12 && up < best.up))
        best = { cell, across, up }
    }
  }
  return best && lineCellName(best.cell)
}

/** The map of a sweep over two settings, of one contestant. */
export function sweptMap({ cells }: Swept, score: string): HeatCell[] {
  const found = bestOf(
    cells.map(({ runs }) => runs),
    score,
  )
  return cells.flatMap(({ at, runs }, i) => {
    const known = scoresOf(runs, scoreOf(score))
    if (!known.length) return []
    return [
      {
        x: at[0],
        y: at[1],
        ...meanWithError(known),
        mark: found?.best === i ? ('best' as const) : found?.alike.includes(i) ? ('alike' as const) : null,
      },
    ]
  })
}

/** What the episodes after training came to, of one contestant: means over its runs. */
export interface TrialRow {
  readonly id: number
  readonly name: string
  readonly runs: number
  /** By column; null where there is no such number. */
  readonly numbers: Readonly<Record<string, number | null>>
}

/** The columns of the table of trials: its numbers and what they are called. */
export function trialColumns(
  measures: readonly string[],
): readonly { id: string; title: string; hint: string }[] {
  return [
    { id: 'mean', title: 'mean return', hint: 'Over all episodes after training of all runs.' },
    { id: 'spread', title: 'spread', hint: 'Standard deviation of that mean from run to run.' },
    { id: 'worst', title: 'worst run', hint: 'The mean return of the run that did worst.' },
    { id: 'success', title: 'success', hint: 'The share of episodes that succeed.' },
    { id: 'length', title: 'steps', hint: 'Mean length of an episode.' },
    { id: 'cutOff', title: 'cut off', hint: 'The share of episodes that the step limit cut off.' },
    ...measures.map((name) => ({
      id: `measure ${name}`,
      title: name.replaceAll('_', ' '),
      hint: 'A measure of the environment: its mean total of an episode.',
    })),
  ]
}

export function trialRows(drawn: readonly Drawn[]): TrialRow[] {
  return drawn.flatMap(({ contestant, name, runs }) => {
    const trials = runs.flatMap(({ trials: each }) => (each ? [each] : []))
    if (!trials.length) return []
    const over = (of: (trial: (typeof trials)[number]) => number | null) => {
      const known = trials.map(of).filter((value) => value !== null)
      return known.length ? known.reduce((sum, value) => sum + value, 0) / known.length : null
    }
    const mean = over((each) => each.mean)!
    const squares = trials.reduce((sum, each) => sum + (each.mean - mean) ** 2, 0)
    return [
      {
        id: contestant.id,
        name,
        runs: trials.length,
        numbers: {
          mean,
          spread: trials.length > 1 ? Math.sqrt(squares / (trials.length - 1)) : null,
          worst: Math.min(...trials.map((each) => each.mean)),
          success: over(({ success }) => success),
          length: over(({ length }) => length),
          cutOff: over(({ cutOff, episodes }) => cutOff / episodes),
          ...Object.fromEntries(
            Object.keys(trials[0].measures).map((id) => [
              `measure ${id}`,
              over(({ measures }) => measures[id] ?? null),
            ]),
          ),
        },
      },
    ]
  })
}
