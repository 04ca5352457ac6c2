import { newHead, type Compiled, type EnvironmentDocument } from '../environment/document'
import { parseCellName } from '../kinds/grid/cells'
import type { Grid, ThingList } from '../kinds/grid/document'
import { ruleLines, writeGridCsv, writeGridMap } from '../kinds/grid/grid-text'
import type { Model } from '../model/model'
import { refuse } from '../problem'
import { withKnobs } from '../kinds/rulebook/edit'
import { writeTransitionList } from '../kinds/table/transition-list'
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
  /** What the environment is that this form cannot say, a sentence each; for forms that are read again. */
  losses?(document: EnvironmentDocument, compiled: Compiled): string[]
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
      document.kind === 'rulebook'
        ? withKnobs(document.rulebook.text, document.rulebook.knobs)
        : wrongKind(document, 'a rulebook'),
    losses: (document) => [...headLosses(document), ...ownLosses(document)],
  },
  map: {
    title: 'Grid (text map)',
    ending: '.txt',
    type: 'text/plain',
    kinds: ['grid'],
    needsModel: false,
    write: (document) =>
      document.kind === 'grid' ? writeGridMap(document.grid, document) : wrongKind(document, 'a grid'),
    losses: (document) => [...orderLosses(document), ...ownLosses(document)],
  },
  cells: {
    title: 'Grid (CSV)',
    ending: '-cells.csv',
    type: 'text/csv',
    kinds: ['grid'],
    needsModel: false,
    write: (document) =>
      document.kind === 'grid' ? writeGridCsv(document.grid) : wrongKind(document, 'a grid'),
    losses: (document) => [
      ...(document.kind === 'grid' ? cellsLosses(document.grid) : []),
      ...orderLosses(document),
      ...headLosses(document),
      ...ownLosses(document),
    ],
  },
  csv: {
    title: 'Transition list (CSV)',
    ending: '-transitions.csv',
    type: 'text/csv',
    needsModel: true,
    write: (_, { model }) => writeTransitionList(model),
    losses: listLosses,
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

/** Discount and cap, where they are not those that a form without them is given. */
function headLosses({ discount, cap }: EnvironmentDocument): string[] {
  const usual = newHead('', '')
  return [
    ...(discount === usual.discount
      ? []
      : [`The discount ${discount} is not in it; ${usual.discount} is taken.`]),
    ...(cap === usual.cap ? [] : [`The cap of ${cap} steps is not in it; ${usual.cap} is taken.`]),
  ]
}

/** What belongs to a document besides its kind's part. */
function ownLosses({ kind, knobs, policy, learning }: EnvironmentDocument): string[] {
  const own = [
    ...(kind !== 'rulebook' && knobs.length ? ['knobs'] : []),
    ...(policy ? ['the drawn policy'] : []),
    ...(learning ? ['the settings of learning'] : []),
  ]
  return own.length ? [`Not in it: ${own.join(', ')}. JSON has them.`] : []
}

/** Lists whose order names states, or says which start is drawn. */
const ORDERED = ['starts', 'bonuses', 'tokens'] as const satisfies readonly ThingList[]

/** Things of a grid that are in another order than that of their cells. */
function orderLosses(document: EnvironmentDocument): string[] {
  if (document.kind !== 'grid') return []
  const place = (at: string) => {
    const { column, row } = parseCellName(at)!
    return row * document.grid.floor[0].length + column
  }
  const mixed = ORDERED.filter((list) =>
    document.grid[list].some(({ at }, i, all) => i > 0 && place(all[i - 1].at) > place(at)),
  )
  return mixed.length
    ? [
        `Things are read in the order of their cells; ${mixed.join(', ')} were in another order, so that states may be named and numbered otherwise.`,
      ]
    : []
}

function cellsLosses(grid: Grid): string[] {
  const rules = ruleLines(grid)
  return rules.length ? [`Rules of moving are not in it (${rules.join(', ')}); a text map has them.`] : []
}

function listLosses(document: EnvironmentDocument, { model, measures, facts }: Compiled): string[] {
  const also = [
    ...(measures.length ? ['measures'] : []),
    ...(facts?.checks.length ? ['checks'] : []),
    ...(facts?.policies.length ? ['written policies'] : []),
  ]
  return [
    ...headLosses(document),
    ...(also.length ? [`Not in it: ${also.join(', ')}.`] : []),
    ...(hasMixedRewards(model)
      ? [
          'Rewards that differ on the way to one next state are in it as their mean: values are the same, single rewards are not.',
        ]
      : []),
    ...(keepsNumbers(model)
      ? []
      : [
          'States and actions are numbered anew when it is read: values and policies are the same by name, runs of a seed are not.',
        ]),
  ]
}

/** Whether a row leads to one state in several ways, as the pay-offs of an arm do: lines of a list add up. */
function hasMixedRewards({ states, rows, outcomeStart, outcomeState }: Model): boolean {
  const met = new Int32Array(states).fill(-1)
  for (let r = 0; r < rows; r++)
    for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
      if (met[outcomeState[o]] === r) return true
      met[outcomeState[o]] = r
    }
  return false
}

/** Whether a list that is read again numbers states and actions as they were: by where they first stand. */
function keepsNumbers({ states, ending, rows, rowAction, actions, outcomeState }: Model): boolean {
  for (let s = 1; s < states; s++) if (ending[s - 1] && !ending[s]) return false
  // Endings are numbered as they are first led to.
  let next = ending.indexOf(1)
  for (const to of outcomeState) {
    if (!ending[to] || to < next) continue
    if (to > next) return false
    next++
  }
  let known = 0
  for (let r = 0; r < rows; r++) {
    if (rowAction[r] > known) return false
    if (rowAction[r] === known) known++
  }
  return known === actions.length
}

function wrongKind(document: EnvironmentDocument, wanted: string): never {
  return refuse(
    '--to',
    `This is a ${document.kind}, not ${wanted}.`,
    `Choose another of ${EXPORT_IDS.join(', ')}.`,
  )
}
