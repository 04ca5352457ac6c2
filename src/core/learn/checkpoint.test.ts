import { checkCheckpoint, readCheckpoint } from './read-checkpoint'
import { describe, expect, it } from 'vitest'
import { writeNpy } from '../formats/npy'
import { TABLE_EXPORTS } from '../formats/tables'
import { chancyGrid, learned, newLearner } from '../testing/learning'
import { gridModel } from '../testing/models'
import { carriedInWords, carryCheckpoint, makeCheckpoint } from './checkpoint'
import { World } from './world'

const ABOUT = {
  name: 'a night of practice',
  environment: 'test',
  method: 'q-learning',
  holds: 'action values',
  settings: null,
  steps: 5,
  episodes: 2,
} as const
const bytes = (text: string) => new TextEncoder().encode(text)

describe('a checkpoint', () => {
  it('comes back to the bit through JSON, and a run goes on from it', () => {
    const model = chancyGrid()
    const learner = learned('q-learning', model)
    const text = JSON.stringify(makeCheckpoint(learner.world, learner.table, ABOUT))
    const carried = carryCheckpoint(
      readCheckpoint(bytes(text), 'x.json', learner.world, ABOUT),
      new World(model),
      'action values',
    )
    expect([...carried.table]).toEqual([...learner.table])
    expect(carriedInWords(carried)).toBe('every number found its place by name')
    const next = newLearner('q-learning', model)
    next.begin(carried.table)
    expect([...next.table]).toEqual([...learner.table])
  })

  it('comes back through our own CSV and .npy files', () => {
    const model = chancyGrid()
    const learner = learned('q-learning', model)
    const rowValues = learner.world.toModelRows(learner.table)
    const numbers = { values: new Float64Array(model.states), rowValues, policy: rowValues, discount: 0.9 }
    for (const ending of ['-action-values.csv', '-action-values.npy']) {
      const file = TABLE_EXPORTS.find((each) => each.ending === ending)!.write(model, numbers)
      const read = readCheckpoint(
        typeof file === 'string' ? bytes(file) : file,
        `t${ending}`,
        learner.world,
        ABOUT,
      )
      expect([...carryCheckpoint(read, learner.world, 'action values').table]).toEqual([...learner.table])
    }
    const values = Float64Array.from({ length: model.states }, (_, s) => (model.ending[s] ? 0 : s / 3))
    const read = readCheckpoint(writeNpy(values, [model.states]), 'v.npy', learner.world, ABOUT)
    expect([...carryCheckpoint(read, learner.world, 'values').table]).toEqual(
      [...values].map((value, s) => (model.ending[s] ? NaN : value)),
    )
  })

  it('is carried by name to a larger grid, and says what did not match', () => {
    const small = gridModel(['...'], { endings: [{ at: 'C1', reward: 1, name: '' }] })
    const large = gridModel(['....', '....'], { endings: [{ at: 'D2', reward: 1, name: '' }] })
    const table = Float64Array.from({ length: new World(small).tableRows }, (_, row) => row + 1)
    const carried = carryCheckpoint(
      makeCheckpoint(new World(small), table, ABOUT),
      new World(large),
      'action values',
    )
    expect([...carried.table.slice(0, 8)]).toEqual([...table])
    expect(carried.table.slice(8).every(Number.isNaN)).toBe(true)
    expect(carriedInWords(carried)).toBe(
      '8 of 28 numbers found their place by name; new here, with initial values: C1, D1, A2, B2, C2',
    )
    const back = carryCheckpoint(
      makeCheckpoint(new World(large), new Float64Array(28).fill(2), ABOUT),
      new World(small),
      'action values',
    )
    // C1 is here as well, as an ending.
    expect(back.unused).toEqual(['D1', 'A2', 'B2', 'C2'])
    // What is not known begins as the settings say.
    const next = newLearner('q-learning', large, { start: { kind: 'constant', value: 9 } })
    next.begin(carried.table)
    expect([...next.table]).toEqual([...table, ...Array(20).fill(9)])
  })

  it('is refused with the place, the cause and the way out', () => {
    const world = new World(chancyGrid())
    const read = (text: string) => () => readCheckpoint(bytes(text), 'f', world, ABOUT)
    expect(read('{"a":')).toThrow(/damaged/)
    expect(read('{"format":"x"}')).toThrow(/format.*not a learned table in our format/)
    expect(read('state,worth\nA1,3')).toThrow(/no column value/)
    expect(read('state,action,value\nA1,north,lots')).toThrow(/line 2.*"lots" is no number/)
    expect(() => readCheckpoint(writeNpy(new Float64Array(4), [2, 2]), 'f', world, ABOUT)).toThrow(
      /2 x 2.*12 states|2 x 2/,
    )
    expect(() => readCheckpoint(Uint8Array.of(0x93, 1, 2), 'f', world, ABOUT)).toThrow(/no .npy/)
    const good = makeCheckpoint(world, new Float64Array(world.tableRows), ABOUT)
    expect(() => checkCheckpoint({ ...good, values: good.values.slice(1) })).toThrow(/one number for each/)
    expect(() => carryCheckpoint(good, world, 'preferences')).toThrow(/holds action values/)
    const other = new World(gridModel(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }))
    expect(() =>
      carryCheckpoint({ ...good, states: good.states.map((name) => `x${name}`) }, other, 'action values'),
    ).toThrow(/None of its states/)
  })
})
