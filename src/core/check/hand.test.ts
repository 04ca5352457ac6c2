import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rowOf } from '../model/model'
import { playTrial } from '../evaluate/rollout'
import { inspectionOf } from '../kinds/inspections'
import { World } from '../learn/world'
import { randomPolicy } from '../plan/evaluate'
import { gridDocument, listed, randomModel } from '../testing/models'
import { compileEnvironment } from '../environment/compile'
import { playHand } from './hand'
import { likeliestOutcome, statesOf, walkOfEpisode } from './walk'
import { walkSteps } from './walk-steps'

describe('an episode by hand', () => {
  it('is the trial with that number, where the same actions are taken', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.nat(5), fc.nat(1000), (problem, episode, seed) => {
        const { model } = randomModel(problem, 6)
        const world = new World(model)
        const settings = { episodes: 9, seed, cap: 20, discount: 0.9 }
        const trial = playTrial(world, randomPolicy(model), settings, episode)
        const moves = Array.from(trial.rows, (row) => ({ action: model.rowAction[row], forced: null }))
        const hand = playHand(world, { seed, episode, start: null, moves }, 20)
        expect(statesOf(model, hand.walk)).toEqual(Array.from(trial.states))
        expect(hand.walk.outcomes.map((o) => model.outcomeReward[o])).toEqual(Array.from(trial.rewards))
        expect(hand.walk).toEqual(walkOfEpisode(model, trial))
        expect(hand.over).toBe(trial.ended ? 'ended' : trial.rows.length === 20 ? 'cut off' : null)
      }),
      { numRuns: 60 },
    )
  })

  const FORK = listed([
    ['hall', 'go', 'left', 0.5, 1],
    ['hall', 'go', 'right', 0.5, 2],
    ['left', 'go', 'end', 0.25, 4],
    ['left', 'go', 'hall', 0.75, 0],
    ['right', 'go', 'end', 1, -1],
  ])
  const world = new World(FORK)
  const number = (label: string) => FORK.labels.indexOf(label)
  const hand = (moves: { action: number; forced: number | null }[], start: number | null = null) =>
    playHand(world, { seed: 4, episode: 0, start, moves }, 10)

  it('can be told what falls, which changes nothing of what is drawn later', () => {
    const moves = Array.from({ length: 6 }, () => ({ action: 0, forced: null }))
    for (let seed = 0; seed < 20; seed++) {
      const drawn = playHand(world, { seed, episode: 0, start: null, moves }, 10).walk
      drawn.outcomes.forEach((_, k) => {
        const forced = moves.map((move, i) => (i < k ? { ...move, forced: drawn.outcomes[i] } : move))
        expect(playHand(world, { seed, episode: 0, start: null, moves: forced }, 10).walk).toEqual(drawn)
      })
    }
    const first = hand([{ action: 0, forced: null }])
    const other = FORK.outcomeState[first.walk.outcomes[0]] === number('left') ? 1 : 0
    expect(hand([{ action: 0, forced: other }]).walk.outcomes).toEqual([other])
  })

  it('begins where it is told, and ends where nothing more can be done', () => {
    const from = hand(
      [
        { action: 0, forced: null },
        { action: 0, forced: null },
      ],
      number('right'),
    )
    expect(from).toEqual({
      walk: { start: number('right'), outcomes: [4] },
      at: number('end'),
      over: 'ended',
    })
    expect(hand([]).over).toBeNull()
  })

  it('leaves out moves that are not possible, and an outcome that is of another row', () => {
    expect(hand([{ action: 7, forced: null }]).walk.outcomes).toEqual([])
    const wrong = hand([{ action: 0, forced: 4 }])
    expect(wrong.walk.outcomes[0]).toBeLessThan(2)
    const cut = playHand(
      world,
      { seed: 1, episode: 0, start: null, moves: [0, 0, 0].map((action) => ({ action, forced: null })) },
      1,
    )
    expect([cut.walk.outcomes.length, cut.over]).toEqual([1, 'cut off'])
  })
})

describe('the steps of a walk', () => {
  it('are told with chance, reward, its parts, and both returns', () => {
    const document = gridDocument(['...', '...'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'C1', reward: 10, name: 'lift' }],
      veer: 0.2,
    })
    const compiled = compileEnvironment(document)
    const { model } = compiled
    const east = model.actions.indexOf('east')
    const { walk } = playHand(
      new World(model),
      {
        seed: 1,
        episode: 0,
        start: null,
        moves: [
          { action: east, forced: null },
          { action: east, forced: null },
        ],
      },
      9,
    )
    const steps = walkSteps(model, inspectionOf(document).happenings(document, compiled), walk, 0.5)
    const [first, second] = steps
    expect(steps).toHaveLength(2)
    expect(first.collected).toBe(first.reward)
    expect(second.sum).toBe(first.reward + second.reward)
    expect(second.collected).toBe(first.reward + 0.5 * second.reward)
    for (const { parts, reward } of steps)
      expect(parts.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(reward, 12)
    // North of A1 is a wall: going there, and veering west, lead to the same cell.
    const north = rowOf(model, model.labels.indexOf('A1'), model.actions.indexOf('north'))
    const bumps = likeliestOutcome(model, north, model.labels.indexOf('A1'))
    const [bump] = walkSteps(
      model,
      inspectionOf(document).happenings(document, compiled),
      { start: 0, outcomes: [bumps] },
      0.5,
    )
    expect(bump.fell).toBe('goes as meant or veers west')
    expect(bump.instead).toBeNull()
    expect(bump.probability).toBeCloseTo(0.9, 12)
    expect(bump.parts).toEqual([{ title: 'step', amount: -1 }])
  })
})
