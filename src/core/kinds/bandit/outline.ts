import type { DocumentOf, KindOutline } from '../kind'
import { newBandit } from './blank'
import type { Bandit } from './document'

export const banditOutline = {
  kind: 'bandit',
  title: 'Bandit',
  blank: (name: string): DocumentOf<'bandit', Bandit> => newBandit(name),
  roughOutcomes: ({ bandit: { arms, contexts, pulls } }) =>
    arms.length * Math.max(1, contexts.length) ** 2 * pulls * 32,
} as const satisfies KindOutline<'bandit', DocumentOf<'bandit', Bandit>>
