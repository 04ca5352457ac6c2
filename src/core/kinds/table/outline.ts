import type { DocumentOf, KindOutline } from '../kind'
import { newTable } from './blank'
import type { TableDocument } from './document'

export const tableOutline = {
  kind: 'table',
  title: 'Table',
  blank: (name: string): DocumentOf<'table', TableDocument> => newTable(name),
  // Names are looked up for every row.
  roughOutcomes: ({ table }) => 6 * table.transitions.length,
} as const satisfies KindOutline<'table', DocumentOf<'table', TableDocument>>
