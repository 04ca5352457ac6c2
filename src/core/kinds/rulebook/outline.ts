import type { DocumentOf, KindOutline } from '../kind'
import { newRulebook } from './blank'
import type { RulebookDocument } from './document'

export const rulebookOutline = {
  kind: 'rulebook',
  title: 'Rulebook',
  blank: (name: string): DocumentOf<'rulebook', RulebookDocument> => newRulebook(name),
  roughOutcomes: () => Infinity,
} as const satisfies KindOutline<'rulebook', DocumentOf<'rulebook', RulebookDocument>>
