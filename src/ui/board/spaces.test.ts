import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { planHorizon } from '../../core/plan/horizon'
import { gridDocument } from '../../core/testing/models'
import { curveChart, curveLines } from '../charts/curve-chart'
import { layOut, resolveView } from './map-layout'
import { spaceOf, horizonBoard } from './spaces'

const COMPILED = compileEnvironment(
  gridDocument(['...', '.#.'], { endings: [{ at: 'C2', reward: 10, name: '' }] }),
)
const NAMED = { across: 'column', up: 'row', others: {} }

describe('the space of a grid', () => {
  const space = spaceOf(COMPILED)

  it('has columns and rows by their names, the lowest row at the bottom', () => {
    expect(space.axes.map(({ name, texts }) => [name, texts])).toEqual([
      ['column', ['A', 'B', 'C']],
      ['row', ['2', '1']],
    ])
    const { model } = COMPILED
    const layout = layOut(space, model.states, resolveView(space, NAMED))
    // The map has the floor's own cells: A1 B1 C1 above A2, nothing, C2.
    const labels = Array.from({ length: 6 }, (_, cell) =>
      Array.from(
        layout.cellState.subarray(layout.cellStart[cell], layout.cellStart[cell + 1]),
        (s) => model.labels[s],
      ).join(),
    )
    expect(labels).toEqual(['A1', 'B1', 'C1', 'A2', '', 'C2'])
  })

  it('gives a line for each row, without what has no value', () => {
    const values = Float64Array.of(1, 2, 3, 4, 0)
    const layout = layOut(space, COMPILED.model.states, resolveView(space, NAMED))
    const lines = curveLines(COMPILED.model, layout, values)
    expect(lines).toEqual([
      { title: 'row 2', values: [4, null, null] },
      { title: 'row 1', values: [1, 2, 3] },
    ])
    const option = curveChart(lines, space.axes[0], 'value')(() => '#000') as { series: { data: unknown }[] }
    expect(option.series.map(({ data }) => data)).toEqual(lines.map((line) => line.values))
  })

  it('picks some values evenly where there would be too many lines', () => {
    const wide = compileEnvironment(
      gridDocument(
        Array.from({ length: 30 }, () => '..'),
        {},
      ),
    )
    const tall = spaceOf(wide)
    const layout = layOut(tall, wide.model.states, resolveView(tall, NAMED))
    const lines = curveLines(wide.model, layout, new Float64Array(wide.model.states))
    expect(lines).toHaveLength(8)
    expect([lines[0].title, lines[7].title]).toEqual(['row 30', 'row 1'])
  })
})

it('copies every state for each number of steps to go', () => {
  const plan = planHorizon(COMPILED.model, 0.9, 3)
  const { model, space } = horizonBoard(COMPILED, spaceOf(COMPILED), plan)
  expect(model.states).toBe(15)
  expect(space.axes.at(-1)).toEqual({ name: 'steps to go', texts: ['1', '2', '3'], numeric: true })
  const c1 = COMPILED.model.labels.indexOf('C1')
  expect(model.labels[5 + c1]).toBe('C1, 2 to go')
  // Next to the ending, south is best at every stage: -1 + 10.
  for (const k of [0, 1, 2]) {
    const copy = k * 5 + c1
    expect(plan.values[copy]).toBe(9)
    const row = model.rowStart[copy]
    expect(model.rowStart[copy + 1] - row).toBe(4)
    expect([...plan.policy.subarray(row, row + 4)]).toEqual([0, 0, 1, 0])
    expect(model.actions[model.rowAction[row + 2]]).toBe('south')
  }
})

it('an environment without variables has its states as the only one', () => {
  const bandit = { ...COMPILED, space: null }
  expect(spaceOf(bandit).axes).toEqual([{ name: 'state', texts: COMPILED.model.labels, numeric: false }])
})
