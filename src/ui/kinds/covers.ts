import type { Kind } from '../../core/kinds/kinds'
import { banditCover } from './bandit/cover'
import type { KindCover } from './cover'
import { gridCover } from './grid/cover'
import { rulebookCover } from './rulebook/cover'
import { tableCover } from './table/cover'

/** How one of each kind is begun: apart from their studies, so that the shelf need not load these. */
export const COVERS: { readonly [K in Kind]: KindCover } = {
  grid: gridCover,
  bandit: banditCover,
  rulebook: rulebookCover,
  table: tableCover,
}
