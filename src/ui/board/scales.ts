import type { Model } from '../../core/model/model'
import type { Layer } from '../../core/lesson/names'
import type { Overlay } from './overlay'
import type { Colour } from './pen'
import { valueColour, valueScale, type ValueScale } from './value-scale'

/** What is laid over a picture, and which of it is shown. */
interface Laid {
  readonly overlay?: Overlay
  readonly layers?: ReadonlySet<Layer>
}

/** The scale the values of a picture are drawn in: the legend shows the same. */
export function pictureScale({ overlay, layers }: Laid): ValueScale | undefined {
  if (!overlay || !layers) return undefined
  // One scale for both, so that a colour means one number wherever it stands.
  const shown = [
    ...(layers.has('values') && overlay.values ? [overlay.values] : []),
    ...(layers.has('actionValues') && overlay.rowValues && !overlay.preferences ? [overlay.rowValues] : []),
    ...(layers.has('values') && overlay.scaledWith?.values ? [overlay.scaledWith.values] : []),
    ...(layers.has('actionValues') && overlay.scaledWith?.rowValues ? [overlay.scaledWith.rowValues] : []),
  ]
  return shown.length ? valueScale(shown) : undefined
}

/** The scale the rings of a picture are drawn in. */
export function ringScale(picture: Laid): ValueScale | undefined {
  const { overlay, layers } = picture
  if (!layers?.has('actionValues') || !overlay?.rowValues) return undefined
  return overlay.preferences ? valueScale([overlay.rowValues]) : pictureScale(picture)
}

/** The colour that lies under a state: its value's, or how often it was visited; undefined where nothing is laid over. */
export function tintOf(model: Model, picture: Laid): ((state: number) => Colour | undefined) | undefined {
  const { overlay, layers } = picture
  if (!overlay || !layers) return undefined
  const { ending } = model
  const { values, rowVisits } = overlay
  if (layers.has('values') && values) {
    const scale = pictureScale(picture)
    return (
      scale && ((s) => (!ending[s] && Number.isFinite(values[s]) ? valueColour(scale, values[s]) : undefined))
    )
  }
  if (!layers.has('visits') || !rowVisits) return undefined
  const counts = visitsOfStates(model, rowVisits)
  const most = counts.reduce((x, y) => Math.max(x, y), 0)
  if (most === 0) return undefined
  return (s) => countTint(counts[s] / most)
}

/** [states] how often each was left */
export function visitsOfStates(model: Model, rowVisits: Float64Array): Float64Array {
  const counts = new Float64Array(model.states)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) counts[s] += rowVisits[r]
  return counts
}

/** The colour of a count, as a share of the largest: the fuller, the more. */
export function countTint(share: number): Colour {
  return { from: 'sheet', to: 'brass-bright', part: 0.75 * Math.sqrt(share) }
}
