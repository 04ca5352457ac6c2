import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import {
  compileEnvironment,
  parseEnvironment,
  type EnvironmentDocument,
  type RulebookEnvironment,
} from '../../core/environment/document'
import { scorePolicies } from '../../core/evaluate/scores'
import { startValue, type Model } from '../../core/model/model'
import { actionValues, greedyPolicy } from '../../core/plan/backup'
import { evaluatePolicy } from '../../core/plan/evaluate'
import { PLAN_DEFAULTS, ValueIteration } from '../../core/plan/value-iteration'

const load = (name: string) => parseEnvironment(readFileSync(`demo/${name}.json`, 'utf8'))
const NAMES = readdirSync('demo').map((name) => name.replace('.json', ''))

function turned(document: EnvironmentDocument, knobs: Record<string, number>): Model {
  const { rulebook } = document as RulebookEnvironment
  return compileEnvironment({ ...(document as RulebookEnvironment), rulebook: { ...rulebook, knobs } }).model
}

function planned(model: Model, discount: number) {
  const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount, tolerance: 1e-9 })
  while (iteration.status.outcome === 'running') iteration.sweep()
  expect(iteration.status.outcome).toBe('converged')
  const policy = greedyPolicy(model.rowStart, actionValues(iteration.form, iteration.values))
  const picked = model.labels.map((label, s) => {
    const rows = Array.from(
      { length: model.rowStart[s + 1] - model.rowStart[s] },
      (_, k) => model.rowStart[s] + k,
    )
    return [
      label,
      rows
        .filter((r) => policy[r] > 0)
        .map((r) => model.actions[model.rowAction[r]])
        .join('|'),
    ]
  })
  return {
    value: startValue(model, iteration.values),
    values: iteration.values,
    policy: Object.fromEntries(picked) as Record<string, string>,
  }
}

describe.each(NAMES)('%s', (name) => {
  const document = load(name)
  const { model, facts, measures } = compileEnvironment(document)

  it('says what to look at, holds its checks, and is much better planned than left to chance', () => {
    expect(document.note.length).toBeGreaterThan(200)
    expect(facts?.checks.filter(({ broken }) => broken) ?? []).toEqual([])
    expect(facts?.notes ?? []).toEqual([])
    const scores = scorePolicies(model, facts?.policies ?? [], measures, document.discount)
    const best = scores.at(-1)!.value!
    const random = scores[0].value!
    expect(best - random).toBeGreaterThan(0.2 * Math.max(Math.abs(best), Math.abs(random)))
    for (const { value } of scores) if (value !== null) expect(value).toBeLessThanOrEqual(best + 1e-9)
  })
})

it.each(NAMES.filter((name) => load(name).kind === 'rulebook'))(
  '%s compiles with every knob at either end',
  (name) => {
    const document = load(name)
    for (const { name: knob, low, high } of compileEnvironment(document).facts!.knobs)
      for (const end of [low, high]) {
        const model = turned(document, { [knob]: end })
        expect(model.outcomeReward.every(Number.isFinite), `${knob} = ${end}`).toBe(true)
      }
  },
)

describe('one knob changes what is best', () => {
  it.each([
    ['evening-tickets', { interest: 10 }, 'evening 4, left 12'],
    ['escalator-care', { service_cost: 25 }, 'wear 3, stuck no'],
    ['cloakroom-queue', { class_pays: 1 }, 'taken 7, waiting visitor'],
    ['conservators-humidity', { power: 5 }, 'humidity 45, weather mild'],
    ['same-looking-doors', { cupboard: 4 }, 'door 5'],
    ['vault-dial', { wrench_cost: 1 }, null],
  ])('in %s: %j', (name, knobs, state) => {
    const document = load(name)
    const before = planned(turned(document, {}), document.discount).policy
    const after = planned(turned(document, knobs), document.discount).policy
    if (state) expect(after[state]).not.toBe(before[state])
    else expect(Object.keys(before).some((label) => before[label] !== after[label])).toBe(true)
  })
})

/** Values worked out apart from the language and the planner, from the words of the demo. */
describe('independent answers', () => {
  it('evening tickets: a recursion over evenings and places', () => {
    const document = load('evening-tickets')
    const { value } = planned(turned(document, { places: 4, evenings: 3 }), 1)
    const chances = (price: number) => {
      const mean = 6 * (1 - price / 24)
      const p = [Math.exp(-mean)]
      for (let k = 1; k < 20; k++) p.push((p[k - 1] * mean) / k)
      return [...p, 1 - p.reduce((sum, x) => sum + x, 0)]
    }
    const worth = (evening: number, left: number): number => {
      if (evening > 3 || left === 0) return 0
      return Math.max(
        ...[6, 9, 12, 15, 18].map((price) =>
          chances(price).reduce((sum, p, callers) => {
            const sold = Math.min(callers, left)
            return sum + p * (price * sold + worth(evening + 1, left - sold))
          }, 0),
        ),
      )
    }
    expect(value).toBeCloseTo(worth(1, 4), 9)
  })

  it('escalator care: sweeps over a table written by hand', () => {
    const document = load('escalator-care')
    const { values } = planned(turned(document, {}), 0.95)
    const { model } = compileEnvironment(document)
    const risk = [0, 0, 0.01, 0.04, 0.09, 0.16, 0.25]
    let v = Array.from({ length: 7 }, () => [0, 0])
    for (let sweep = 0; sweep < 2000; sweep++)
      v = v.map(([,], wear) => {
        const replace = -50 + 0.95 * v[0][0]
        const up = Math.min(6, wear + 1)
        const run =
          0.5 * ((1 - risk[wear]) * (10 + 0.95 * v[wear][0]) + risk[wear] * (-15 + 0.95 * v[wear][1])) +
          0.5 * ((1 - risk[wear]) * (10 + 0.95 * v[up][0]) + risk[wear] * (-15 + 0.95 * v[up][1]))
        const service = -7 + 0.95 * v[Math.max(0, wear - 2)][0]
        return [Math.max(run, service, replace), replace]
      })
    model.labels.forEach((label, s) => {
      const [, wear, stuck] = /wear (\d), stuck (\w+)/.exec(label)!
      expect(values[s]).toBeCloseTo(v[Number(wear)][stuck === 'yes' ? 1 : 0], 7)
    })
  })

  it('the vault dial: the number of moves, by breadth-first search', () => {
    const model = turned(load('vault-dial'), { jam: 0, wrench_cost: 1 })
    const { values } = planned(model, 1)
    const moves = [
      (t: string) => t.slice(1) + t[0],
      (t: string) => t[4] + t.slice(0, 4),
      (t: string) => t[1] + t[0] + t.slice(2),
      (t: string) => t[2] + t[1] + t[0] + t.slice(3),
    ]
    const distance = new Map([['12345', 0]])
    for (const [t, d] of distance) {
      // Turning left is undone by turning right, every exchange by itself: the way there is as long as the way back.
      for (const move of moves) if (!distance.has(move(t))) distance.set(move(t), d + 1)
    }
    expect(distance.size).toBe(120)
    model.labels.forEach((label, s) =>
      expect(values[s]).toBeCloseTo(-distance.get(label.replace(/\D/g, ''))!, 8),
    )
  })

  it('same-looking doors: of all ways to treat a colour alike, opening green ones now and then is best', () => {
    const document = load('same-looking-doors')
    const model = turned(document, { roll: 0 })
    // Always on elsewhere, open green ones with chance p. By hand, from the ring of eight with step 1, brooms 3, +20.
    const worth = (p: number) => {
      const policy = new Float64Array(model.rows)
      for (let s = 0; s < model.states; s++)
        for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
          const action = model.actions[model.rowAction[r]]
          const green = model.labels[s] === 'door 2' || model.labels[s] === 'door 6'
          policy[r] = action === 'open' ? (green ? p : 0) : action === 'on' ? (green ? 1 - p : 1) : 0
        }
      const result = evaluatePolicy(model, policy, 1)
      if (result.outcome !== 'solved') throw new Error(result.outcome)
      return result.values[model.labels.indexOf('door 3')]
    }
    const byHand = (p: number) => {
      // From door 3: three steps to 6. There: open (+19) with p, else on: four steps to 2; there opens k times,
      // k with chance p^k (1 - p), each -4, and one step on to 3.
      const opens = p / (1 - p)
      const round = -1 - 3 - 4 * opens - 1
      return (-3 + p * 19 + (1 - p) * round) / p
    }
    for (const p of [0.1, 0.4, 0.6]) expect(worth(p)).toBeCloseTo(byHand(p), 9)
  })
})
