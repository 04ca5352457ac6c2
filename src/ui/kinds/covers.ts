import type { Kind } from '../../core/kinds/kinds'
import { banditCover } from './bandit/cover'
import type { KindCover } from './cover'
import { gridCover } from './grid/cover'
import { rulebookCover } from './rulebook/cover'
import { tableCover } from './table/cover'

/** What the shelf shows of each kind: apart from their studies, so that the shelf need not load these. */
const COVERS = {
  grid: gridCover,
  bandit: banditCover,
  rulebook: rulebookCover,
  table: tableCover,
} as const satisfies { readonly [K in Kind]: KindCover<K> }

/** What the shelf shows of a kind; it is to be given documents of that kind only. */
export function coverOf(kind: Kind): KindCover<Kind> {
  return COVERS[kind] as unknown as KindCover<Kind>
}
