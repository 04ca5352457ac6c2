import { describe, expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import { RandomStream } from '../random/generator'
import { gridModel, listed } from '../testing/models'
import { fillThresholds, World } from './world'

describe('World', () => {
  it('begins where it should, as often as it should, with one start or thousands', () => {
    const weighted = gridModel(['....'], {
      starts: [
        { at: 'A1', weight: 1 },
        { at: 'B1', weight: 3 },
        { at: 'D1', weight: 4 },
      ],
    })
    const stream = new RandomStream(1, 'environment')
    const world = new World(weighted)
    const counts = [0, 0, 0, 0]
    for (let i = 0; i < 16000; i++) counts[world.begin(stream)]++
    expect(counts[2]).toBe(0)
    expect(Math.abs(counts[0] - 2000)).toBeLessThan(200)
    expect(Math.abs(counts[1] - 6000)).toBeLessThan(300)
    expect(Math.abs(counts[3] - 8000)).toBeLessThan(300)

    const wide = new World(gridModel(Array.from({ length: 50 }, () => '.'.repeat(40))))
    const seen = new Set<number>()
    for (let i = 0; i < 40000; i++) seen.add(wide.begin(stream))
    expect(seen.size).toBe(2000)
  })

  it('has an outcome and a start for the largest number that can be drawn, and for the smallest', () => {
    const model = listed(
      [
        ['a', 'go', 'b', 0.5, 1],
        ['a', 'go', 'end', 0.5, 2],
        ['b', 'go', 'a', 0.3, 3],
        ['b', 'go', 'end', 0.7, 4],
      ],
      ['a', 'b'],
    )
    const world = new World(model)
    const drawing = (bits: number) => Object.assign(new RandomStream(1, 'environment'), { next: () => bits })
    world.step(0, 0, drawing(-1))
    expect([model.labels[world.next], world.reward]).toEqual(['end', 2])
    expect(model.labels[world.begin(drawing(-1))]).toBe('b')
    world.step(1, 0, drawing(0))
    expect([model.labels[world.next], world.reward]).toEqual(['a', 3])
    expect(model.labels[world.begin(drawing(0))]).toBe('a')
  })

  it('draws every outcome for as many of the 2^31 draws as its chance says', () => {
    const thresholds = new Int32Array(3)
    fillThresholds(thresholds, [0.25, 0.5, 0.25], 0, 3)
    // The last draw of each, from 0.
    expect([...thresholds]).toEqual([2 ** 29 - 1, 2 ** 29 + 2 ** 30 - 1, 2 ** 31 - 1])
  })

  it('lets states that look the same share their rows', () => {
    const builder = new ModelBuilder()
    const labels = ['left door', 'right door', 'hall', 'out']
    for (const label of labels) builder.state(label)
    for (const s of [0, 1])
      for (const action of ['open', 'leave']) builder.outcome(builder.row(s, builder.action(action)), 3, 1, s)
    builder.outcome(builder.row(2, builder.action('walk')), 0, 1, 0)
    const model = builder.build({
      starts: [{ state: 2, weight: 1 }],
      cap: 5,
      observation: Int32Array.of(0, 0, 1, 2),
    })
    const world = new World(model)
    expect([...world.tableStart]).toEqual([0, 2, 3, 3])
    expect(Array.from(world.tableAction, (action) => model.actions[action])).toEqual([
      'open',
      'leave',
      'walk',
    ])
    expect([...world.toModelRows(Float64Array.of(0.25, 0.75, 1))]).toEqual([0.25, 0.75, 0.25, 0.75, 1])
    const stream = new RandomStream(1, 'environment')
    world.step(1, 0, stream)
    expect([world.next, world.reward]).toEqual([3, 1])
  })
})
