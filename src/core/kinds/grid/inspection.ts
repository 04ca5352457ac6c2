import type { KindInspection } from '../inspection'
import { gridFindings, gridSizeStory } from './findings'
import { gridHappenings, gridRewardTitles } from './happenings'
import type { CompiledGrid, GridEnvironment } from './kind'
import { gridWithBonuses } from './without-bonuses'

/** What a grid tells to who looks for faults. */
export const gridInspection: KindInspection<GridEnvironment, CompiledGrid> = {
  happenings: ({ grid }, compiled) => gridHappenings(grid, compiled),
  hasRanges: false,
  ownChecks: () => 0,
  chanceNames: () => [],
  rewardTitles: ({ grid }) => gridRewardTitles(grid),
  withoutBonuses: (document) => (document.grid.bonuses.length ? gridWithBonuses(document, 'nothing') : null),
  sizeStory: (_, { layout }) => gridSizeStory(layout),
  findings: ({ grid }, { layout }) => gridFindings(grid, layout),
}
