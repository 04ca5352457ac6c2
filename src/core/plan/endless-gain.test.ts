import { createPlanner } from './planners'
import { describe, expect, it } from 'vitest'
import type { Model } from '../model/model'
import { listed, type Line } from '../testing/models'
import { RandomStream } from '../random/generator'
import { endComponents } from './end-components'
import { endlessGain } from './endless-gain'
import { evaluatePolicy } from './evaluate'
import { PLAN_DEFAULTS } from './plan-settings'
import { PLAN_METHOD_IDS, planMethod } from './plan-methods'
import { solveOptimum } from './solve'
import { backupWorking } from './working'

/** A ring of n rooms whose steps pay as told, each with a way out that pays nothing. */
function ring(rewards: readonly number[]): Model {
  return listed(
    rewards.flatMap((reward, i): Line[] => [
      [`r${i}`, 'on', `r${(i + 1) % rewards.length}`, 1, reward],
      [`r${i}`, 'out', 'end', 1, 0],
    ]),
  )
}

const FINDERS = PLAN_METHOD_IDS.filter((id) => planMethod(id).purpose === 'control' && !planMethod(id).staged)

describe('reward for ever', () => {
  it.each(FINDERS)('is recognised by %s, whatever the cycle', (id) => {
    const cycles: Model[] = [
      ring([1]),
      ring([2, -1]),
      ring([5, -1, -1, -1, -1.5]),
      ring(Array.from({ length: 60 }, (_, i) => (i === 17 ? 30 : -0.5))),
      // Chancy: three to one for the good way, which pays 1 and costs 2 otherwise.
      listed([
        ['a', 'try', 'b', 0.75, 1],
        ['a', 'try', 'c', 0.25, -2],
        ['b', 'back', 'a', 1, 0],
        ['c', 'back', 'a', 1, 0],
        ['c', 'out', 'end', 1, 0],
      ]),
    ]
    for (const model of cycles) {
      const planner = createPlanner(id, model, { ...PLAN_DEFAULTS, discount: 1 })
      for (let i = 0; i < 100 && planner.status.outcome === 'running'; i++) planner.sweep()
      expect(planner.status.outcome).toBe('gains-for-ever')
      // Discounted it is a number like any other.
      expect(solveOptimum(model, 0.9)).not.toBeNull()
    }
  })

  it('is not seen where going round costs, or comes to nothing', () => {
    expect(endlessGain(ring([2, -3])).kind).toBe('none')
    expect(endlessGain(ring([-1, -1])).kind).toBe('none')
    expect(endlessGain(ring([0, 0])).kind).toBe('none')
    expect(endlessGain(ring([2, -2])).kind).toBe('level')
    expect(endlessGain(ring([0.1, 0.2, -0.3])).kind).toBe('level')
    // Fair coins: mean 0.
    expect(
      endlessGain(
        listed([
          ['a', 'toss', 'a', 0.5, 1],
          ['a', 'toss', 'b', 0.5, -1],
          ['b', 'toss', 'a', 0.5, 1],
          ['b', 'toss', 'b', 0.5, -1],
          ['b', 'out', 'end', 1, 3],
        ]),
      ).kind,
    ).toBe('none')
  })

  it('is not guessed in a component that is too large to be solved', { timeout: 60_000 }, () => {
    // One room of 25,000 pays 100, every other one costs 1: going round costs, though near that room it looks good.
    const large = (prize: number) => ring(Array.from({ length: 25_000 }, (_, i) => (i === 0 ? prize : -1)))
    expect(endlessGain(large(100)).kind).toBe('none')
    // Nowhere does it pay to go: then it is certain.
    expect(endlessGain(large(-1)).kind).toBe('none')
    // A short way round within the large one pays.
    const lines: Line[] = []
    for (let i = 0; i < 21_000; i++) {
      lines.push([`r${i}`, 'on', `r${(i + 1) % 21_000}`, 1, -1])
      lines.push([`r${i}`, 'stay', `r${i}`, 1, i % 2 ? 1 : 2])
      if (i % 700 === 0) lines.push([`r${i}`, 'out', 'end', 1, 0])
    }
    expect(endlessGain(listed(lines)).kind).toBe('positive')
  })

  it('names the states', () => {
    const gain = endlessGain(
      listed([
        ['hall', 'go', 's', 1, -5],
        ['hall', 'out', 'end', 1, 0],
        ['s', 'go', 't', 1, 2],
        ['t', 'go', 's', 1, -1],
        ['t', 'out', 'end', 1, 0],
      ]),
    )
    expect(gain.kind === 'positive' && [...gain.states]).toEqual([1, 2])
    expect(gain.kind === 'positive' && gain.atLeast).toBeCloseTo(0.5, 9)
  })

  it('agrees with every deterministic policy of small models, tried one by one', () => {
    const stream = new RandomStream(7, 'environment')
    const seen = { positive: 0, level: 0, none: 0 }
    for (let round = 0; round < 300; round++) {
      const lines: Line[] = []
      const rooms = 2 + stream.below(4)
      for (let s = 0; s < rooms; s++)
        for (let a = 0; a <= stream.below(2) + 1; a++) {
          const to = () => (stream.below(7) === 0 ? 'end' : `r${stream.below(rooms)}`)
          const reward = stream.below(9) - 6
          const part = stream.below(3) === 0 ? 1 : 0.5
          lines.push([`r${s}`, `a${a}`, to(), part, reward])
          if (part < 1) lines.push([`r${s}`, `a${a}`, to(), 0.5, reward])
        }
      lines.push(['r0', 'out', 'end', 1, 0])
      const model = listed(lines)
      const found = endlessGain(model)
      seen[found.kind]++
      const best = bestMean(model)
      if (found.kind === 'positive') expect(best).toBeGreaterThanOrEqual(found.atLeast - 1e-9)
      else expect(best).toBeLessThan(1e-7)
    }
    expect(seen.positive).toBeGreaterThan(20)
    expect(seen.none).toBeGreaterThan(20)
  })
})

/** The largest mean reward of a deterministic policy in a set of states it stays in, by playing it for long. */
function bestMean(model: Model): number {
  let best = -Infinity
  const choice = new Int32Array(model.states)
  const next = (): boolean => {
    for (let s = 0; s < model.states; s++) {
      if (model.ending[s]) continue
      if (model.rowStart[s] + ++choice[s] < model.rowStart[s + 1]) return true
      choice[s] = 0
    }
    return false
  }
  do {
    // Reward of so many steps from each state, endings pay nothing: what grows for ever has a positive mean.
    const sums: Float64Array[] = [new Float64Array(model.states)]
    for (let t = 0; t < 600; t++) {
      const before = sums[t]
      sums.push(
        before.map((_, s) => {
          if (model.ending[s]) return 0
          const row = model.rowStart[s] + choice[s]
          let sum = 0
          for (let o = model.outcomeStart[row]; o < model.outcomeStart[row + 1]; o++)
            sum += model.outcomeProbability[o] * (model.outcomeReward[o] + before[model.outcomeState[o]])
          return sum
        }),
      )
    }
    // Over 60 steps, which every period up to 6 divides, at the end of the play.
    for (let s = 0; s < model.states; s++) best = Math.max(best, (sums[600][s] - sums[540][s]) / 60)
  } while (next())
  return best
}

describe('end components', () => {
  it('are the sets that need not be left, as large as they come', () => {
    const { components, stays } = endComponents(
      listed([
        ['a', 'to b', 'b', 1, 0],
        ['b', 'to a', 'a', 1, 0],
        ['b', 'risk', 'c', 0.5, 0],
        ['b', 'risk', 'a', 0.5, 0],
        ['c', 'wait', 'c', 1, 0],
        ['c', 'out', 'end', 1, 0],
        ['d', 'on', 'c', 1, 0],
      ]),
    )
    expect(components.map((each) => [...each])).toEqual([[0, 1], [2]])
    expect([...stays]).toEqual([1, 1, 0, 1, 0, 0])
  })
})

describe('going round for nothing', () => {
  it('does not keep what is taken back: values rise from those of a policy that ends', () => {
    // s to t pays 2 and back costs 2; out of s pays 1. From zeros, sweeps in place would stop at 2 and 0.
    const model = listed([
      ['s', 'go', 't', 1, 2],
      ['s', 'out', 'end', 1, 1],
      ['t', 'go', 's', 1, -2],
    ])
    for (const id of FINDERS) {
      const planner = createPlanner(id, model, { ...PLAN_DEFAULTS, discount: 1 })
      for (let i = 0; i < 1000 && planner.status.outcome === 'running'; i++) planner.sweep()
      expect([id, planner.status.outcome]).toEqual([id, 'converged'])
      expect(planner.values[0]).toBeCloseTo(1, 9)
      expect(planner.values[1]).toBeCloseTo(-1, 9)
    }
  })

  it('is not what the policy does: of ties, one that ends', () => {
    // A gambler with coins of 0.4 may stake nothing: as good by its backup, and worth nothing alone.
    const goal = 10
    const lines: Line[] = []
    for (let have = 1; have < goal; have++)
      for (let stake = 0; stake <= Math.min(have, goal - have); stake++) {
        if (stake === 0) lines.push([`${have}`, 'stake 0', `${have}`, 1, 0])
        else {
          lines.push([`${have}`, `stake ${stake}`, `${have + stake}`, 0.4, have + stake === goal ? 1 : 0])
          lines.push([`${have}`, `stake ${stake}`, `${have - stake}`, 0.6, 0])
        }
      }
    const model = listed(lines, ['5'])
    const optimum = solveOptimum(model, 1)!
    expect(optimum.start).toBeCloseTo(0.4, 9)
    const stakeNothing = model.rowStart[model.labels.indexOf('5')]
    expect(optimum.ties[stakeNothing]).toBeGreaterThan(0)
    expect(optimum.policy[stakeNothing]).toBe(0)
    const planner = createPlanner('value-iteration', model, { ...PLAN_DEFAULTS, discount: 1 })
    while (planner.status.outcome === 'running') planner.sweep()
    expect(backupWorking(planner, model.labels.indexOf('5')).note).toContain('stake 0 never ends alone')
    const exact = evaluatePolicy(model, optimum.policy, 1)
    expect(exact.outcome).toBe('solved')
    optimum.values.forEach((value, s) => expect(exact.values[s]).toBeCloseTo(value, 9))
  })
})
