import type { Compiled, EnvironmentDocument } from '../environment/document'
import { writeGridCsv, writeGridMap } from '../grid/grid-text'
import { refuse } from '../problem'
import { writeTransitionList } from '../table/transition-list'
import { writeDot } from './dot'
import { writePlainText } from './plain-text'

/** A form in which an environment can be taken away. */
export interface ExportForm {
  readonly title: string
  /** What the file's name ends with, after the name of the environment. */
  readonly ending: string
  readonly type: string
  /** Kinds it is for; every kind when left out. */
  readonly kinds?: readonly EnvironmentDocument['kind'][]
  /** Whether the model is needed. */
  readonly needsModel: boolean
  write(document: EnvironmentDocument, compiled: Compiled): string
}

/** Every form, once: the menu of the study and the command line draw their lists from here. */
export const EXPORTS = {
  json: {
    title: 'Environment (JSON)',
    ending: '.json',
    type: 'application/json',
    needsModel: false,
    write: (document) => JSON.stringify(document, null, 2) + '\n',
  },
  rules: {
    title: 'Rulebook (text)',
    ending: '.rules',
    type: 'text/plain',
    kinds: ['rulebook'],
    needsModel: false,
    write: (document) =>
      document.kind === 'rulebook' ? document.rulebook.text : wrongKind(document, 'a rulebook'),
  },
  map: {
    title: 'Grid (text map)',
    ending: '.txt',
    type: 'text/plain',
    kinds: ['grid'],
    needsModel: false,
    write: (document) =>
      document.kind === 'grid' ? writeGridMap(document.grid) : wrongKind(document, 'a grid'),
  },
  cells: {
    title: 'Grid (CSV)',
    ending: '-cells.csv',
    type: 'text/csv',
    kinds: ['grid'],
    needsModel: false,
    write: (document) =>
      document.kind === 'grid' ? writeGridCsv(document.grid) : wrongKind(document, 'a grid'),
  },
  csv: {
    title: 'Transition list (CSV)',
    ending: '-transitions.csv',
    type: 'text/csv',
    needsModel: true,
    write: (_, { model }) => writeTransitionList(model),
  },
  dot: {
    title: 'Graph (DOT)',
    ending: '.dot',
    type: 'text/vnd.graphviz',
    needsModel: true,
    write: ({ name }, { model }) => writeDot(model, name),
  },
  text: {
    title: 'Plain text',
    ending: '-states.txt',
    type: 'text/plain',
    needsModel: true,
    write: (document, compiled) => writePlainText(document, compiled),
  },
} as const satisfies Readonly<Record<string, ExportForm>>

export type ExportId = keyof typeof EXPORTS
export const EXPORT_IDS = Object.keys(EXPORTS) as ExportId[]

export function exportForm(id: ExportId): ExportForm {
  return EXPORTS[id]
}

function wrongKind(document: EnvironmentDocument, wanted: string): never {
  return refuse(
    '--to',
    `This is a ${document.kind}, not ${wanted}.`,
    `Choose another of ${EXPORT_IDS.join(', ')}.`,
  )
}
