import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import type { KindView } from '../kind'

export const banditView: KindView<'bandit'> = {
  Pane: dynamic(() => import('./BanditPane').then((module) => module.BanditPane), { loading: Waiting }),
  drawsWithoutModel: false,
  // Arms stand apart: the value of a state is no place on them.
  withoutLayers: ['values', 'changes', 'distance', 'traces'],
  // What the agent believes of the arms is what one looks at.
  firstLayers: ['policy', 'actionValues', 'visits'],
  Panel: dynamic(() => import('./BanditPanel').then((module) => module.BanditPanel), { loading: Waiting }),
  panelHasSize: false,
  sizeNote: ({ bandit }, { model }) =>
    model.observations < model.states
      ? `the agent sees ${bandit.contexts.length ? 'the context' : 'no difference'} only`
      : '',
  desk: null,
  buildHint: '',
  policyHint: 'Select a state and choose its action.',
  Questions: null,
  keys: [],
}
