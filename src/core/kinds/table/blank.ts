import { newHead } from '../../environment/head'
import type { DocumentOf } from '../kind'
import type { TableDocument } from './document'
import type { TransitionList } from './transition'

/** What a new table begins with: a lamp to mend, with a chance node, a sure action and an ending. */
export function newTable(name: string): DocumentOf<'table', TableDocument> {
  return tableEnvironment(name || 'New table', [
    ['flickers', 'mend', 'shines', 0.7, -1],
    ['flickers', 'mend', 'dark', 0.3, -1],
    ['flickers', 'leave', 'flickers', 0.6, 0],
    ['flickers', 'leave', 'dark', 0.4, 0],
    ['dark', 'mend', 'flickers', 1, -2],
    ['shines', 'close the hall', 'over', 1, 10],
  ])
}

/** @param list  transitions alone, or all that a list says */
export function tableEnvironment(
  name: string,
  list: TableDocument['transitions'] | TransitionList,
): DocumentOf<'table', TableDocument> {
  const { transitions, starts, observations } =
    'transitions' in list ? list : { transitions: list, starts: [], observations: {} }
  return {
    ...newHead(name, 'Imported table'),
    kind: 'table',
    table: {
      transitions,
      starts,
      ...(Object.keys(observations).length ? { observations } : {}),
      places: {},
    },
  }
}
