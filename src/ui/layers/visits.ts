import { visitsOfStates } from '../board/scales'
import type { LayerView } from './layer'

/** How often each state was left: the tint of its place, where no values lie over it. */
export const visitsLayer: LayerView = {
  title: 'Visits',
  when: ({ of }, view) => of === 'run' && view !== 'horizon',
  legend({ overlay, layers, model }) {
    if (!overlay?.rowVisits || layers.has('values')) return null
    const most = visitsOfStates(model, overlay.rowVisits).reduce((x, y) => Math.max(x, y), 0)
    return { title: 'visits', most }
  },
}
