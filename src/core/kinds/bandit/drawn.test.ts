import { expect, it } from 'vitest'
import { newBandit } from './blank'
import type { Bandit } from './document'
import { drawnBandit } from './drawn'
import { meanOf } from './pay-off'

const BANDIT: Bandit = {
  ...newBandit('Anew').bandit,
  arms: [0, 5].map((mean, i) => ({ name: `arm ${i}`, pays: [{ type: 'gaussian', mean, deviation: 2 }] })),
  anew: 3,
}

it('draws every mean around what is written, and leaves everything else', () => {
  const means = Array.from({ length: 4000 }, (_, run) =>
    drawnBandit(BANDIT, 7, run).arms.map(({ pays }) => meanOf(pays[0])),
  )
  for (const arm of [0, 1]) {
    const mean = means.reduce((sum, each) => sum + each[arm], 0) / means.length
    const squares = means.reduce((sum, each) => sum + (each[arm] - mean) ** 2, 0) / means.length
    expect(Math.abs(mean - 5 * arm)).toBeLessThan((5 * 3) / Math.sqrt(means.length))
    expect(Math.abs(Math.sqrt(squares) / 3 - 1)).toBeLessThan(0.06)
  }
  const drawn = drawnBandit(BANDIT, 7, 1)
  expect(drawn.arms[0].pays[0]).toMatchObject({ type: 'gaussian', deviation: 2 })
  expect('anew' in drawn).toBe(false)
})

it('is the same for the same seed and run, and another one for others', () => {
  expect(drawnBandit(BANDIT, 7, 3)).toEqual(drawnBandit(BANDIT, 7, 3))
  expect(drawnBandit(BANDIT, 7, 4)).not.toEqual(drawnBandit(BANDIT, 7, 3))
  expect(drawnBandit(BANDIT, 8, 3)).not.toEqual(drawnBandit(BANDIT, 7, 3))
  const written = { ...BANDIT, anew: 0 }
  expect(drawnBandit(written, 7, 3)).toBe(written)
})

it('keeps chances between 0 and 1', () => {
  const coins: Bandit = { ...newBandit('Coins').bandit, anew: 0.8 }
  for (let run = 0; run < 300; run++)
    for (const { pays } of drawnBandit(coins, 1, run).arms) {
      const [payOff] = pays
      if (payOff.type !== 'bernoulli') throw new Error('It is a coin.')
      expect(payOff.chance >= 0 && payOff.chance <= 1).toBe(true)
    }
})
