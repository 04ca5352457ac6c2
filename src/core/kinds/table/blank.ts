import { tableEnvironment, type TableEnvironment } from '../../environment/document'

/** What a new table begins with: a lamp to mend, with a chance node, a sure action and an ending. */
export function newTableEnvironment(name: string): TableEnvironment {
  return tableEnvironment(name || 'New table', [
    ['flickers', 'mend', 'shines', 0.7, -1],
    ['flickers', 'mend', 'dark', 0.3, -1],
    ['flickers', 'leave', 'flickers', 0.6, 0],
    ['flickers', 'leave', 'dark', 0.4, 0],
    ['dark', 'mend', 'flickers', 1, -2],
    ['shines', 'close the hall', 'over', 1, 10],
  ])
}
