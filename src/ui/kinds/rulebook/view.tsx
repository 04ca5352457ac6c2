import type { KindView } from '../kind'
import { MapPane } from './MapPane'
import { RulebookDesk } from './RulebookDesk'
import { RulebookPanel } from './RulebookPanel'

export const rulebookView: KindView<'rulebook'> = {
  Pane: MapPane,
  drawsWithoutModel: false,
  withoutLayers: [],
  Panel: RulebookPanel,
  panelHasSize: true,
  sizeNote: () => '',
  desk: {
    Desk: RulebookDesk,
    columns: 'md:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_21rem]',
    knobsInPanel: true,
    waiting: 'The board comes as soon as the rulebook is right.',
  },
  buildHint: '',
  policyHint: 'Select a state and choose its action.',
  Questions: null,
  keys: [],
}
