import type { LayerView } from './layer'

/** What each action is worth: a ring of arcs, the best one thick. */
export const actionValuesLayer: LayerView = {
  title: 'Action values',
  titleFor: ({ titles }) => (titles.rows === 'preferences' ? 'Preferences' : 'Action values'),
  when: (_, view) => view !== 'horizon',
}
