import { banditOutline } from './outline'
import { headKnobs } from '../../environment/head-knobs'
import type { CompiledBase, DocumentOf, EnvironmentKind } from '../kind'
import { checkBandit, type BanditLayout } from './compile'
import type { Bandit } from './document'
import { drawnBandit } from './drawn'
import { banditNumbers } from './numbers'
import { payOffText } from './pay-off'

export type BanditEnvironment = DocumentOf<'bandit', Bandit>

export interface CompiledBandit extends CompiledBase {
  readonly kind: 'bandit'
  readonly bandit: BanditLayout
}

export const banditKind = {
  ...banditOutline,
  headKnobs: true,
  check: ({ bandit }) => checkBandit(bandit),
  checkShape: () => {},
  sameModel: (one, other) =>
    (['arms', 'contexts', 'pulls', 'drift', 'anew'] as const).every(
      (key) => one.bandit[key] === other.bandit[key],
    ),
  isCovered: ({ bandit: { hidden } }) => hidden,
  uncovered: (document) => ({ ...document, bandit: { ...document.bandit, hidden: false } }),
  drawnFor(document, seed, run) {
    const bandit = drawnBandit(document.bandit, seed, run)
    return bandit === document.bandit ? document : { ...document, bandit }
  },
  numbers: banditNumbers,
  knobs: (document) => headKnobs(document, () => banditNumbers(document)),
  fields: {
    arms: { word: 'Arm', compare: { by: 'name' } },
    contexts: { word: 'Context', compare: { by: 'name' } },
    pulls: { word: 'Pulls in an episode' },
    drift: { word: 'Drift', compare: 'whole' },
    anew: { word: 'Means drawn anew for each run, deviation' },
    hidden: { word: 'The truth is hidden' },
  },
  exports: {},
  listLosses: ({ bandit }) => (bandit.drawnAnew ? ['that arms are drawn anew for each run'] : []),
  text: ({ bandit: { arms, hidden } }) =>
    hidden ? '' : arms.map(({ name, pays }) => `${name}: ${pays.map(payOffText).join(' | ')}`).join('\n'),
  scoresPolicies: false,
} as const satisfies EnvironmentKind<'bandit', Bandit, CompiledBandit>
