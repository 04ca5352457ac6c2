import { applyChanges, followBase } from './apply-changes'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readdirSync, readFileSync } from 'node:fs'
import { gridDocument } from '../testing/models'
import { changesBetween, reversed } from './changes'
import { describeChanges } from './describe-changes'
import { parseEnvironment } from './document'
import { tableEnvironment } from '../kinds/table/blank'
import type { EnvironmentDocument } from '../kinds/kinds'
import type { GridEnvironment } from '../kinds/grid/kind'
import { newBandit } from '../kinds/bandit/blank'

const base = gridDocument(['....', '.#..'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'D2', reward: 10, name: 'door' }],
})
const change = (part: Partial<GridEnvironment['grid']>, from = base): GridEnvironment => ({
  ...from,
  grid: { ...from.grid, ...part },
})

describe('changesBetween', () => {
  it('names each difference by what it belongs to', () => {
    const other = {
      ...change({
        floor: ['..#.', '.#..'],
        endings: [
          { at: 'A2', reward: -5, name: '' },
          { at: 'D2', reward: 20, name: 'door' },
        ],
        starts: [],
      }),
      discount: 0.5,
      name: 'names do not count',
    }
    const found = changesBetween(base, other)
    expect(found).toHaveLength(5)
    expect(found).toEqual(
      expect.arrayContaining([
        { path: ['discount'], before: 0.9, after: 0.5 },
        { path: ['grid', 'starts', 'A1'], before: { at: 'A1', weight: 1 }, after: undefined },
        { path: ['grid', 'endings', 'D2', 'reward'], before: 10, after: 20 },
        { path: ['grid', 'endings', 'A2'], before: undefined, after: { at: 'A2', reward: -5, name: '' } },
        { path: ['grid', 'floor', 'C1'], before: '.', after: '#' },
      ]),
    )
    expect(changesBetween(base, { ...base, name: 'other' })).toEqual([])
  })

  it('gathers cells for reading', () => {
    const walls = change({ floor: ['##..', '.#.:'] })
    const lines = describeChanges(changesBetween(base, walls), walls)
    expect(lines.map(({ what, before, after, changes }) => [what, before, after, changes.length])).toEqual([
      ['2 cells, A1, B1', 'parquet', 'wall', 2],
      ['Cell D2', 'parquet', 'carpet', 1],
    ])
  })

  it('knows transitions by their three names, and counts repeated ones', () => {
    const table = tableEnvironment('t', [
      ['a', 'go', 'b', 0.5, 0],
      ['a', 'go', 'b', 0.5, 2],
    ])
    const other = tableEnvironment('t', [
      ['a', 'go', 'b', 0.5, 0],
      ['a', 'go', 'b', 0.5, 3],
      ['b', 'go', 'a', 1, 0],
    ])
    const changes = changesBetween(table, other)
    expect(changes.map(({ path }) => path.slice(2))).toEqual([['a, go, b (2)', 'reward'], ['b, go, a']])
    expect(applyChanges(table, changes)).toEqual(other)
  })
})

describe('applyChanges', () => {
  const demos = readdirSync('demo')
    .filter((name) => name.endsWith('.json'))
    .map((name) => parseEnvironment(readFileSync(`demo/${name}`, 'utf8')))

  it('turns any document into any other of its kind, and back', () => {
    for (const one of demos)
      for (const other of demos) {
        if (one.kind !== other.kind) continue
        const changes = changesBetween(one, other)
        const made = applyChanges(one, changes)
        expect(changesBetween(made, other)).toEqual([])
        expect(changesBetween(one, applyChanges(made, changes.map(reversed)))).toEqual([])
      }
  })

  it('keeps the size of the changed grid when it grows', () => {
    const grown = change({ floor: ['....#', '.#..:', '.....'] })
    expect(applyChanges(base, changesBetween(base, grown))).toEqual(grown)
  })
})

describe('followBase', () => {
  const variant = change({ veer: 0.3, floor: ['#...', '.#..'], starts: [] })

  it('keeps what the variant says otherwise, and follows in all else', () => {
    const after = change({ stepReward: -2, floor: ['....', '.#.:'] })
    const followed = followBase({ ...variant, name: 'mine' }, base, after)
    expect(followed).toMatchObject({
      name: 'mine',
      grid: { veer: 0.3, stepReward: -2, floor: ['#...', '.#.:'], starts: [] },
    })
  })

  it('holds on to its own where both change the same', () => {
    expect(followBase(variant, base, change({ veer: 0.9 }))).toMatchObject({ grid: { veer: 0.3 } })
  })

  it('drops changes of what is no longer there', () => {
    const dearer = change({ endings: [{ at: 'D2', reward: 99, name: 'door' }] })
    expect(followBase(dearer, base, change({ endings: [] }))).toMatchObject({ grid: { endings: [] } })
  })

  it('says so when nothing sound comes of it', () => {
    const arms = newBandit('b')
    const contexts = [{ name: 'x', weight: 1 }]
    const variantOfArms = { ...arms, bandit: { ...arms.bandit, arms: arms.bandit.arms.slice(0, 1) } }
    const without = { ...arms, bandit: { ...arms.bandit, contexts, arms: arms.bandit.arms.slice(1) } }
    expect(() => followBase(variantOfArms, arms, without)).toThrow(/bandit.arms/)
  })

  it('does the same as doing both, when the two touch different things', () => {
    type Edit = (document: GridEnvironment) => GridEnvironment
    const numbers: Edit[] = [
      (d) => change({ veer: 0.1 }, d),
      (d) => change({ stall: 0.2 }, d),
      (d) => change({ stepReward: -3 }, d),
      (d) => ({ ...d, discount: 0.7 }),
      (d) => change({ endings: [...d.grid.endings, { at: 'C1', reward: 3, name: '' }] }, d),
      (d) => change({ tokens: [{ at: 'B1', name: 'key', reward: 0 }] }, d),
      (d) => change({ floor: d.grid.floor.map((row, i) => (i === 1 ? ':' + row.slice(1) : row)) }, d),
    ]
    const all = (edits: readonly Edit[], on: GridEnvironment) => edits.reduce((d, edit) => edit(d), on)
    fc.assert(
      fc.property(fc.shuffledSubarray(numbers), fc.nat(), (edits, cut) => {
        const split = edits.length ? cut % (edits.length + 1) : 0
        const [mine, theirs] = [edits.slice(0, split), edits.slice(split)]
        const followed = followBase(all(mine, base), base, all(theirs, base))
        const both: EnvironmentDocument = all(edits, base)
        expect(changesBetween(followed, both)).toEqual([])
      }),
    )
  })
})
