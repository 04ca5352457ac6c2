import { ringScale } from '../board/scales'
import type { LayerView } from './layer'

/** What each action is worth: a ring of arcs, the best one thick. */
export const actionValuesLayer: LayerView = {
  title: 'Action values',
  titleFor: ({ titles }) => (titles.rows === 'preferences' ? 'Preferences' : 'Action values'),
  when: (_, view) => view !== 'horizon',
  legend(laid) {
    const { overlay, layers, titles } = laid
    // Values and action values share one scale; preferences have their own.
    if (!overlay?.preferences && layers.has('values') && overlay?.values) return null
    const scale = ringScale(laid)
    return scale ? { title: titles.rows, scale } : null
  },
}
