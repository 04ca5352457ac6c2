import { banditOutline } from './bandit/outline'
import { gridOutline } from './grid/outline'
import type { KindOutline } from './kind'
import type { EnvironmentDocument, EnvironmentOf, Kind } from './kinds'
import { rulebookOutline } from './rulebook/outline'
import { tableOutline } from './table/outline'

/** What is told of each kind where nothing is computed: apart from the kinds, so that the shelf loads no compilers. */
export const OUTLINES = {
  grid: gridOutline,
  bandit: banditOutline,
  rulebook: rulebookOutline,
  table: tableOutline,
} as const satisfies { readonly [K in Kind]: KindOutline<K, EnvironmentOf<K>> }

export const KIND_NAMES = Object.keys(OUTLINES) as Kind[]

/** The outline of a kind; it is to be given documents of that kind only. */
export function outlineOf(kind: Kind): KindOutline<Kind, EnvironmentDocument> {
  return OUTLINES[kind] as unknown as KindOutline<Kind, EnvironmentDocument>
}
