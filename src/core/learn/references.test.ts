import { describe, expect, it } from 'vitest'
import type { Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { actionValues, backupForm } from '../plan/backup'
import { PLAN_DEFAULTS } from '../plan/plan-settings'
import { ValueIteration } from '../plan/value-iteration'
import { RandomStream } from '../random/generator'
import { BRIEF, chancyGrid, exploring, learned, newLearner } from '../testing/learning'
import { gridModel, randomModel } from '../testing/models'
import { constant } from './schedule'
import type { LearnSettings } from '../settings/settings'
import { World } from './world'

const RATE = 0.3
const EPSILON = 0.25
const SETTINGS: LearnSettings = {
  ...BRIEF,
  learningRate: constant(RATE),
  exploration: exploring(EPSILON),
  episodes: 150,
  cap: 14,
}

/** An agent with plain lists that draws from the same streams, in the order that learners do. */
function plainAgent(model: Model, settings = SETTINGS) {
  const world = new World(model)
  const environment = new RandomStream(settings.seed, 'environment', settings.run)
  const exploration = new RandomStream(settings.seed, 'exploration', settings.run)
  const ties = new RandomStream(settings.seed, 'ties', settings.run)
  const q = Array.from({ length: model.states }, (_, s) =>
    new Array<number>(model.rowStart[s + 1] - model.rowStart[s]).fill(0),
  )
  return {
    q,
    begin: () => world.begin(environment),
    choose(s: number): number {
      if (exploration.uniform() < EPSILON) return exploration.below(q[s].length)
      const top = Math.max(...q[s])
      const best = q[s].flatMap((value, a) => (value === top ? [a] : []))
      return best.length === 1 ? best[0] : best[ties.below(best.length)]
    },
    step(s: number, a: number) {
      world.step(s, a, environment)
      return { next: world.next, reward: world.reward, ended: model.ending[world.next] === 1 }
    },
  }
}

function closeTo(table: ArrayLike<number>, expected: number[][]) {
  expected.flat().forEach((value, row) => expect(table[row]).toBeCloseTo(value, 7))
}

const MODELS = { 'a chancy grid': chancyGrid(), 'a random model': randomModel(4, 8).model }

describe.each(Object.entries(MODELS))('by the book, on %s', (_, model) => {
  it.each([
    ['sarsa-lambda', 'accumulating'],
    ['sarsa-lambda', 'replacing'],
    ['q-lambda', 'accumulating'],
    ['q-lambda', 'replacing'],
  ] as const)('%s with %s traces is what full tables of traces give', (method, traces) => {
    const lambda = 0.7
    const agent = plainAgent(model)
    const { q } = agent
    for (let episode = 0; episode < SETTINGS.episodes; episode++) {
      const e = q.map((row) => row.map(() => 0))
      let s = agent.begin()
      let a = agent.choose(s)
      for (let t = 0; t < SETTINGS.cap; t++) {
        const { next, reward, ended } = agent.step(s, a)
        const b = ended ? -1 : agent.choose(next)
        const top = ended ? 0 : Math.max(...q[next])
        const greedy = !ended && q[next][b] === top
        const ahead = ended ? 0 : method === 'q-lambda' ? top : q[next][b]
        const error = reward + SETTINGS.discount * ahead - q[s][a]
        e[s][a] = traces === 'replacing' ? 1 : e[s][a] + 1
        q.forEach((row, x) =>
          row.forEach((__, y) => {
            q[x][y] += RATE * error * e[x][y]
            e[x][y] *= method === 'q-lambda' && !greedy ? 0 : SETTINGS.discount * lambda
          }),
        )
        if (ended) break
        s = next
        a = b
      }
    }
    closeTo(learned(method, model, { ...SETTINGS, lambda, traces }).table, q)
  })

  it.each([1, 3, 50])('n-step SARSA with n = %d is what whole episodes give', (n) => {
    const agent = plainAgent(model)
    const { q } = agent
    const { discount, cap, episodes } = SETTINGS
    for (let episode = 0; episode < episodes; episode++) {
      const S = [agent.begin()]
      const A = [agent.choose(S[0])]
      const R = [0]
      let T = Infinity
      let ended = false
      for (let t = 0; ; t++) {
        if (t < T) {
          const step = agent.step(S[t], A[t])
          S.push(step.next)
          R.push(step.reward)
          ended = step.ended
          if (ended) A.push(-1)
          else A.push(agent.choose(step.next))
          if (ended || t + 1 >= cap) T = t + 1
        }
        // The book's time that is updated, moved on by one when nothing is left to wait for.
        const update = (time: number) => {
          let gain = 0
          const last = Math.min(time + n, T)
          for (let i = time + 1; i <= last; i++) gain += discount ** (i - time - 1) * R[i]
          const at = last
          if (!(at === T && ended)) gain += discount ** (at - time) * q[S[at]][A[at]]
          q[S[time]][A[time]] += RATE * (gain - q[S[time]][A[time]])
        }
        if (t + 1 < T) {
          if (t - n + 1 >= 0) update(t - n + 1)
          continue
        }
        for (let time = Math.max(0, t - n + 1); time < T; time++) update(time)
        break
      }
    }
    closeTo(learned('n-step-sarsa', model, { ...SETTINGS, lookahead: n }).table, q)
  })

  it('Double Q-learning keeps the mean of two tables, each moved by the other one', () => {
    const agent = plainAgent(model)
    const { q } = agent
    const tables = [0, 1].map(() => q.map((row) => row.map(() => 0)))
    const coin = new RandomStream(SETTINGS.seed, 'method', 0)
    for (let episode = 0; episode < SETTINGS.episodes; episode++) {
      let s = agent.begin()
      for (let t = 0; t < SETTINGS.cap; t++) {
        const a = agent.choose(s)
        const { next, reward, ended } = agent.step(s, a)
        const which = coin.next() < 0 ? 1 : 0
        const [mine, other] = [tables[which], tables[1 - which]]
        let ahead = 0
        if (!ended) {
          const top = Math.max(...mine[next])
          const best = mine[next].flatMap((value, b) => (value === top ? [b] : []))
          ahead = other[next][best.length === 1 ? best[0] : best[coin.below(best.length)]]
        }
        mine[s][a] += RATE * (reward + SETTINGS.discount * ahead - mine[s][a])
        q[s][a] = (mine[s][a] + other[s][a]) / 2
        if (ended) break
        s = next
      }
    }
    closeTo(learned('double-q-learning', model, SETTINGS).table, q)
  })

  it('Expected SARSA weighs what comes next by the chances it would be chosen with', () => {
    const agent = plainAgent(model)
    const { q } = agent
    for (let episode = 0; episode < SETTINGS.episodes; episode++) {
      let s = agent.begin()
      for (let t = 0; t < SETTINGS.cap; t++) {
        const a = agent.choose(s)
        const { next, reward, ended } = agent.step(s, a)
        let ahead = 0
        if (!ended) {
          const mean = q[next].reduce((sum, value) => sum + value, 0) / q[next].length
          ahead = (1 - EPSILON) * Math.max(...q[next]) + EPSILON * mean
        }
        q[s][a] += RATE * (reward + SETTINGS.discount * ahead - q[s][a])
        if (ended) break
        s = next
      }
    }
    closeTo(learned('expected-sarsa', model, SETTINGS).table, q)
  })
})

describe('methods that are cases of one another give the same bits', () => {
  const model = chancyGrid()
  it('n-step SARSA with n = 1, and SARSA(λ) with λ = 0, are SARSA', () => {
    const sarsa = learned('sarsa', model, SETTINGS)
    expect([...learned('n-step-sarsa', model, { ...SETTINGS, lookahead: 1 }).table]).toEqual([...sarsa.table])
    expect([...learned('sarsa-lambda', model, { ...SETTINGS, lambda: 0 }).table]).toEqual([...sarsa.table])
  })

  it('TD(λ) with λ = 0 is TD(0)', () => {
    const zero = learned('td-0', model, SETTINGS)
    expect([...learned('td-lambda', model, { ...SETTINGS, lambda: 0 }).table]).toEqual([...zero.table])
  })

  it('Dyna-Q without planning is Q-learning', () => {
    const dyna = learned('dyna-q', model, { ...SETTINGS, planning: 0 })
    expect([...dyna.table]).toEqual([...learned('q-learning', model, SETTINGS).table])
  })
})

/** Two rooms and an ending: from a to b for 2, from b back to a for 1, then out for 10; nothing is chancy. */
function loop(): Model {
  const builder = new ModelBuilder()
  const [a, b, c, end] = ['a', 'b', 'c', 'end'].map((label) => builder.state(label))
  const on = builder.action('on')
  builder.outcome(builder.row(a, on), b, 1, 2)
  builder.outcome(builder.row(b, on), c, 1, 1)
  builder.outcome(builder.row(c, on), end, 1, 10)
  return builder.build({ starts: [{ state: a, weight: 1 }], cap: 50 })
}

describe('worked out by hand', () => {
  it('a Monte Carlo return counted backwards, and its mean over episodes', () => {
    const visits = { learningRate: { kind: 'visits', from: 1, slowness: 1 } as const, discount: 0.5 }
    for (const method of ['monte-carlo-control', 'monte-carlo-prediction'] as const) {
      const learner = newLearner(method, loop(), { ...visits, episodes: 4 })
      learner.advance(3)
      // 10, 1 + 0.5 x 10, 2 + 0.5 x 6
      expect([...learner.table.slice(0, 3)]).toEqual([5, 6, 10])
      const lines = learner.working(0)!.lines
      expect(lines.map(({ label }) => label).slice(0, 3)).toEqual([
        'return from 2 later',
        'return from 1 later',
        'return from here',
      ])
      expect(lines[2].parts.map(({ value }) => value).filter((value) => value !== undefined)).toEqual([
        2, 0.5, 6, 5,
      ])
      while (learner.advance(100) > 0);
      expect([...learner.table.slice(0, 3)]).toEqual([5, 6, 10])
    }
  })

  it.each([
    'q-learning',
    'sarsa',
    'expected-sarsa',
    'double-q-learning',
    'n-step-sarsa',
    'sarsa-lambda',
    'q-lambda',
    'monte-carlo-control',
    'dyna-q',
    'td-0',
    'td-lambda',
    'monte-carlo-prediction',
  ] as const)('a rate of 1/n makes each cell of %s the mean of its targets', (method) => {
    // One room where waiting pays 1 for ever, undiscounted by what follows: every target is 1.
    const builder = new ModelBuilder()
    const room = builder.state('room')
    builder.outcome(builder.row(room, builder.action('wait')), room, 1, 1)
    builder.outcome(builder.row(room, builder.action('yawn')), room, 1, 1)
    const model = builder.build({ starts: [{ state: room, weight: 1 }], cap: 5 })
    const learner = newLearner(method, model, {
      learningRate: { kind: 'visits', from: 1, slowness: 1 },
      exploration: exploring(1),
      discount: 0,
      lambda: 0,
      cap: 5,
    })
    learner.advance(40)
    for (const value of learner.table) expect(value).toBeCloseTo(1, 12)
  })

  it('a rate by visits is that of the cell that is written, with traces too', () => {
    // a, b, then the ending for 8: in the second episode b has been visited twice, a twice.
    const builder = new ModelBuilder()
    const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
    const on = builder.action('on')
    builder.outcome(builder.row(a, on), b, 1, 0)
    builder.outcome(builder.row(b, on), b, 0.5, 0)
    builder.outcome(builder.row(b, on), end, 0.5, 8)
    const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 50 })
    for (const method of ['td-lambda', 'sarsa-lambda', 'q-lambda'] as const) {
      const learner = newLearner(method, model, {
        learningRate: { kind: 'visits', from: 1, slowness: 1 },
        exploration: exploring(0),
        discount: 1,
        lambda: 1,
        episodes: 1,
      })
      while (learner.advance(1) > 0 && learner.last.ended === 'no');
      // The room a was left once, so its own rate is 1 in every update; that of b is 1/n at its n-th visit.
      expect(learner.table[0]).toBe(8)
      expect(learner.table[1]).toBeCloseTo(8 / learner.visits[1], 12)
    }
  })

  it('first visits count once, every visit each time', () => {
    // Staying costs 1 and is the only thing one can do for a while: a chancy way out that never pays.
    const builder = new ModelBuilder()
    const [room, end] = ['room', 'end'].map((label) => builder.state(label))
    const wait = builder.row(room, builder.action('wait'))
    builder.outcome(wait, room, 0.5, -1)
    builder.outcome(wait, end, 0.5, 0)
    const model = builder.build({ starts: [{ state: room, weight: 1 }], cap: 1000 })
    const settings = {
      learningRate: { kind: 'visits', from: 1, slowness: 1 } as const,
      discount: 1,
      episodes: 400,
      seed: 8,
    }
    const first = learned('monte-carlo-prediction', model, { ...settings, counted: 'first' })
    const every = learned('monte-carlo-prediction', model, { ...settings, counted: 'every' })
    // Returns are minus the waits: the mean of first visits is that of the episodes, …
    const waits = Array.from(first.log.lengths, (length) => length - 1)
    const sum = (list: number[]) => list.reduce((total, x) => total + x, 0)
    expect(first.table[0]).toBeCloseTo(-sum(waits) / 400, 10)
    // … and with k waits every visit adds -k, -(k - 1), …, 0.
    expect(every.table[0]).toBeCloseTo(
      -sum(waits.map((k) => (k * (k + 1)) / 2)) / sum(waits.map((k) => k + 1)),
      10,
    )
  })

  it('traces fade by discount times λ, and a second visit adds up or starts afresh', () => {
    const builder = new ModelBuilder()
    const [a, b, end] = ['a', 'b', 'end'].map((label) => builder.state(label))
    const on = builder.action('on')
    builder.outcome(builder.row(a, on), b, 1, 0)
    builder.outcome(builder.row(b, on), end, 1, 8)
    const model = builder.build({ starts: [{ state: a, weight: 1 }], cap: 50 })
    const learner = newLearner('td-lambda', model, {
      learningRate: constant(0.5),
      discount: 0.9,
      lambda: 0.5,
      episodes: 1,
    })
    learner.advance(2)
    // b: 0.5 x 8; a: 0.5 x 8 x 0.45
    expect(learner.table[1]).toBe(4)
    expect(learner.table[0]).toBeCloseTo(1.8, 12)
    expect(learner.eligibility![0]).toBeCloseTo(0.45 * 0.45, 12)
    const working = learner.working(0)!
    expect(working.note).toContain('0.45')
  })

  it('prioritised sweeping knows a world without chance once it has tried everything', () => {
    const model = gridModel(['...', '.#.', '...'], {
      starts: [{ at: 'A3', weight: 1 }],
      endings: [{ at: 'C1', reward: 10, name: '' }],
    })
    const learner = learned('prioritised-sweeping', model, {
      exploration: exploring(1),
      planning: 200,
      threshold: 1e-9,
      episodes: 60,
      cap: 100,
    })
    expect(Math.min(...learner.visits)).toBeGreaterThan(0)
    const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.9, tolerance: 1e-12 })
    while (iteration.status.outcome === 'running') iteration.sweep()
    const exact = actionValues(backupForm(model, 0.9), iteration.values)
    learner.table.forEach((value, row) => expect(value).toBeCloseTo(exact[row], 7))
  })
})
