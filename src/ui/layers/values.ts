import type { LayerView } from './layer'

/** The value of each state: the tint of its place, and its number where there is room. */
export const valuesLayer: LayerView = { title: 'Values', when: () => true }
