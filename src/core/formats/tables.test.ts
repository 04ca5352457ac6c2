import Papa from 'papaparse'
import { expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import { writeActionValues, writeValues } from './tables'

it('writes values and action values that any CSV reader reads back to the bit', () => {
  const builder = new ModelBuilder()
  const awkward = 'the "long" gallery, north\n=1+1'
  builder.outcome(builder.row(builder.state(awkward), builder.action('go')), builder.state('end'), 1, 0)
  builder.outcome(builder.row(0, builder.action('stay')), 0, 1, 0)
  const model = builder.build({ starts: [{ state: 0, weight: 1 }], cap: 0 })
  const values = writeValues(model, Float64Array.of(0.1 + 0.2, NaN))
  expect(Papa.parse(values.trimEnd()).data).toEqual([
    ['state', 'value'],
    [awkward, '0.30000000000000004'],
    ['end', ''],
  ])
  expect(Papa.parse(writeActionValues(model, Float64Array.of(-1e-7, 3)).trimEnd()).data).toEqual([
    ['state', 'action', 'value'],
    [awkward, 'go', '-1e-7'],
    [awkward, 'stay', '3'],
  ])
})
