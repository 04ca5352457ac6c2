import { outcomesAsHappenings } from '../happening'
import type { KindInspection } from '../inspection'
import type { CompiledTable, TableEnvironment } from './kind'

/** What a table tells to who looks for faults: its model says it all. */
export const tableInspection: KindInspection<TableEnvironment, CompiledTable> = {
  happenings: (_, { model }) => outcomesAsHappenings(model, 'reward'),
  hasRanges: false,
  ownChecks: () => 0,
  chanceNames: () => [],
  rewardTitles: () => [],
  withoutBonuses: () => null,
  sizeStory: () => '',
  findings: () => [],
}
