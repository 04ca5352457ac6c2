import type { LayerView } from './layer'

/** How often each state was left: the tint of its place, where no values lie over it. */
export const visitsLayer: LayerView = {
  title: 'Visits',
  when: ({ of }, view) => of === 'run' && view !== 'horizon',
}
