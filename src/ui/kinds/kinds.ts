import type { Kind } from '../../core/kinds/kinds'
import { banditView } from './bandit/view'
import { gridView } from './grid/view'
import type { KindView } from './kind'
import { rulebookView } from './rulebook/view'
import { tableView } from './table/view'

/** What people see of each kind in its study. On the shelf see `covers.ts`. */
const KIND_VIEWS = {
  grid: gridView,
  bandit: banditView,
  rulebook: rulebookView,
  table: tableView,
} as const satisfies { readonly [K in Kind]: KindView<K> }

/** A kind for those who do not know which it is. */
export type AnyKindView = KindView<Kind>

/** What people see of a kind; it is to be given documents of that kind only. */
export function kindView(kind: Kind): AnyKindView {
  return KIND_VIEWS[kind] as unknown as AnyKindView
}

export const KIND_KEYS = Object.values(KIND_VIEWS).flatMap(({ keys }) => keys)
