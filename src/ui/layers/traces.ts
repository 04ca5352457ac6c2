import { visitsOfStates } from '../board/scales'
import type { LayerView } from './layer'

/** The eligibility of each state: in place of the values. */
export const tracesLayer: LayerView = {
  title: 'Traces',
  when: (source, view) => source.of === 'run' && source.frame.traces !== null && view !== 'horizon',
  lay(shown, source) {
    if (source.of !== 'run' || !source.frame.traces) return shown
    const { model } = source
    const { traces } = source.frame
    const perState = traces.length === model.states ? traces : visitsOfStates(model, traces)
    return {
      ...shown,
      overlay: {
        ...shown.overlay,
        title: 'trace',
        // Where there is no trace there is nothing to show.
        values: perState.map((trace) => (trace > 0 ? trace : NaN)),
      },
      titles: { ...shown.titles, values: 'trace' },
    }
  },
}
