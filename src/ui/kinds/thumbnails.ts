import type { EnvironmentDocument, EnvironmentOf, Kind } from '../../core/kinds/kinds'
import { SvgPen } from '../board/svg-pen'
import { banditThumbnail } from './bandit/thumbnail'
import { gridThumbnail } from './grid/thumbnail'
import { rulebookThumbnail } from './rulebook/thumbnail'
import { tableThumbnail } from './table/thumbnail'

/** Draws a small true picture. @returns its size and what it shows */
export type DrawThumbnail<K extends Kind> = (
  pen: SvgPen,
  document: EnvironmentOf<K>,
) => { readonly width: number; readonly height: number; readonly title: string }

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
