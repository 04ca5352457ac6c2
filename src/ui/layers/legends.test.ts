import { expect, it } from 'vitest'
import { gridModel } from '../../core/testing/models'
import type { Layer } from '../../core/lesson/names'
import { legendsOf } from './layers'

const model = gridModel(['..'], { endings: [{ at: 'B1', reward: 4, name: '' }] })
const values = Float64Array.from({ length: model.states }, (_, s) => s - 0.5)
const rowValues = Float64Array.from({ length: model.rows }, (_, r) => 2 + r)
const rowVisits = new Float64Array(model.rows).fill(3)
const titles = { values: 'value', rows: 'action values' }
const said = (on: Layer[], overlay: object = { values, rowValues, rowVisits }, rows = titles) =>
  legendsOf({ overlay, titles: rows, layers: new Set(on), model })

it('values and action values share one legend; either alone has its own', () => {
  const both = said(['values', 'actionValues'])
  expect(both).toEqual([{ title: 'value', scale: { low: -0.5, middle: 0, high: 1 + model.rows } }])
  expect(said(['actionValues'])).toMatchObject([{ title: 'action values', scale: { low: 2 } }])
  expect(said(['values'])).toMatchObject([{ title: 'value', scale: { low: -0.5, high: 0.5 } }])
})

it('preferences have a legend of their own, besides that of the values', () => {
  const preferences = { values, rowValues, preferences: true }
  const rows = { values: 'exact value of the policy', rows: 'preferences' }
  expect(said(['values', 'actionValues'], preferences, rows)).toMatchObject([
    { title: 'exact value of the policy', scale: { high: 0.5 } },
    { title: 'preferences', scale: { low: 2, high: 1 + model.rows } },
  ])
})

it('visits are told where no values lie over them: the most of a state', () => {
  expect(said(['visits', 'policy'])).toEqual([{ title: 'visits', most: 12 }])
  expect(said(['visits', 'values'])).toMatchObject([{ title: 'value' }])
  expect(said(['visits'], {})).toEqual([])
  expect(said(['values', 'visits'], undefined)).toMatchObject([{ title: 'value' }])
})
