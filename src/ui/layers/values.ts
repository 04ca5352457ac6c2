import { pictureScale } from '../board/scales'
import type { LayerView } from './layer'

/** The value of each state: the tint of its place, and its number where there is room. */
export const valuesLayer: LayerView = {
  title: 'Values',
  when: () => true,
  legend(laid) {
    const scale = laid.overlay?.values && pictureScale(laid)
    return scale ? { title: laid.titles.values, scale } : null
  },
}
