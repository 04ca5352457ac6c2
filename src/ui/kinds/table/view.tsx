import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import type { KindView } from '../kind'

export const tableView: KindView<'table'> = {
  Pane: dynamic(() => import('./GraphPane').then((module) => module.GraphPane), { loading: Waiting }),
  drawsWithoutModel: false,
  withoutLayers: [],
  Panel: dynamic(() => import('./TablePanel').then((module) => module.TablePanel), { loading: Waiting }),
  panelHasSize: false,
  sizeNote: () => '',
  desk: {
    Desk: dynamic(() => import('./TableDesk').then((module) => module.TableDesk), { loading: Waiting }),
    columns: 'md:grid-cols-[29rem_minmax(0,1fr)_17rem]',
    knobsInPanel: false,
    waiting: 'The board comes as soon as the table is right.',
  },
  buildHint: '',
  policyHint: 'Select a state and choose its action.',
  Questions: null,
  keys: [],
}
