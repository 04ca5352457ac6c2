import { gaussian } from '../../random/gaussian'
import { RandomStream } from '../../random/generator'
import type { Bandit } from './document'
import { shiftedBy } from './pay-off'

/**
 * The bandit that one run meets: the mean of every pay-off drawn from a normal distribution around what is written, the
 * chance of a Bernoulli arm turning back at 0 and 1. The same for every agent with that seed and run.
 */
export function drawnBandit(bandit: Bandit, seed: number, run: number): Bandit {
  const arms = drawnArms(bandit, seed, run)
  if (arms === bandit.arms) return bandit
  const { anew: _, ...rest } = bandit
  return { ...rest, arms }
}

/** Its arms; those that are written where runs do not meet arms of their own. */
export function drawnArms({ anew = 0, arms }: Bandit, seed: number, run: number): Bandit['arms'] {
  if (anew === 0) return arms
  const stream = new RandomStream(seed, 'problem', run)
  return arms.map(({ name, pays }) => ({
    name,
    pays: pays.map((payOff) => shiftedBy(payOff, anew * gaussian(stream))),
  }))
}
