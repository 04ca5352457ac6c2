import { LAYER_NAMES, type Layer, type View } from '../../core/lesson/names'
import type { BoardLegend, Laid } from '../board/legends'
import type { ShownOverlay } from '../board/overlay'
import { actionValuesLayer } from './action-values'
import { changesLayer } from './changes'
import { differenceLayer } from './difference'
import { distanceLayer } from './distance'
import type { LayerSource, LayerView } from './layer'
import { policyLayer } from './policy'
import { tracesLayer } from './traces'
import { valuesLayer } from './values'
import { visitsLayer } from './visits'

/** Every layer, once. They are laid one over the other in the order of their names. */
export const LAYERS = {
  values: valuesLayer,
  policy: policyLayer,
  actionValues: actionValuesLayer,
  visits: visitsLayer,
  changes: changesLayer,
  difference: differenceLayer,
  distance: distanceLayer,
  traces: tracesLayer,
} as const satisfies Readonly<Record<Layer, LayerView>>

export function layerView(layer: Layer): LayerView {
  return LAYERS[layer]
}

/** The layers that can be chosen. @param without  those that the board has no place for */
export function offeredLayers(without: readonly Layer[], source: LayerSource, view: View): Layer[] {
  return LAYER_NAMES.filter((layer) => !without.includes(layer) && layerView(layer).when(source, view))
}

/** What lies over the board when some layers are on. */
export function lay(shown: ShownOverlay, layers: ReadonlySet<Layer>, source: LayerSource): ShownOverlay {
  return LAYER_NAMES.reduce(
    (laid, layer) => (layers.has(layer) ? (layerView(layer).lay?.(laid, source) ?? laid) : laid),
    shown,
  )
}

/** What the colours of the layers that are on stand for. */
export function legendsOf(laid: Laid): BoardLegend[] {
  return LAYER_NAMES.flatMap((layer) => (laid.layers.has(layer) && layerView(layer).legend?.(laid)) || [])
}
