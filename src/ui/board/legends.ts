import type { Dial } from './dial'
import type { Model } from '../../core/model/model'
import type { Layer } from '../../core/lesson/names'
import type { Overlay, ShownOverlay } from './overlay'
import type { ValueScale } from './value-scale'

/** What a layer's colours stand for: on screen below the board, and in files below the picture. */
export type BoardLegend =
  | { readonly title: string; readonly scale: ValueScale }
  /** Counts from 0. */
  | { readonly title: string; readonly most: number }

/** What lies over a board, and which layers of it are on. */
export interface Laid extends Pick<ShownOverlay, 'overlay' | 'titles'> {
  readonly layers: ReadonlySet<Layer>
  readonly model: Model
}

/** The actions that the needles of a picture stand for; null where it shows none. */
export function needleActions({
  model,
  dial,
  overlay,
  layers,
}: {
  readonly model: Model
  readonly dial?: Dial
  readonly overlay?: Overlay
  readonly layers?: ReadonlySet<Layer>
}): readonly string[] | null {
  return overlay?.policy && layers?.has('policy') ? (dial?.places ?? model.actions) : null
}
