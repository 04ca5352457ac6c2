import { expect, it } from 'vitest'
import { ProblemError } from '../problem'
import { ModelBuilder } from './builder'

it('compresses rows given in any order, and adds up outcomes that lead to the same state', () => {
  const builder = new ModelBuilder()
  const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
  const [go, stay] = ['go', 'stay'].map((name) => builder.action(name))
  builder.outcome(builder.row(b, go), end, 1, 3)
  builder.outcome(builder.row(a, stay), a, 1, 0)
  builder.outcome(builder.row(a, go), b, 0.25, 2)
  builder.outcome(builder.row(a, go), end, 0.5, 0)
  builder.outcome(builder.row(a, go), b, 0.25, 4)
  const model = builder.build({ starts: [{ state: a, weight: 3 }], cap: 9 })
  expect(model.labels).toEqual(['a', 'b', 'end'])
  expect([...model.rowStart]).toEqual([0, 2, 3, 3])
  expect([...model.rowAction]).toEqual([go, stay, go])
  expect([...model.outcomeStart]).toEqual([0, 2, 3, 4])
  expect([...model.outcomeState]).toEqual([b, end, a, end])
  expect([...model.outcomeProbability]).toEqual([0.5, 0.5, 1, 1])
  expect([...model.outcomeReward]).toEqual([3, 0, 0, 3])
  expect([...model.ending]).toEqual([0, 0, 1])
  expect([...model.startProbability]).toEqual([1])
})

function problemsOf(run: () => unknown): string {
  try {
    run()
  } catch (error) {
    if (error instanceof ProblemError) return error.message
    throw error
  }
  return ''
}

it('refuses what is no model, and names the place', () => {
  const half = new ModelBuilder()
  half.outcome(half.row(half.state('a'), half.action('go')), half.state('end'), 0.9, 0)
  expect(problemsOf(() => half.build({ starts: [{ state: 0, weight: 1 }], cap: 0 }))).toMatch(
    /state "a", action "go": The probabilities sum to 0.9/,
  )

  const builder = new ModelBuilder()
  expect(problemsOf(() => builder.outcome(builder.row(0, 0), 0, NaN, 0))).toMatch(/The probability is NaN/)
  expect(problemsOf(() => builder.outcome(builder.row(0, 0), 0, -0.1, 0))).toMatch(/-0.1/)
  expect(problemsOf(() => builder.outcome(builder.row(0, 0), 0, 1, Infinity))).toMatch(/reward is Infinity/)
  expect(problemsOf(() => new ModelBuilder().build({ starts: [], cap: 0 }))).toMatch(/No state has an action/)

  builder.outcome(builder.row(builder.state('a'), builder.action('go')), builder.state('end'), 1, 0)
  expect(problemsOf(() => builder.build({ starts: [], cap: 0 }))).toMatch(/no state to start in/)
  expect(problemsOf(() => builder.build({ starts: [{ state: 1, weight: 1 }], cap: 0 }))).toMatch(
    /cannot start where it ends/,
  )
  expect(problemsOf(() => builder.build({ starts: [{ state: 0, weight: 0 }], cap: 0 }))).toMatch(/weight/)
  expect(
    problemsOf(() =>
      builder.build({ starts: [{ state: 0, weight: 1 }], cap: 0, observation: Int32Array.of(0, 0) }),
    ),
  ).toMatch(/look the same .* different actions/)
})

it('lets states with the same actions look the same', () => {
  const builder = new ModelBuilder()
  for (const label of ['a', 'b'])
    builder.outcome(builder.row(builder.state(label), builder.action('go')), 2, 1, 0)
  builder.state('end')
  const model = builder.build({
    starts: [{ state: 0, weight: 1 }],
    cap: 0,
    observation: Int32Array.of(0, 0, 1),
  })
  expect(model.observations).toBe(2)
})

it('refuses two states of one name, whichever way they came in', () => {
  const builder = new ModelBuilder()
  const [a, end, twin] = ['a', 'end', 'end'].map((label) => builder.newState(label))
  builder.outcome(builder.newRow(a, builder.action('on')), end, 0.5, 1)
  builder.outcome(0, twin, 0.5, 1)
  expect(() => builder.build({ starts: [{ state: a, weight: 1 }], cap: 0 })).toThrow(
    /state "end": Two states have this name/,
  )
})

it('has starts in the order of their states, with chances of the same bits', () => {
  const builder = new ModelBuilder()
  const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
  for (const state of [a, b]) builder.outcome(builder.row(state, builder.action('on')), end, 1, 0)
  const { startState, startProbability } = builder.build({
    starts: [
      { state: b, weight: 0.7 },
      { state: a, weight: 0.3 },
    ],
    cap: 0,
  })
  expect([...startState]).toEqual([a, b])
  expect([...startProbability]).toEqual([0.3, 0.7])
})

it('adds up outcomes that discount what follows, expected', () => {
  const builder = new ModelBuilder()
  const [a, b] = ['a', 'b'].map((label) => builder.state(label))
  const row = builder.row(a, builder.action('on'))
  builder.outcome(row, b, 0.25, 4, 0.5)
  builder.outcome(row, b, 0.75, 0, 0.9)
  const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 0 })
  expect(model.outcomes).toBe(1)
  expect(model.outcomeReward[0]).toBeCloseTo(1, 15)
  expect(model.outcomeDiscount![0]).toBeCloseTo(0.25 * 0.5 + 0.75 * 0.9, 15)
  expect(() => builder.outcome(row, b, 0.1, 0, 1.5)).toThrow(/The discount is 1.5/)
})
