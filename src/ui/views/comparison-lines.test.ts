import { describe, expect, it } from 'vitest'
import { newComparison, type Comparison } from '../../core/compare/comparison'
import { documentFor } from '../../core/compare/contestant'
import type { LearningRun } from '../../core/compare/learning-runs'
import { runKey } from '../../core/compare/run-plan'
import { constant } from '../../core/learn/schedule'
import { choiceIn } from '../../core/settings/first-choice'
import { gridDocument } from '../../core/testing/models'
import { emptyRun } from '../../core/testing/runs'
import type { CompareState } from '../../session/compare/compare-state'
import {
  curveLines,
  drawnContestants,
  nearestCell,
  scoreBoxes,
  sweptContestants,
  sweptLines,
  sweptMap,
  trialRows,
} from './comparison-lines'

const HALL = gridDocument(['..'])
const choice = choiceIn(HALL, { method: 'sarsa', episodes: 4 })
const comparison = (part: Partial<Comparison> = {}): Comparison => ({
  ...newComparison('x'),
  runs: 2,
  contestants: [{ id: 3, knobs: {}, choice }],
  ...part,
})
const run = (number: number, part: Partial<LearningRun> = {}): LearningRun => ({
  ...emptyRun(number),
  episodes: 4,
  mean: number + 1,
  curves: {
    return: Float64Array.of(0, 2, 4, 6 + number),
    steps: Float64Array.of(10, 20, 30, 40),
    greedy: Float64Array.of(1, 1, 1, 9),
  },
  ...part,
})
function stateOf(of: Comparison, runs: readonly LearningRun[], document = HALL): CompareState {
  const results = Object.fromEntries(
    of.contestants.map((each) => [runKey(documentFor(document, each), each), runs]),
  )
  return {
    comparison: of,
    results,
    ...{
      past: [],
      future: [],
      before: {},
      taken: {},
      running: false,
      done: 0,
      asked: 0,
      left: null,
      failure: null,
    },
  }
}
const view = newComparison('x').view

describe('curves', () => {
  const drawn = drawnContestants(stateOf(comparison(), [run(0), run(1), run(2)]), HALL)

  it('are of as many runs as are asked for, smoothed before they are summed up', () => {
    expect(drawn[0].runs).toHaveLength(2)
    const [line] = curveLines(drawn, 'return', { ...view, smooth: 2, band: 'interval' })
    expect([...(line.middle as Float64Array)]).toEqual([0, 1, 3, 5.25])
    expect([...(line.x as Float64Array)]).toEqual([1, 2, 3, 4])
    const [sum] = curveLines(drawn, 'return', { ...view, smooth: 2, rolling: 'sum', band: 'interval' })
    expect([...(sum.middle as Float64Array)]).toEqual([0, 2, 6, 10.5])
  })

  it('of what stands alone are not smoothed; what no run tells is not drawn', () => {
    const [line] = curveLines(drawn, 'greedy', { ...view, smooth: 4, rolling: 'sum' })
    expect([...(line.middle as Float64Array)]).toEqual([1, 1, 1, 9])
    expect(curveLines(drawn, 'plain', view)).toEqual([])
  })

  it('over steps hold at the steps of their points, with single runs where they are wanted', () => {
    const [line] = curveLines(drawn, 'return', { ...view, smooth: 1, along: 'steps', singles: true })
    const at = (step: number) => (line.middle as Float64Array)[(line.x as Float64Array).indexOf(step)]
    // Every run took 0 steps in all, so that there is nothing along.
    expect(line.x[0]).toBe(0)
    expect(at(0)).toBe(0)
    expect(line.singles!.map(({ run: number }) => number)).toEqual([0, 1])
    const long = drawnContestants(stateOf(comparison(), [run(0, { steps: 40 }), run(1, { steps: 40 })]), HALL)
    const [told] = curveLines(long, 'return', { ...view, smooth: 1, along: 'steps' })
    const values = told.middle as Float64Array
    expect([...(told.x as Float64Array)]).toEqual(Array.from({ length: 40 }, (_, i) => i + 1))
    expect([values[0], values[9], values[10], values[39]]).toEqual([0, 0, 2, 6.5])
    // Where one run was over, the others no longer stand for all.
    const uneven = [run(0, { steps: 40 }), run(1, { steps: 30 })]
    const [cut] = curveLines(drawnContestants(stateOf(comparison(), uneven), HALL), 'return', {
      ...view,
      along: 'steps',
    })
    expect([...(cut.middle as Float64Array).subarray(28, 32)].map(Number.isNaN)).toEqual([
      false,
      false,
      true,
      true,
    ])
  })

  it('of before a change are drawn as such', () => {
    const before = stateOf(comparison(), [run(0)])
    const [key] = Object.keys(before.results)
    const changed = { ...before, before: { 3: key } }
    const [stale] = drawnContestants(changed, { ...HALL, cap: 3 })
    expect(stale).toMatchObject({ name: 'SARSA (as it was before)', stale: true })
    expect(curveLines([stale], 'return', view)[0].faded).toBe(true)
    expect(drawnContestants(before, { ...HALL, cap: 3 })).toEqual([])
    expect(drawnContestants({ ...before, comparison: comparison({ hidden: [3] }) }, HALL)).toEqual([])
  })
})

it('boxes have a value for every run with a score', () => {
  const drawn = drawnContestants(stateOf(comparison(), [run(0), run(1, { mean: NaN })]), HALL)
  expect(scoreBoxes(drawn, 'mean')).toEqual([
    { title: 'SARSA', look: 3, runs: [0], values: Float64Array.of(1) },
  ])
  expect(scoreBoxes(drawn, 'exact')).toEqual([])
})

describe('a sweep', () => {
  const sweep = (...axes: [string, string][]) =>
    comparison({
      view: {
        ...view,
        picture: 'sweep',
        sweep: { axes: axes.map(([varied, values]) => ({ varied, values })) } as never,
      },
    })
  /** Runs whose mean is the learning rate times 10, and their number. */
  const stateWith = (of: Comparison): CompareState => {
    const rates = [0.1, 0.2, 0.4]
    const levels = [0, 0.5]
    const results: Record<string, LearningRun[]> = {}
    for (const rate of rates)
      for (const level of [null, ...levels]) {
        const changed = {
          ...choice,
          learningRate: constant(rate),
          ...(level === null
            ? {}
            : { exploration: { way: 'epsilon-greedy', level: constant(level) } as const }),
        }
        results[runKey(HALL, { choice: changed })] = [0, 1, 2].map((number) =>
          run(number, { mean: 10 * rate - (level ?? 0) + number / 100 }),
        )
      }
    return { ...stateOf(of, []), results }
  }

  it('is a line over one setting, with intervals', () => {
    const of = sweep(['rate', '0.1..0.4*2'])
    const swept = sweptContestants(stateWith(of), HALL)
    const [line] = sweptLines(swept, 'mean')
    expect(line.x).toEqual([0.1, 0.2, 0.4])
    // Two runs are asked for, of numbers 0 and 1.
    ;[1.005, 2.005, 4.005].forEach((mean, i) => expect(line.middle[i]).toBeCloseTo(mean, 9))
    expect(line.high[0] - line.middle[0]).toBeCloseTo(1.96 * 0.005, 9)
  })

  it('finds the cell that is drawn nearest to a click', () => {
    const of = sweep(['rate', '0.1..0.4*2'])
    const swept = sweptContestants(stateWith(of), HALL)
    const lines = sweptLines(swept, 'mean')
    const at = (x: number, byFactors = false) => nearestCell(swept, lines, x, 1, byFactors)
    expect([at(0.05), at(0.27), at(9)]).toEqual(['3 0.1', '3 0.2', '3 0.4'])
    // By factors the middle between 0.2 and 0.4 is 0.28.
    expect([at(0.29), at(0.29, true)]).toEqual(['3 0.2', '3 0.4'])
    expect(nearestCell([], [], 1, 1, false)).toBeNull()
  })

  it('is a map over two, with the best and what is not told from it', () => {
    const of = { ...sweep(['rate', '0.1, 0.2, 0.3'], ['level', '0, 0.5']), runs: 3 }
    const [swept] = sweptContestants(stateWith(of), HALL)
    const cells = sweptMap(swept, 'mean')
    // A rate of 0.3 was not run.
    expect(cells.map(({ x, y, mark }) => [x, y, mark])).toEqual([
      [0.1, 0, null],
      [0.1, 0.5, null],
      [0.2, 0, 'best'],
      [0.2, 0.5, null],
    ])
  })

  it('of values that cannot be read is none', () => {
    expect(sweptContestants(stateWith(sweep(['rate', 'x'])), HALL)).toEqual([])
  })
})

it('the table of trials is of means over runs, with the spread from run to run', () => {
  const trials = (mean: number, success: number | null, length: number) => ({
    episodes: 10,
    ...{ mean, success, length, cutOff: 1, measures: { turned_away: 2 * mean } },
  })
  const drawn = drawnContestants(
    stateOf(comparison(), [run(0, { trials: trials(1, 0.5, 4) }), run(1, { trials: trials(3, 1, 6) })]),
    HALL,
  )
  const [row] = trialRows(drawn)
  expect(row).toMatchObject({
    runs: 2,
    numbers: { mean: 2, worst: 1, success: 0.75, length: 5, cutOff: 0.1, 'measure turned_away': 4 },
  })
  expect(row.numbers.spread).toBeCloseTo(Math.SQRT2, 12)
  expect(trialRows(drawnContestants(stateOf(comparison(), [run(0)]), HALL))).toEqual([])
})
