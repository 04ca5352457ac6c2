import type { Model } from '../model/model'
import { describe, expect, it } from 'vitest'
import { listed } from '../testing/models'
import { endingNotes, startWays } from './ending-notes'
import { firstPolicy, randomPolicy } from './evaluate'
import { endlessAlone, properPolicy } from './proper'
import { endlessUnder, stepsToEnding } from './reach'

/** Nothing here depends on rewards. */
const unpaid = (
  lines: readonly [state: string, action: string, next: string, chance: number, discount?: number][],
  starts?: readonly string[],
) =>
  listed(
    lines.map(([state, action, next, chance, discount]) => [state, action, next, chance, 0, discount]),
    starts,
  )

/** Four rooms in a row with a way back, and a cellar without a way out. */
const HOUSE = unpaid([
  ['hall', 'stay', 'hall', 1],
  ['hall', 'on', 'stairs', 1],
  ['stairs', 'back', 'hall', 1],
  ['stairs', 'on', 'attic', 0.5],
  ['stairs', 'on', 'cellar', 0.5],
  ['attic', 'on', 'roof', 1],
  ['cellar', 'wait', 'cellar', 1],
])

describe('steps to an ending', () => {
  it('are the fewest, by any action or by those of a policy', () => {
    // hall, stairs, attic, cellar, roof
    expect([...stepsToEnding(HOUSE)]).toEqual([3, 2, 1, -1, 0])
    // The first action of the hall stays there, that of the stairs goes on.
    expect([...stepsToEnding(HOUSE, firstPolicy(HOUSE))]).toEqual([-1, 2, 1, -1, 0])
  })

  it('count an outcome that discounts what follows as a way out only when asked to', () => {
    const round = unpaid([
      ['a', 'on', 'b', 1],
      ['b', 'on', 'a', 1, 0.5],
    ])
    expect([...stepsToEnding(round)]).toEqual([-1, -1])
    expect([...stepsToEnding(round, undefined, true)]).toEqual([2, 1])
    expect([...endlessUnder(round, firstPolicy(round), 1).endless]).toEqual([0, 0])
  })
})

describe('where a policy has no finite value', () => {
  it('is wherever it may come to what never ends', () => {
    // The cellar may be reached from all but the attic.
    expect([...endlessUnder(HOUSE, randomPolicy(HOUSE), 1).endless]).toEqual([1, 1, 0, 1, 0])
    expect([...endlessUnder(HOUSE, randomPolicy(HOUSE), 0.99).endless]).toEqual([0, 0, 0, 0, 0])
  })
})

describe('one policy out of ties', () => {
  const ROUND = unpaid([
    ['a', 'to b', 'b', 1],
    ['a', 'stay', 'a', 1],
    ['b', 'to a', 'a', 1],
    ['b', 'to c', 'c', 1],
    ['c', 'to b', 'b', 1],
    ['c', 'out', 'end', 1],
    ['d', 'wait', 'd', 1],
  ])
  const names = (policy: Float64Array) =>
    ROUND.labels.flatMap((_, s) =>
      Array.from({ length: ROUND.rowStart[s + 1] - ROUND.rowStart[s] }, (_, k) => ROUND.rowStart[s] + k)
        .filter((row) => policy[row] > 0)
        .map((row) => ROUND.actions[ROUND.rowAction[row]]),
    )

  it('ends wherever that can be had, and names where it cannot', () => {
    const { policy, endless } = properPolicy(ROUND, randomPolicy(ROUND))
    expect(names(policy)).toEqual(['to b', 'to c', 'out', 'wait'])
    expect(Array.from(endless, (s) => ROUND.labels[s])).toEqual(['d'])
  })

  it('keeps the first action where that ends', () => {
    const model = unpaid([
      ['a', 'slow', 'b', 1],
      ['a', 'quick', 'end', 1],
      ['b', 'out', 'end', 1],
    ])
    const { policy } = properPolicy(model, randomPolicy(model))
    expect([...policy]).toEqual([1, 0, 1])
  })

  it('says which of the ties never end alone', () => {
    const alone = (label: string) =>
      endlessAlone(ROUND, randomPolicy(ROUND), ROUND.labels.indexOf(label)).map(
        (row) => ROUND.actions[ROUND.rowAction[row]],
      )
    expect(alone('a')).toEqual(['stay'])
    // Back to a, which goes on to b again.
    expect(alone('b')).toEqual(['to a'])
    expect(alone('c')).toEqual(['to b'])
  })
})

describe('notes on endings', () => {
  const notesOf = (model: Model, cap: number) => endingNotes(model, startWays(model), cap)

  it('say that none can be reached, from everywhere or from some starts', () => {
    const cellar = { ...HOUSE, startState: Int32Array.of(3), startProbability: Float64Array.of(1) }
    expect(notesOf(cellar, 50)).toEqual([
      'No ending can be reached from the start: every episode goes on until it is cut off, after 50 steps.',
    ])
    expect(notesOf(cellar, Infinity)).toEqual([
      'No ending can be reached from the start: every episode goes on for ever.',
    ])
    const both = { ...HOUSE, startState: Int32Array.of(0, 3), startProbability: Float64Array.of(0.5, 0.5) }
    expect(notesOf(both, 50)).toEqual([
      'No ending can be reached from cellar: episodes that start there go on until they are cut off.',
    ])
  })

  it('say that the cap is too short, and nothing when it is not', () => {
    expect(notesOf(HOUSE, 2)).toEqual([
      'The step limit of 2 is shorter than the shortest way to an ending, 3 steps: such an episode never ends by itself. Raise the step limit.',
    ])
    expect(notesOf(HOUSE, 3)).toEqual([])
    const two = { ...HOUSE, startState: Int32Array.of(0, 2), startProbability: Float64Array.of(0.5, 0.5) }
    expect(notesOf(two, 2)[0]).toContain('ending from hall, 3 steps')
  })
})
