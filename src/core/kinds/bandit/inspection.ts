import { formatCount } from '../../formats/number'
import { outcomesAsHappenings } from '../happening'
import type { KindInspection } from '../inspection'
import type { BanditEnvironment, CompiledBandit } from './kind'

/** What a bandit tells to who looks for faults. */
export const banditInspection: KindInspection<BanditEnvironment, CompiledBandit> = {
  happenings: (_, { model }) => outcomesAsHappenings(model, 'pay-off'),
  hasRanges: false,
  ownChecks: () => 0,
  chanceNames: () => [],
  rewardTitles: () => [],
  withoutBonuses: () => null,
  sizeStory: (_, { bandit: { pulls, contexts } }) =>
    `${formatCount(pulls)} ${pulls === 1 ? 'pull' : 'pulls'} an episode${contexts.length > 1 ? ` × ${formatCount(contexts.length)} contexts` : ''}, and the end`,
  findings: () => [],
}
