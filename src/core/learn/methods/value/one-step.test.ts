import { createLearner } from '../learners'
import { describe, expect, it } from 'vitest'
import { startValue, type Model } from '../../../model/model'
import { actionValues, backupForm } from '../../../plan/backup'
import { evaluatePolicy } from '../../../plan/evaluate'
import { PLAN_DEFAULTS } from '../../../plan/plan-settings'
import { ValueIteration } from '../../../plan/value-iteration'
import { RandomStream } from '../../../random/generator'
import { gridModel, randomModel } from '../../../testing/models'
import { constant } from '../../schedule'
import { LEARN_DEFAULTS, type LearnSettings } from '../../../settings/settings'
import { World } from '../../world'

const exploring = (chance: number) => ({ way: 'epsilon-greedy', level: constant(chance) }) as const
const BASE: LearnSettings = {
  ...LEARN_DEFAULTS,
  discount: 0.9,
  learningRate: constant(0.5),
  exploration: exploring(0.2),
  episodes: 300,
  cap: 60,
  seed: 3,
  run: 0,
}

const smallGrid = () =>
  gridModel(['....', '.#:.', '....'], {
    starts: [{ at: 'A3', weight: 1 }],
    endings: [
      { at: 'D1', reward: 10, name: '' },
      { at: 'D2', reward: -10, name: '' },
    ],
  })

function learn(
  method: 'q-learning' | 'sarsa',
  model: Model,
  settings: Partial<LearnSettings> = {},
  chunk = 1000,
) {
  const learner = createLearner(method, new World(model), { ...BASE, ...settings })
  while (learner.advance(chunk) > 0);
  return learner
}

/** The book's pseudo-code with plain lists and scans, drawing from the same streams in the same order. */
function byTheBook(onPolicy: boolean, model: Model, settings: LearnSettings) {
  const world = new World(model)
  const environment = new RandomStream(settings.seed, 'environment', settings.run)
  const exploration = new RandomStream(settings.seed, 'exploration', settings.run)
  const ties = new RandomStream(settings.seed, 'ties', settings.run)
  const q = Array.from({ length: model.states }, (_, s) =>
    new Array<number>(model.rowStart[s + 1] - model.rowStart[s]).fill(0),
  )
  const choose = (s: number) => {
    if (exploration.uniform() < settings.exploration.level.from) return exploration.below(q[s].length)
    const top = Math.max(...q[s])
    const best = q[s].flatMap((value, a) => (value === top ? [a] : []))
    return best.length === 1 ? best[0] : best[ties.below(best.length)]
  }
  const returns: number[] = []
  for (let episode = 0; episode < settings.episodes; episode++) {
    let s = world.begin(environment)
    let a = -1
    let total = 0
    let power = 1
    for (let step = 0; step < settings.cap; step++) {
      if (a < 0) a = choose(s)
      world.step(s, a, environment)
      const { next, reward } = world
      total += power * reward
      power *= settings.discount
      let future = 0
      let nextAction = -1
      if (!model.ending[next]) {
        if (onPolicy) nextAction = choose(next)
        future = onPolicy ? q[next][nextAction] : Math.max(...q[next])
      }
      q[s][a] = q[s][a] + settings.learningRate.from * (reward + settings.discount * future - q[s][a])
      s = next
      a = nextAction
      if (model.ending[next]) break
    }
    returns.push(total)
  }
  return { table: q.flat(), returns }
}

describe.each(['q-learning', 'sarsa'] as const)('%s', (method) => {
  it('gives the same bits as the pseudo-code written with lists and scans', () => {
    const grid = gridModel(['....', '.#:.', '....'], {
      endings: [
        { at: 'D1', reward: 10, name: '' },
        { at: 'D2', reward: -10, name: '' },
      ],
      veer: 0.3,
    })
    for (const model of [grid, randomModel(4, 8).model]) {
      const learner = learn(method, model, { cap: 12 }, 7)
      const book = byTheBook(method === 'sarsa', model, { ...BASE, cap: 12 })
      expect([...learner.table]).toEqual(book.table)
      expect([...learner.log.returns]).toEqual(book.returns)
    }
  })

  it('does not depend on how the steps are cut into chunks', () => {
    const model = smallGrid()
    const whole = learn(method, model, {}, 1e9)
    const single = learn(method, model, {}, 1)
    expect([...single.table]).toEqual([...whole.table])
    expect(single.steps).toBe(whole.steps)
  })

  it('gives other runs with other seeds and other run numbers', () => {
    const model = smallGrid()
    const tables = [
      learn(method, model),
      learn(method, model, { seed: 4 }),
      learn(method, model, { run: 1 }),
    ].map((l) => [...l.table].join())
    expect(new Set(tables).size).toBe(3)
  })

  it('reaches the exact optimum of a small grid', () => {
    const model = smallGrid()
    const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9 })
    while (iteration.status.outcome === 'running') iteration.sweep()
    const learner = learn(method, model, {
      episodes: 4000,
      learningRate: constant(0.2),
      exploration: exploring(0.25),
    })
    const result = evaluatePolicy(model, learner.world.toModelRows(learner.policy()), 0.9)
    if (result.outcome !== 'solved') throw new Error(result.outcome)
    expect(startValue(model, result.values)).toBeCloseTo(startValue(model, iteration.values), 9)
    // Off-policy, the values themselves are optimal: nothing is chancy here, so a constant rate gets there.
    if (method === 'q-learning') {
      const optimal = actionValues(iteration.form, iteration.values)
      let seen = 0
      learner.table.forEach((value, row) => {
        if (learner.visits[row] < 400) return
        seen++
        expect(Math.abs(value - optimal[row])).toBeLessThan(1e-6)
      })
      expect(seen).toBeGreaterThan(5)
    }
  })

  it('looks ahead when the cap cuts an episode off, but never past an ending', () => {
    const model = gridModel(['...'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'C1', reward: 10, name: '' }],
    })
    // With a cap of 1 only A1 is ever left, and its values tend to -1 + 0.9 x 0: nothing behind B1 is known.
    const capped = learn(method, model, { cap: 1, exploration: exploring(1), episodes: 2000 })
    const east = 1
    expect(capped.table[east]).toBeCloseTo(-1, 9)
    expect(capped.last.ended).toBe('cap')
    // North bumps at A1 and the cap still looks ahead to A1 itself: below -1 for ever, as no ending counts as 0.
    expect(capped.table[0]).toBeLessThan(-1.5)
  })

  it('explains its last update with the numbers it used', () => {
    const model = smallGrid()
    const learner = createLearner(method, new World(model), BASE)
    expect(learner.working(0)).toBeUndefined()
    for (let i = 0; i < 200; i++) {
      const before = learner.table.slice()
      learner.advance(1)
      const { state, row, reward } = learner.last
      const working = learner.working(state)!
      const numbers = working.lines
        .find(({ strong }) => strong)!
        .parts.filter((part) => part.value !== undefined)
      expect(numbers[0].value).toBe(before[row])
      expect(numbers.at(-1)!.value).toBe(learner.table[row])
      expect(working.lines[0].parts[0].value).toBe(reward)
      const [target, old] = working.lines[1].parts.filter((part) => part.value !== undefined)
      expect(learner.table[row]).toBeCloseTo(old.value! + 0.5 * (target.value! - old.value!), 12)
    }
  })
})

it('tells on-policy from off-policy beside a hazard', () => {
  // The short way from A2 to E2 passes the hazard C1; exploring falls into it, so SARSA values that way lower.
  const model = gridModel(
    ['..x..', '.....', '.....', '.....'].map((row) => row.replace('x', '.')),
    {
      starts: [{ at: 'A2', weight: 1 }],
      endings: [
        { at: 'C1', reward: -100, name: '' },
        { at: 'E2', reward: 10, name: '' },
      ],
    },
  )
  const settings = { episodes: 6000, learningRate: constant(0.05), exploration: exploring(0.3), discount: 1 }
  const beside = model.labels.indexOf('C2')
  const value = (method: 'q-learning' | 'sarsa') =>
    Math.max(
      ...learn(method, model, settings).table.subarray(model.rowStart[beside], model.rowStart[beside + 1]),
    )
  expect(value('q-learning')).toBeGreaterThan(7)
  expect(value('sarsa')).toBeLessThan(value('q-learning') - 0.8)
})

it('visits as often as it steps', () => {
  const learner = learn('q-learning', smallGrid())
  expect(learner.visits.reduce((sum, n) => sum + n, 0)).toBe(learner.steps)
})

it('draws outcomes with the declared chances', () => {
  const { model } = randomModel(9, 6)
  const world = new World(model)
  const stream = new RandomStream(5, 'environment')
  const form = backupForm(model, 1)
  for (let s = 0; s < model.states - 1; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const counts = new Map<number, number>()
      let sum = 0
      for (let i = 0; i < 20000; i++) {
        world.step(s, r - model.rowStart[s], stream)
        counts.set(world.next, (counts.get(world.next) ?? 0) + 1)
        sum += world.reward
      }
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
        expect((counts.get(model.outcomeState[o]) ?? 0) / 20000).toBeCloseTo(model.outcomeProbability[o], 1)
      expect(Math.abs(sum / 20000 - form.rowReward[r])).toBeLessThan(0.4)
    }
})

it('puts SARSA’s next action beside Q-learning’s maximum, in the working of either', () => {
  const model = smallGrid()
  for (const method of ['q-learning', 'sarsa'] as const) {
    const learner = createLearner(method, new World(model), { ...BASE, exploration: exploring(0.6) })
    let differing = 0
    for (let i = 0; i < 300; i++) {
      learner.advance(1)
      if (learner.last.ended !== 'no') continue
      const { state, next } = learner.last
      // Q-learning chooses with the next step, which may overwrite the update it belongs to.
      if (method === 'q-learning') {
        const before = learner.table.slice()
        learner.advance(1)
        if (next === state) continue
        const line = learner.working(state)!.lines.at(-1)!
        expect(line.label).toContain(`with ${model.actions[learner.world.tableAction[learner.last.row]]}`)
        const [, , ahead] = line.parts.flatMap(({ value }) => (value === undefined ? [] : [value]))
        expect(ahead).toBe(before[learner.last.row])
      } else if (next !== state) {
        const { lines } = learner.working(state)!
        const numbers = (at: number) =>
          lines[at].parts.flatMap(({ value }) => (value === undefined ? [] : [value]))
        expect(lines.at(-1)!.label).toContain('Q-learning’s target instead')
        expect(numbers(lines.length - 1)[2]).toBe(
          Math.max(...learner.table.subarray(model.rowStart[next], model.rowStart[next + 1])),
        )
        if (numbers(lines.length - 1)[2] !== numbers(0)[2]) differing++
      }
    }
    if (method === 'sarsa') expect(differing).toBeGreaterThan(10)
  }
})
