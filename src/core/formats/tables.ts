import type { Model } from '../model/model'
import { writeCsv } from './csv'
import { writeNpy } from './npy'
import { NUMBERS, writeNpz } from './npz'
import { squared } from './squared'
import type { TableNumbers } from './table-numbers'

/** A table that can be taken away as a file. */
export interface TableExport {
  readonly title: string
  /** What the file's name ends with, after the name of the environment. */
  readonly ending: string
  readonly type: string
  /** Which of the numbers it is made of; null where it takes what there is. */
  readonly of: keyof TableNumbers | null
  write(model: Model, numbers: TableNumbers): string | Uint8Array<ArrayBuffer>
}

const CSV = 'text/csv'
const NPY = 'application/octet-stream'

/**
 * Every table, once. Arrays have their states in the order of the model (that of the CSV), their actions in the order
 * of its names; an action that a state does not have is not a number.
 */
export const TABLE_EXPORTS: readonly TableExport[] = [
  {
    title: 'Values (CSV)',
    of: 'values',
    ending: '-values.csv',
    type: CSV,
    write: (model, { values }) => writeValues(model, values),
  },
  {
    title: 'Values (.npy)',
    of: 'values',
    ending: '-values.npy',
    type: NPY,
    write: (model, { values }) => writeNpy(values, [model.states]),
  },
  {
    title: 'Action values (CSV)',
    of: 'rowValues',
    ending: '-action-values.csv',
    type: CSV,
    write: (model, { rowValues }) => writeActionValues(model, rowValues),
  },
  {
    title: 'Action values (.npy)',
    of: 'rowValues',
    ending: '-action-values.npy',
    type: NPY,
    write: (model, { rowValues }) =>
      writeNpy(squared(model, rowValues), [model.states, model.actions.length]),
  },
  {
    title: 'Policy (CSV)',
    of: 'policy',
    ending: '-policy.csv',
    type: CSV,
    write: (model, { policy }) => writeActions(model, policy, 'chance'),
  },
  {
    title: 'Policy (.npy)',
    of: 'policy',
    ending: '-policy.npy',
    type: NPY,
    write: (model, { policy }) => writeNpy(squared(model, policy), [model.states, model.actions.length]),
  },
  {
    title: 'Numbers for a notebook (.npz)',
    of: null,
    ending: NUMBERS,
    type: 'application/zip',
    write: writeNpz,
  },
]

/** `state,value`, a line a state; a value that is no number is left empty. */
export function writeValues(model: Model, values: Float64Array): string {
  return writeCsv(
    ['state', 'value'],
    model.labels.map((label, s) => [label, Number.isNaN(values[s]) ? '' : values[s]]),
  )
}

/** `state,action,value`, a line a state and action. */
export function writeActionValues(model: Model, rowValues: Float64Array): string {
  return writeActions(model, rowValues, 'value')
}

function writeActions(model: Model, rows: Float64Array, what: string): string {
  const lines: (string | number)[][] = []
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      lines.push([model.labels[s], model.actions[model.rowAction[r]], rows[r]])
  return writeCsv(['state', 'action', what], lines)
}
