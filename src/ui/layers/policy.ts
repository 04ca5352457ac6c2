import type { LayerView } from './layer'

/** What is chosen in each state: needles, as long as the action is likely. */
export const policyLayer: LayerView = { title: 'Policy', when: () => true }
