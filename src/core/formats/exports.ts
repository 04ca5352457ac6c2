import { kindOf, KINDS, type Compiled, type EnvironmentDocument, type Kind } from '../kinds/kinds'
import { writeTransitionList } from '../kinds/table/write-transition-list'
import type { Model } from '../model/model'
import { refuse } from '../problem'
import { writeDot } from './dot'
import type { ExportForm } from './export-form'
import { writeNotebook } from './notebook'
import { headLosses } from './losses'
import { writePlainText } from './plain-text'

type AnyForm = ExportForm<EnvironmentDocument, Compiled>

/** Forms for environments of every kind, in front of and behind those of their own. */
const FIRST = {
  json: {
    title: 'Environment (JSON)',
    ending: '.json',
    type: 'application/json',
    needsModel: false,
    write: (document) => JSON.stringify(document, null, 2) + '\n',
  },
} as const satisfies Readonly<Record<string, AnyForm>>
const LAST = {
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
  notebook: {
    title: 'Notebook that reads the numbers (.ipynb)',
    ending: '.ipynb',
    type: 'application/x-ipynb+json',
    needsModel: false,
    write: writeNotebook,
  },
} as const satisfies Readonly<Record<string, AnyForm>>

export type ExportId =
  keyof typeof FIRST | keyof typeof LAST | { [K in Kind]: keyof (typeof KINDS)[K]['exports'] }[Kind]

/** Every form there is, of whichever kind: the command line takes its list from here. */
export const EXPORT_IDS = [
  ...Object.keys(FIRST),
  ...Object.values(KINDS).flatMap((kind) => Object.keys(kind.exports)),
  ...Object.keys(LAST),
] as ExportId[]

/** The forms that an environment can be taken away in: the menu of the study takes its list from here. */
export function exportsOf(document: EnvironmentDocument): readonly (AnyForm & { readonly id: ExportId })[] {
  const own: Readonly<Record<string, AnyForm>> = kindOf(document).exports
  return Object.entries({ ...FIRST, ...own, ...LAST }).map(([id, form]) => ({ id: id as ExportId, ...form }))
}

/** Forms whose writer is loaded when it is wanted. */
export function lateExportsOf(document: EnvironmentDocument) {
  return Object.entries(kindOf(document).lateExports ?? {}).map(([id, form]) => ({ id, ...form }))
}

/** Their ids, of whichever kind. */
export const LATE_EXPORT_IDS = (Object.keys(KINDS) as Kind[]).flatMap((kind) =>
  Object.keys(kindOf({ kind }).lateExports ?? {}),
)

/** @throws ProblemError for a form that another kind has */
export function exportForm(document: EnvironmentDocument, id: ExportId): AnyForm {
  const forms = exportsOf(document)
  const form = forms.find((each) => each.id === id)
  if (form) return form
  return refuse(
    '--to',
    `This is a ${document.kind}, which cannot be written as ${id}.`,
    `Choose another of ${[...forms, ...lateExportsOf(document)].map((each) => each.id).join(', ')}.`,
  )
}

function listLosses(document: EnvironmentDocument, compiled: Compiled): string[] {
  const { model, measures, policies } = compiled
  const also = [
    ...(measures.length ? ['measures'] : []),
    ...kindOf(document).listLosses(compiled),
    ...(policies.length ? ['written policies'] : []),
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
