import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import type { KindView } from '../kind'

export const rulebookView: KindView<'rulebook'> = {
  Pane: dynamic(() => import('./MapPane').then((module) => module.MapPane), { loading: Waiting }),
  drawsWithoutModel: false,
  withoutLayers: [],
  Panel: dynamic(() => import('./RulebookPanel').then((module) => module.RulebookPanel), {
    loading: Waiting,
  }),
  panelHasSize: true,
  sizeNote: () => '',
  desk: {
    Desk: dynamic(() => import('./RulebookDesk').then((module) => module.RulebookDesk), { loading: Waiting }),
    columns: 'md:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_21rem]',
    knobsInPanel: true,
    waiting: 'The board comes as soon as the rulebook is right.',
  },
  buildHint: '',
  policyHint: 'Select a state and choose its action.',
  Questions: null,
  keys: [],
}
