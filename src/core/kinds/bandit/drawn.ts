import { gaussian } from '../../random/gaussian'
import { RandomStream } from '../../random/generator'
import type { Bandit } from './document'
import { shiftedBy } from './pay-off'

/**
 * The bandit that one run meets: the mean of every pay-off drawn from a normal distribution around what is written, the
 * chance of a Bernoulli arm turning back at 0 and 1. The same for every agent with that seed and run.
 */
export function drawnBandit(bandit: Bandit, seed: number, run: number): Bandit {
  const { anew = 0, ...rest } = bandit
  if (anew === 0) return bandit
  const stream = new RandomStream(seed, 'problem', run)
  return {
    ...rest,
    arms: bandit.arms.map(({ name, pays }) => ({
      name,
      pays: pays.map((payOff) => shiftedBy(payOff, anew * gaussian(stream))),
    })),
  }
}
