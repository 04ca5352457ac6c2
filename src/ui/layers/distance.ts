import type { LayerView } from './layer'

/** How far each value of a run is from the exact one: in place of the values. */
export const distanceLayer: LayerView = {
  title: 'Off optimum',
  when: (source, view) =>
    source.of === 'run' && source.optimum !== undefined && !source.covered && view !== 'horizon',
  lay(shown, source) {
    if (source.of !== 'run' || !source.optimum || source.covered) return shown
    const { frame, optimum } = source
    const title = source.predicts ? 'value minus the exact one' : 'value minus the optimal one'
    return {
      ...shown,
      overlay: { ...shown.overlay, title, values: frame.values.map((value, s) => value - optimum[s]) },
      titles: { ...shown.titles, values: title },
    }
  },
}
