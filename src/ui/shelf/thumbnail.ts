import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { SvgPen } from '../board/svg-pen'
import { coverOf } from '../kinds/covers'

/** A small true picture of an environment, as SVG. */
export function thumbnail(document: EnvironmentDocument): string {
  const pen = new SvgPen()
  const { width, height, title } = coverOf(document.kind).draw(pen, document)
  return pen.svg(width, height, title)
}
