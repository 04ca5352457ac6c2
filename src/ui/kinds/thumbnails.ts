import type { EnvironmentDocument, Kind } from '../../core/kinds/kinds'
import { SvgPen } from '../board/svg-pen'
import { banditThumbnail } from './bandit/thumbnail'
import { gridThumbnail } from './grid/thumbnail'
import { rulebookThumbnail } from './rulebook/thumbnail'
import { tableThumbnail } from './table/thumbnail'
import type { DrawThumbnail } from './thumbnail'

/** The small picture of each kind. The shelf gets them from the server, and loads nothing that draws. */
const THUMBNAILS = {
  grid: gridThumbnail,
  bandit: banditThumbnail,
  rulebook: rulebookThumbnail,
  table: tableThumbnail,
} as const satisfies { readonly [K in Kind]: DrawThumbnail<K> }

/** A small true picture of an environment, as SVG. */
export function thumbnail(document: EnvironmentDocument): string {
  const pen = new SvgPen()
  const draw = THUMBNAILS[document.kind] as unknown as DrawThumbnail<Kind>
  const { width, height, title } = draw(pen, document)
  return pen.svg(width, height, title)
}
