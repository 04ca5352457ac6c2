import type { Model } from '../model/model'
import { writeCsv } from './csv'

/** `state,value`, a line a state; a value that is no number is left empty. */
export function writeValues(model: Model, values: Float64Array): string {
  return writeCsv(
    ['state', 'value'],
    model.labels.map((label, s) => [label, Number.isNaN(values[s]) ? '' : values[s]]),
  )
}

/** `state,action,value`, a line a state and action. */
export function writeActionValues(model: Model, rowValues: Float64Array): string {
  const lines: (string | number)[][] = []
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      lines.push([model.labels[s], model.actions[model.rowAction[r]], rowValues[r]])
  return writeCsv(['state', 'action', 'value'], lines)
}
