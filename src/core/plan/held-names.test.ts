import { expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { RandomStream } from '../random/generator'
import { gridDocument } from '../testing/models'
import { comparePlans } from './difference'
import { heldByNames, heldFromNames } from './held-names'
import { solveOptimum } from './solve'

const modelOf = (veer: number, floor = ['....', '.#.:', '....']) =>
  compileEnvironment(
    gridDocument(floor, { endings: [{ at: 'D1', reward: 5, name: 'door' }], stepReward: -1, veer }),
  ).model

it('a held plan that went through names is compared as it was', () => {
  const stream = new RandomStream(11, 'problem', 0)
  for (let each = 0; each < 20; each++) {
    const before = modelOf(stream.uniform())
    const after = modelOf(stream.uniform(), each % 2 ? ['....', '.#.:', '....'] : ['.....', '...::', '....#'])
    const held = { title: 'before', model: before, ...solveOptimum(before, 0.9)! }
    const now = solveOptimum(after, 0.9)!
    const named = JSON.parse(JSON.stringify(heldByNames(held)))
    expect(comparePlans(after, now.values, now.policy, heldFromNames(named))).toEqual(
      comparePlans(after, now.values, now.policy, held),
    )
  }
})

it('names like numbers and like parts of objects stay what they are', () => {
  const labels = ['10', '__proto__', '2', 'constructor']
  const held = {
    title: 'odd',
    model: {
      labels,
      actions: ['1', '0'],
      ending: Uint8Array.of(0, 0, 0, 1),
      rowStart: Int32Array.of(0, 2, 3, 4, 4),
      rowAction: Int32Array.of(0, 1, 0, 1),
    },
    values: Float64Array.of(1, 2, 3, 0),
    policy: Float64Array.of(0.25, 0.75, 1, 1),
  }
  const back = heldFromNames(JSON.parse(JSON.stringify(heldByNames(held))))
  const at = (label: string) => back.model.labels.indexOf(label)
  expect(labels.map((label) => back.values[at(label)])).toEqual([1, 2, 3, 0])
  expect(labels.map((label) => back.model.ending[at(label)])).toEqual([0, 0, 0, 1])
  const row = back.model.rowStart[at('10')]
  const chances = [0, 1].map((i) => [back.model.actions[back.model.rowAction[row + i]], back.policy[row + i]])
  expect(Object.fromEntries(chances)).toEqual({ '1': 0.25, '0': 0.75 })
})

it('a plan of very many states is not written down, one without finite values in parts', () => {
  const model = modelOf(0.1)
  const plan = { title: '', model, ...solveOptimum(model, 0.9)! }
  const values = plan.values.slice().fill(NaN, 0, 3)
  const named = heldByNames({ ...plan, values })!
  expect(Object.keys(named.values)).toEqual(model.labels.slice(3))
  const many = { ...model, labels: Array.from({ length: 5001 }, (_, i) => String(i)) }
  expect(heldByNames({ ...plan, model: many })).toBeNull()
})
