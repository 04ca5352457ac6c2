import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkEnvironment } from '../../environment/document'
import { compileEnvironment } from '../../environment/compile'
import type { BanditEnvironment } from './kind'
import { newBandit } from './blank'
import { armMeans, compileBandit, PaySchedule } from './compile'
import type { Bandit } from './document'
import { meanOf, PAY_OFFS, prizesOf, shiftedBy, type PayOff } from './pay-off'

const bandit = (part: Partial<Bandit> = {}): Bandit => ({
  arms: [
    { name: 'a', pays: [{ type: 'bernoulli', chance: 0.25, reward: 4 }] },
    { name: 'b', pays: [{ type: 'gaussian', mean: -1, deviation: 2 }] },
  ],
  contexts: [],
  pulls: 1,
  drift: { type: 'none' },
  hidden: false,
  ...part,
})

const payOff: fc.Arbitrary<PayOff> = fc.oneof(
  fc.record({
    type: fc.constant('bernoulli' as const),
    chance: fc.double({ min: 0, max: 1, noNaN: true }),
    reward: fc.double({ min: -100, max: 100, noNaN: true }),
  }),
  fc.record({
    type: fc.constant('gaussian' as const),
    mean: fc.double({ min: -100, max: 100, noNaN: true }),
    deviation: fc.double({ min: 0, max: 50, noNaN: true }),
  }),
  fc
    .tuple(fc.double({ min: -100, max: 100, noNaN: true }), fc.double({ min: 0, max: 50, noNaN: true }))
    .map(([low, width]) => ({ type: 'uniform' as const, low, high: low + width })),
  fc
    .array(fc.record({ reward: fc.integer({ min: -9, max: 9 }), weight: fc.integer({ min: 1, max: 9 }) }), {
      minLength: 1,
      maxLength: 6,
    })
    .map((outcomes) => ({ type: 'categorical' as const, outcomes })),
)

describe('pay-offs', () => {
  it('come as prizes whose chances sum to 1 and whose mean is theirs', () => {
    fc.assert(
      fc.property(payOff, (pays) => {
        const prizes = prizesOf(pays)
        expect(prizes.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 12)
        const mean = prizes.reduce((sum, { reward, probability }) => sum + reward * probability, 0)
        expect(mean).toBeCloseTo(meanOf(pays), 9)
      }),
    )
  })

  it('keep their deviation when they are cut into slices', () => {
    const deviation = (pays: PayOff) =>
      Math.sqrt(
        prizesOf(pays).reduce(
          (sum, { reward, probability }) => sum + probability * (reward - meanOf(pays)) ** 2,
          0,
        ),
      )
    expect(deviation({ type: 'gaussian', mean: 3, deviation: 2 })).toBeCloseTo(2, 12)
    expect(deviation({ type: 'uniform', low: -1, high: 5 })).toBeCloseTo(6 / Math.sqrt(12), 12)
  })

  it('cut a bell where a table of the normal distribution does', () => {
    // The outer of 32 slices lies beyond 1.8627; its mean is 32 times the density there, 2.2514, then stretched.
    const outer = prizesOf({ type: 'gaussian', mean: 0, deviation: 1 }).at(-1)!.reward
    expect(outer).toBeGreaterThan(2.25)
    expect(outer).toBeLessThan(2.32)
  })

  it('wander by their means; a chance turns back at 0 and 1', () => {
    expect(shiftedBy({ type: 'bernoulli', chance: 0.9, reward: 1 }, 0.3)).toMatchObject({
      chance: expect.closeTo(0.8, 12),
    })
    expect(shiftedBy({ type: 'bernoulli', chance: 0.1, reward: 1 }, -0.3)).toMatchObject({
      chance: expect.closeTo(0.2, 12),
    })
    for (const { plain } of Object.values(PAY_OFFS))
      if (plain.type !== 'bernoulli') expect(meanOf(shiftedBy(plain, 2))).toBeCloseTo(meanOf(plain) + 2, 12)
  })
})

describe('compileBandit', () => {
  it('has one state that ends with the pull, and an outcome for every reward', () => {
    const { model } = compileBandit(bandit(), 10)
    expect(model.labels).toEqual(['pull 1', 'over'])
    expect([...model.outcomeStart]).toEqual([0, 2, 34])
    expect([...model.outcomeReward.slice(0, 2)]).toEqual([0, 4])
    expect([...model.outcomeProbability.slice(0, 2)]).toEqual([0.75, 0.25])
    expect(model.ending[1]).toBe(1)
  })

  it('draws contexts by weight, before the first pull and after every other', () => {
    const contexts = [
      { name: 'alone', weight: 3 },
      { name: 'group', weight: 1 },
    ]
    const pays = [
      { type: 'bernoulli', chance: 1, reward: 1 },
      { type: 'bernoulli', chance: 1, reward: 5 },
    ] as const
    const { model } = compileBandit(bandit({ contexts, pulls: 2, arms: [{ name: 'a', pays }] }), 10)
    expect(model.labels).toEqual(['pull 1, alone', 'pull 1, group', 'pull 2, alone', 'pull 2, group', 'over'])
    expect([...model.startProbability]).toEqual([0.75, 0.25])
    expect([...model.outcomeState]).toEqual([2, 3, 2, 3, 4, 4])
    expect([...model.outcomeReward]).toEqual([1, 1, 5, 5, 1, 5])
    // The agent sees the context, not the pull.
    expect([...model.observation]).toEqual([0, 1, 0, 1, 2])
  })

  it('passes pay-offs on from arm to arm when they switch', () => {
    const drifting = bandit({ pulls: 6, drift: { type: 'switch', every: 2 } })
    expect([1, 2, 3, 4, 5].map((pull) => armMeans(drifting, pull, 0))).toEqual([
      [1, -1],
      [1, -1],
      [-1, 1],
      [-1, 1],
      [1, -1],
    ])
  })

  it('lets means walk: the same walk for the same seed, with steps of the size asked for', () => {
    const walk = (seed: number) => bandit({ pulls: 2000, drift: { type: 'walk', step: 0.5, seed } })
    const means = (seed: number) => {
      const schedule = new PaySchedule(walk(seed))
      return Array.from({ length: 2000 }, (_, i) => meanOf(schedule.at(i + 1, 1, 0)))
    }
    const [one, again, other] = [means(3), means(3), means(4)]
    expect(one).toEqual(again)
    expect(one).not.toEqual(other)
    expect(one[0]).toBe(-1)
    const steps = one.slice(1).map((mean, i) => mean - one[i])
    const size = Math.sqrt(steps.reduce((sum, step) => sum + step * step, 0) / steps.length)
    // Two thousand steps: three standard errors are 5 %.
    expect(Math.abs(size - 0.5)).toBeLessThan(0.025)
  })

  it.each([
    [{ pulls: 1, drift: { type: 'switch', every: 2 } }, /With one pull an episode, nothing can drift/],
    [
      { arms: [{ name: 'a', pays: [PAY_OFFS.uniform.plain, PAY_OFFS.uniform.plain] }] },
      /The arm “a” has 2 pay-offs where there is 1 context/,
    ],
    [
      {
        pulls: 10_000,
        arms: Array.from({ length: 100 }, (_, i) => ({ name: `a${i}`, pays: [PAY_OFFS.gaussian.plain] })),
      },
      /more outcomes than 8000000/,
    ],
  ] as [Partial<Bandit>, RegExp][])('refuses %#', (part, message) => {
    expect(() => compileBandit(bandit(part), 10)).toThrow(message)
  })
})

describe('a bandit’s document', () => {
  const document = (part: object): unknown => {
    const plain = newBandit('b')
    return { ...plain, bandit: { ...plain.bandit, ...part } }
  }
  const arms = (count: number) =>
    Array.from({ length: count }, (_, i) => ({ name: `arm ${i}`, pays: [PAY_OFFS.bernoulli.plain] }))

  it('is read with its defaults', () => {
    const { kind, format, version, name } = newBandit('b')
    const short = { kind, format, version, name, bandit: { arms: arms(2) } }
    expect((checkEnvironment(short) as BanditEnvironment).bandit).toMatchObject({
      contexts: [],
      pulls: 1,
      drift: { type: 'none' },
      hidden: false,
    })
    expect(compileEnvironment(checkEnvironment(short)).model.rows).toBe(2)
  })

  it.each([
    [{ arms: arms(300) }, /bandit.arms: It has 300 arms; a bandit may have 100/],
    [{ arms: [] }, /bandit.arms: It must contain at least 1/],
    [{ arms: [arms(1)[0], arms(1)[0]] }, /bandit.arms\[1\]: It contains a duplicate value/],
    [{ arms: [{ name: 'a', pays: [{ type: 'poisson', mean: 3 }] }] }, /bandit.arms\[0\].pays\[0\]/],
    [
      { arms: [{ name: 'a', pays: [{ type: 'bernoulli', chance: 2, reward: 1 }] }] },
      /pays\[0\].chance: It must be less/,
    ],
    [{ arms: [{ name: 'a', pays: [{ type: 'uniform', low: 2, high: 1 }] }] }, /pays\[0\].high/],
    [{ arms: [{ name: 'a', pays: [{ type: 'gaussian', mean: 2, deviation: -1 }] }] }, /deviation/],
    [{ arms: [{ name: 'a', pays: [{ type: 'categorical', outcomes: [] }] }] }, /outcomes/],
    [{ drift: { type: 'walk', step: 0, seed: 1 } }, /bandit.drift/],
    [{ pulls: 0 }, /bandit.pulls/],
  ])('refuses %#', (part, message) => {
    expect(() => checkEnvironment(document(part))).toThrow(message)
  })
})
