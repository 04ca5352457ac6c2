import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import type { KindView } from '../kind'
import { SHAPES, TOOLS } from './brush'
import { BonusQuestions } from './BonusQuestions'

export const gridView: KindView<'grid'> = {
  Pane: dynamic(() => import('./GridPane').then((module) => module.GridPane), { loading: Waiting }),
  drawsWithoutModel: true,
  withoutLayers: [],
  Panel: dynamic(() => import('./GridPanel').then((module) => module.GridPanel), { loading: Waiting }),
  panelHasSize: false,
  sizeNote: ({ grid }) => (grid.starts.length === 0 ? 'starts anywhere, as no start is set' : ''),
  desk: null,
  buildHint: 'Draw on the board with the tool at the right.',
  policyHint: 'Draw a path on the board: every cell takes the move to the next.',
  Questions: BonusQuestions,
  keys: [
    ['Space or Enter', 'on the board in Build: paint the cell'],
    ['Shift + arrow keys', 'on the board in Build: paint while walking'],
    ...[TOOLS, SHAPES].map((list): readonly [string, string] => {
      const entries: readonly { readonly key: string; readonly title: string }[] = Object.values(list)
      return [
        entries.map(({ key }) => key.toUpperCase()).join(' '),
        `in Build: ${entries.map(({ title }) => title.toLowerCase()).join(', ')}`,
      ]
    }),
    ['G', 'in Build: the next ground'],
    ['Ctrl + C, Ctrl + V', 'in Build: copy the marked part of a grid, paste it'],
  ],
}
