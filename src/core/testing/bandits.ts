import type { BanditDocument } from '../compare/pull-task'
import { compileEnvironment } from '../environment/compile'
import { newBandit } from '../kinds/bandit/blank'
import type { Bandit } from '../kinds/bandit/document'
import type { Model } from '../model/model'
import { gaussian } from '../random/gaussian'
import { RandomStream } from '../random/generator'

/** A bandit of one pull an episode, without contexts and drift where nothing else is said. */
export function banditDocument(bandit: Partial<Bandit>): BanditDocument {
  const blank = newBandit('Arms')
  return {
    ...blank,
    bandit: { ...blank.bandit, contexts: [], pulls: 1, drift: { type: 'none' }, hidden: false, ...bandit },
  }
}

/** A bandit of one pull an episode, made of arms as they stand in a document. */
export function banditModel(arms: Bandit['arms']): Model {
  return compileEnvironment(banditDocument({ arms })).model
}

/** Arms that pay 1 with these chances. */
export function bernoulliDocument(...chances: number[]): BanditDocument {
  return banditDocument({
    arms: chances.map((chance, i) => ({
      name: `arm ${i}`,
      pays: [{ type: 'bernoulli', chance, reward: 1 }],
    })),
  })
}

export function bernoulliArms(...chances: number[]): Model {
  return compileEnvironment(bernoulliDocument(...chances)).model
}

/**
 * Ten arms with means drawn from a normal distribution around `centre`, each pay-off normal around its mean, all with
 * deviation 1 (the testbed of Sutton & Barto 2018, section 2.3).
 */
export function tenArms(problem: number, centre = 0): { readonly model: Model; readonly best: number } {
  const stream = new RandomStream(11, 'environment', problem)
  const means = Array.from({ length: 10 }, () => centre + gaussian(stream))
  const model = banditModel(
    means.map((mean, i) => ({ name: `arm ${i}`, pays: [{ type: 'gaussian', mean, deviation: 1 }] })),
  )
  return { model, best: means.indexOf(Math.max(...means)) }
}
