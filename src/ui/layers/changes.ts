import type { LayerView } from './layer'

/** What the last sweep or step changed: marks of values that moved, and the needles that were. */
export const changesLayer: LayerView = {
  title: 'What changed',
  when: (_, view) => view !== 'horizon',
  lay(shown, source) {
    const { overlay } = shown
    if (!overlay) return shown
    if (source.of === 'run')
      return {
        ...shown,
        overlay: { ...overlay, moved: source.frame.moved ?? undefined, was: source.before ?? undefined },
      }
    const { frame } = source
    // Before the first sweep nothing has changed.
    if (frame.sweep === 0) return shown
    return {
      ...shown,
      overlay: {
        ...overlay,
        was: frame.policyBefore ?? undefined,
        moved: frame.values.map((value, s) => value - frame.before[s]),
      },
    }
  },
}
