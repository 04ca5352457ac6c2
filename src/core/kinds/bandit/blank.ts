import { newHead } from '../../environment/head'
import type { DocumentOf } from '../kind'
import type { Bandit } from './document'

/** What a new bandit begins with: three arms of which one is the best. */
export function newBandit(name: string): DocumentOf<'bandit', Bandit> {
  return {
    ...newHead(name, 'New bandit'),
    kind: 'bandit',
    bandit: {
      arms: [
        { name: 'left', pays: [{ type: 'bernoulli', chance: 0.4, reward: 1 }] },
        { name: 'middle', pays: [{ type: 'bernoulli', chance: 0.5, reward: 1 }] },
        { name: 'right', pays: [{ type: 'bernoulli', chance: 0.6, reward: 1 }] },
      ],
      contexts: [],
      pulls: 1,
      drift: { type: 'none' },
      hidden: false,
    },
  }
}
