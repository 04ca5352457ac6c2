import { describe, expect, it } from 'vitest'
import { add, fraction, times, toNumber, type Fraction } from '../../testing/rational'
import { rulebook, problemsOf } from '../../testing/rulebooks'
import { DISTRIBUTIONS, isPmfFault, type Cut } from './distributions'
import { normalBelow } from '../../random/normal'

function pmf(name: string, parameters: number[], cut: Cut = {}): Map<number, number> {
  const made = DISTRIBUTIONS[name].make(parameters, cut)
  if (isPmfFault(made)) throw new Error(made.cause)
  expect(made.chances.reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 12)
  return new Map(made.values.map((value, i) => [value, made.chances[i]]))
}

function power(x: Fraction, n: number): Fraction {
  return n === 0 ? fraction(1) : times(x, power(x, n - 1))
}

function choose(n: number, k: number): Fraction {
  return k === 0 ? fraction(1) : times(choose(n - 1, k - 1), fraction(n, k))
}

describe('against exact fractions', () => {
  it('binomial', () => {
    const p = fraction(3, 10)
    const found = pmf('binomial', [12, 0.3])
    for (let k = 0; k <= 12; k++)
      expect(found.get(k)).toBeCloseTo(
        toNumber(times(choose(12, k), times(power(p, k), power(fraction(7, 10), 12 - k)))),
        14,
      )
  })

  it('geometric, what is past the cut on its end', () => {
    const found = pmf('geometric', [0.25], { high: 4 })
    for (let k = 0; k < 4; k++) expect(found.get(k)).toBeCloseTo(0.25 * 0.75 ** k, 15)
    expect(found.get(4)).toBeCloseTo(0.75 ** 4, 15)
  })

  it('Poisson: the ratio of neighbours, the first from a series of e^-m, the tail on the cut', () => {
    // e^(-5/2) by its series in fractions, 40 terms.
    let e = fraction(0)
    let term = fraction(1)
    for (let n = 1; n <= 40; n++) {
      e = add(e, term)
      term = times(term, fraction(-5, 2 * n))
    }
    const found = pmf('poisson', [2.5], { high: 6 })
    let chance = e
    let below = fraction(0)
    for (let k = 0; k < 6; k++) {
      expect(found.get(k)).toBeCloseTo(toNumber(chance), 14)
      below = add(below, chance)
      chance = times(chance, fraction(5, 2 * (k + 1)))
    }
    expect(found.get(6)).toBeCloseTo(1 - toNumber(below), 14)
    expect(found.size).toBe(7)
  })

  it('Poisson without a cut puts a tail below 1e-12 on the last value', () => {
    const found = pmf('poisson', [9])
    const last = Math.max(...found.keys())
    expect(last).toBeGreaterThan(30)
    expect(last).toBeLessThan(45)
    expect(found.get(last)).toBeLessThan(4e-12)
  })

  it('uniform and coin', () => {
    expect([...pmf('uniform', [-1, 2])]).toEqual([-1, 0, 1, 2].map((k) => [k, 0.25]))
    expect([...pmf('coin', [0.2])]).toEqual([
      [0, 0.8],
      [1, 0.2],
    ])
    expect([...pmf('coin', [1])]).toEqual([[1, 1]])
  })

  it('normal: tabled values of the distribution function, ends with their tails', () => {
    // Abramowitz & Stegun 1964, table 26.1.
    expect(normalBelow(0)).toBe(0.5)
    expect(normalBelow(1)).toBeCloseTo(0.841344746068543, 15)
    expect(normalBelow(-2)).toBeCloseTo(0.022750131948179, 15)
    expect(normalBelow(3)).toBeCloseTo(0.99865010196837, 15)
    const found = pmf('normal', [0, 1], { low: -1, high: 1 })
    expect(found.get(0)).toBeCloseTo(normalBelow(0.5) - normalBelow(-0.5), 15)
    expect(found.get(1)).toBeCloseTo(normalBelow(-0.5), 15)
    expect(found.get(-1)).toBeCloseTo(normalBelow(-0.5), 15)
  })

  it('does not underflow or stall at the ends of its ranges', () => {
    expect(pmf('binomial', [2000, 0.999]).get(2000)).toBeCloseTo(0.999 ** 2000, 12)
    expect(pmf('poisson', [500]).size).toBeGreaterThan(200)
    expect([...pmf('poisson', [0])]).toEqual([[0, 1]])
    expect([...pmf('binomial', [0, 0.5])]).toEqual([[0, 1]])
    expect([...pmf('geometric', [1])]).toEqual([[0, 1]])
  })
})

const HEAD = 'state left from 0 to 3\nstart left = 0\naction wait\nnext left = min(3, left + 1)\n'

describe('in a rulebook', () => {
  it.each([
    ['poisson(-1)', 'The mean is -1.'],
    ['poisson(900)', 'The mean is 900.'],
    ['geometric(0)', 'The chance is 0.'],
    ['geometric(0.001)', 'more than 2000 numbers'],
    ['binomial(2.5, 0.5)', 'The number of tries is 2.5.'],
    ['coin(1.5)', 'The chance is 1.5.'],
    ['uniform(3, 1)', 'It goes from 3 to 1.'],
    ['normal(0, 1)', 'normal needs its ends.'],
    ['normal(0, 0) from 0 to 1', 'The spread is 0.'],
    ['uniform(1, 3) up to 2', 'uniform cannot be cut off.'],
    ['poisson(3) up to -1', 'It is cut off to 0 … -1.'],
    ['poisson(1, 2)', 'poisson takes the mean.'],
    ['poison(3)', 'There is no distribution “poison”.'],
    ['pick(1, 2)', 'pick names its values'],
    ['pick(1: 0.5, 2: 0.4)', 'The chances sum to 0.9.'],
    ['pick(1: 0.5, 2: 0.6, 3: rest)', 'The chances sum to 1.1.'],
    ['pick(1: rest, 2: rest)', 'Two of the values take the rest.'],
    ['pick(1: 0.5, yes: 0.5)', 'The values are of different kinds.'],
    ['pick(1: 1.5, 2: -0.5)', 'One of the chances is 1.5'],
  ])('%s: %s', (draw, cause) => {
    const [problem] = problemsOf(`${HEAD}chance x ~ ${draw}`)
    expect(problem.cause).toContain(cause)
    expect(problem.place).toMatch(/^line 5, column \d+$/)
  })

  it('refuses parameters that go wrong in one state only, and names it', () => {
    expect(problemsOf(`${HEAD}chance x ~ poisson(2 - left)`)[0]).toMatchObject({
      place: 'line 5, column 12',
      cause:
        'The mean is -1, when left 3, action wait. The way there: left 0, wait (x = 0); left 1, wait (x = 0); left 2, wait (x = 0).',
    })
    expect(problemsOf(`${HEAD}chance x ~ pick(1: if left = 2 then 0.4 else 0.5, 0: 0.5)`)[0].cause).toBe(
      'The chances sum to 0.9, when left 2, action wait. The way there: left 0, wait (x = 1); left 1, wait (x = 1).',
    )
  })

  it('draws what depends on the state and on what has fallen before', () => {
    const { model } = rulebook(
      `${HEAD}chance a ~ binomial(left, 0.5)\nchance b ~ pick(1: if a > 0 then 0.25 else 0, 0: rest)\nreward b`,
    )
    const s = model.labels.indexOf('left 2')
    const o = model.outcomeStart[model.rowStart[s]]
    // One coin of two at least falls with 3/4; then b is 1 with 1/4.
    expect(model.outcomeReward[o]).toBeCloseTo(3 / 16, 15)
  })
})
