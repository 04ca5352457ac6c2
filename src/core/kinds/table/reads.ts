import type { Readers } from '../reader'
import { tableEnvironment } from './blank'
import type { TableEnvironment } from './kind'
import { parseTransitionList } from './transition-list'

export const tableReads: Readers<TableEnvironment> = {
  endings: {},
  guess: { order: 3, read: (name, text) => tableEnvironment(name, parseTransitionList(text)) },
}
