import { inspectionOf } from '../../core/kinds/inspections'
import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { parseEnvironment } from '../../core/environment/document'
import { compileEnvironment } from '../../core/environment/compile'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { knobsOf, turnKnob } from '../../core/environment/knobs'
import { scorePolicies } from '../../core/evaluate/scores'
import { startValue, type Model } from '../../core/model/model'
import { actionValues, greedyPolicy } from '../../core/plan/backup'
import { evaluatePolicy } from '../../core/plan/evaluate'
import { PLAN_DEFAULTS } from '../../core/plan/plan-settings'
import { ValueIteration } from '../../core/plan/value-iteration'

const load = (name: string) => parseEnvironment(readFileSync(`demo/${name}.json`, 'utf8'))
const NAMES = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((name) => name.replace('.json', ''))

function turned(document: EnvironmentDocument, knobs: Record<string, number>): Model {
  if (document.kind !== 'rulebook') {
    let with_: EnvironmentDocument = document
    for (const [name, value] of Object.entries(knobs)) with_ = turnKnob(with_, name, value)
    return compileEnvironment(with_).model
  }
  const { rulebook } = document
  return compileEnvironment({ ...document, rulebook: { ...rulebook, knobs } }).model
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
  const compiled = compileEnvironment(document)
  const { model, policies, measures } = compiled

  it('says what to look at, holds its checks, and is much better planned than left to chance', () => {
    expect(document.note.length).toBeGreaterThan(200)
    expect(inspectionOf(document).findings(document, compiled)).toEqual([])
    const scores = scorePolicies(model, policies, measures, document.discount)
    const best = scores.at(-1)!.value!
    const random = scores[0].value!
    expect(best - random).toBeGreaterThan(0.2 * Math.max(Math.abs(best), Math.abs(random)))
    for (const { value } of scores) if (value !== null) expect(value).toBeLessThanOrEqual(best + 1e-9)
  })
})

it('stands complete on the shelf, every one with a knob', () => {
  expect(NAMES).toHaveLength(16)
  for (const name of NAMES) expect(knobsOf(load(name)).length, name).toBeGreaterThan(0)
})

it.each(NAMES)('%s compiles with every knob at either end', (name) => {
  const document = load(name)
  for (const { name: knob, low, high } of knobsOf(document))
    for (const end of [low, high]) {
      const model = turned(document, { [knob]: end })
      expect(model.outcomeReward.every(Number.isFinite), `${knob} = ${end}`).toBe(true)
    }
})

describe('one knob changes what is best', () => {
  it.each([
    ['night-rounds', { veer: 0.1 }, 'A4'],
    ['alarm-beam', { veer: 0.1 }, 'F7'],
    ['draughty-hall', { draught: 0 }, 'A4'],
    ['which-poster', { night_owl: 0.1 }, 'pull 1'],
    ['audio-guide-tip', { riddle_for_children: -1 }, 'pull 1, with children'],
    ['loans-of-the-season', { clockwork_fox: -0.5 }, 'pull 1'],
    ['docents-round', { tea: 30 }, 'court fresh'],
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
  it('night rounds: sweeps over coordinates, the rules written out again', () => {
    const { values, labels } = (() => {
      const document = load('night-rounds')
      const model = turned(document, {})
      return { values: planned(model, 0.98).values, labels: model.labels }
    })()
    const rows = [
      '..........',
      '.########.',
      '.#..#..#..',
      '..........',
      '.#..#..#..',
      '.########.',
      '::::::::::',
    ]
    const ends: Record<string, number> = { '9,3': 30, '3,2': -20, '6,2': -20, '2,4': -20 }
    const free = (x: number, y: number) => rows[y]?.[x] !== undefined && rows[y][x] !== '#'
    const v = new Map<string, number>()
    for (let sweep = 0; sweep < 1500; sweep++)
      for (let y = 0; y < 7; y++)
        for (let x = 0; x < 10; x++) {
          if (!free(x, y) || ends[`${x},${y}`] !== undefined) continue
          const go = (dx: number, dy: number) => {
            const [nx, ny] = free(x + dx, y + dy) ? [x + dx, y + dy] : [x, y]
            const end = ends[`${nx},${ny}`]
            return -1 - (rows[ny][nx] === ':' ? 1 : 0) + (end ?? 0.98 * (v.get(`${nx},${ny}`) ?? 0))
          }
          const moves = [go(0, -1), go(1, 0), go(0, 1), go(-1, 0)]
          v.set(
            `${x},${y}`,
            Math.max(...moves.map((m, i) => 0.8 * m + 0.1 * moves[(i + 1) % 4] + 0.1 * moves[(i + 3) % 4])),
          )
        }
    labels.forEach((label, s) => {
      const at = `${label.charCodeAt(0) - 65},${Number(label.slice(1)) - 1}`
      if (ends[at] === undefined) expect(values[s], label).toBeCloseTo(v.get(at)!, 7)
    })
  })

  it('the draughty hall with a steady draught: the shortest way by a search of its own', () => {
    const model = turned(load('draughty-hall'), { draught: 1 })
    const { values } = planned(model, 1)
    // Undiscounted and without chance. States: column, row, bonus taken.
    const cost = (y: number, x: number) => (y >= 5 && x < 10 ? 3 : 0)
    const strength = (x: number, y: number) =>
      y < 1 || y > 4 || x < 3 || x > 7 ? 0 : x === 5 || x === 6 ? 2 : 1
    const best = new Map<string, number>()
    for (let sweep = 0; sweep < 60; sweep++)
      for (let y = 0; y < 7; y++)
        for (let x = 0; x < 11; x++)
          for (const taken of [0, 1]) {
            if (x === 10 && y === 3) continue
            let most = -Infinity
            for (const [dx, dy] of [
              [0, -1],
              [1, -1],
              [1, 0],
              [1, 1],
              [0, 1],
              [-1, 1],
              [-1, 0],
              [-1, -1],
            ]) {
              let [nx, ny] = [x + dx, y + dy]
              if (nx < 0 || ny < 0 || nx > 10 || ny > 6) [nx, ny] = [x, y]
              ny = Math.min(6, ny + strength(nx, ny))
              const length = dx && dy ? Math.SQRT2 : 1
              const bonus = nx === 10 && ny === 0 && !taken ? 4 : 0
              const rest = nx === 10 && ny === 3 ? 20 : (best.get(`${nx} ${ny} ${bonus ? 1 : taken}`) ?? -1e6)
              most = Math.max(most, (-1 - cost(ny, nx)) * length + bonus + rest)
            }
            best.set(`${x} ${y} ${taken}`, most)
          }
    model.labels.forEach((label, s) => {
      if (model.ending[s]) return
      const [cell] = label.split(' ')
      const key = `${cell.charCodeAt(0) - 65} ${Number(cell.slice(1)) - 1} ${label.includes('after') ? 1 : 0}`
      expect(values[s], label).toBeCloseTo(best.get(key)!, 8)
    })
  })

  it('which poster: an action is worth its chance', () => {
    const model = turned(load('which-poster'), {})
    expect(planned(model, 0.95).value).toBeCloseTo(0.22, 12)
    const { form, values } = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: 0.95 })
    expect([...actionValues(form, values)].map((q) => Number(q.toFixed(12)))).toEqual([
      0.08, 0.22, 0.17, 0.05,
    ])
  })

  it('which tip: before anything wanders, the means that are written down, by context', () => {
    const model = turned(load('audio-guide-tip'), {})
    const { value, policy } = planned(model, 0)
    expect(value).toBeCloseTo((3 * 1.6 + 2 * 2) / 5, 12)
    expect([policy['pull 1, alone'], policy['pull 1, with children']]).toEqual(['anecdote', 'riddle'])
  })

  it('a docent’s round: four equations solved by hand', () => {
    // Fresh lingers, tired rests: F = 3 + .95 (F + T) / 2 and T = -2 + .95 (.6 F + .4 T).
    const d = 0.95
    const a = 1 - 0.4 * d
    const fresh = (3 + ((d / 2) * -2) / a) / (1 - d / 2 - ((d / 2) * 0.6 * d) / a)
    const tired = (-2 + 0.6 * d * fresh) / a
    const { policy, values } = planned(turned(load('docents-round'), {}), d)
    const at = Object.fromEntries(Object.keys(policy).map((label, s) => [label, values[s]]))
    expect(at['court fresh']).toBeCloseTo(fresh, 7)
    expect(at['court tired']).toBeCloseTo(tired, 7)
    expect(at['painting hall']).toBeCloseTo(6, 9)
    expect(at.foyer).toBeCloseTo(1 + d * (0.8 * fresh + 0.2 * tired), 7)
  })

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
