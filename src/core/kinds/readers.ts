import { gridReads } from './grid/reads'
import type { EnvironmentOf, Kind } from './kinds'
import type { Readers } from './reader'
import { rulebookReads } from './rulebook/reads'
import { tableReads } from './table/reads'

/** What a person may hand in of each kind besides a document: apart from the kinds, as few pages read files. */
export const READERS = {
  grid: gridReads,
  bandit: { endings: {} },
  rulebook: rulebookReads,
  table: tableReads,
} as const satisfies { readonly [K in Kind]: Readers<EnvironmentOf<K>> }
