import { formatCount } from '../../formats/number'
import type { KindFinding, KindInspection } from '../inspection'
import { chanceNames, rewardTitles, rulebookHappenings } from './happenings'
import type { CompiledRules, RulebookEnvironment } from './kind'

/** What a rulebook tells to who looks for faults. */
export const rulebookInspection: KindInspection<RulebookEnvironment, CompiledRules> = {
  happenings: ({ rulebook }, compiled) => rulebookHappenings(rulebook, compiled),
  hasRanges: true,
  ownChecks: ({ facts }) => facts.checks.length,
  chanceNames: ({ rulebook }) => chanceNames(rulebook),
  rewardTitles: ({ rulebook }) => rewardTitles(rulebook),
  withoutBonuses: () => null,
  sizeStory: (_, { facts, model }) => {
    const { sizes } = facts
    const combinations = sizes.reduce((product, { size }) => product * size, 1)
    const product = sizes.map(({ name, size }) => `${name} ${formatCount(size)}`).join(' × ')
    return `${product}${sizes.length > 1 ? ` = ${formatCount(combinations)} combinations` : ''}, of which ${formatCount(model.states)} states come up`
  },
  findings: (_, { facts }) => [
    ...facts.checks.flatMap(({ title, span, broken }): KindFinding[] =>
      broken
        ? [
            {
              rule: 'check',
              cause: `The check "${title}" is broken${broken.chances ? ` with ${broken.chances}` : ''}.`,
              remedy: 'Change the rules, or what the check asks for.',
              where: `${broken.state}, action ${broken.action}`,
              span,
              path: broken.path,
              breach: { state: broken.state, action: broken.action, chances: broken.chances },
            },
          ]
        : [],
    ),
    ...facts.notes.map(({ place, ...note }): KindFinding => ({ ...note, where: place, path: [] })),
  ],
}
