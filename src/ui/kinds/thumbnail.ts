import type { EnvironmentOf, Kind } from '../../core/kinds/kinds'
import type { SvgPen } from '../board/svg-pen'

/** Draws a small true picture. @returns its size and what it shows */
export type DrawThumbnail<K extends Kind> = (
  pen: SvgPen,
  document: EnvironmentOf<K>,
) => { readonly width: number; readonly height: number; readonly title: string }
