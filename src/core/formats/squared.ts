import type { Model } from '../model/model'

/** [states x actions] from [rows] */
export function squared(model: Model, rows: Float64Array): Float64Array {
  const width = model.actions.length
  const table = new Float64Array(model.states * width).fill(NaN)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      table[s * width + model.rowAction[r]] = rows[r]
  return table
}
