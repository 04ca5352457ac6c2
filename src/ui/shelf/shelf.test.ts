import { describe, expect, it } from 'vitest'
import { tableEnvironment } from '../../core/kinds/table/blank'
import { sameModel } from '../../core/environment/same-model'
import { gridDocument } from '../../core/testing/models'
import { compiledOf } from '../../session/study/compiled'
import { sinceText } from './since'
import { thumbnail } from '../kinds/thumbnails'

it('says how long ago in words', () => {
  const now = new Date('2026-11-23T12:00:00Z')
  const ago = (minutes: number) => sinceText(new Date(now.getTime() - minutes * 60_000), now)
  expect([0, 1, 59, 60, 150, 60 * 24, 60 * 24 * 3, 60 * 24 * 30].map(ago)).toEqual([
    'just now',
    '1 minute ago',
    '59 minutes ago',
    '1 hour ago',
    '2 hours ago',
    'yesterday',
    '3 days ago',
    'on 2026-10-24',
  ])
})

describe('thumbnail', () => {
  it('is a true picture: a wall more is a hatching more', () => {
    const lines = (floor: string[]) => thumbnail(gridDocument(floor)).match(/<line/g)!.length
    expect(lines(['.#', '..'])).toBe(lines(['..', '..']) + 7)
    expect(thumbnail({ ...gridDocument(['..']), name: '<b>"x"' })).toContain(
      'The board of &lt;b&gt;&quot;x&quot;',
    )
  })

  it('draws a small table as a graph, and one that is wrong or large by a dot for every transition', () => {
    const table = tableEnvironment('t', [
      ['a', 'go', 'b', 0.5, 0],
      ['a', 'go', 'c', 0.5, 0],
      ['b', 'go', 'c', 1, 0],
    ])
    for (const text of ['a', 'b', 'c']) expect(thumbnail(table)).toContain(`>${text}<`)
    const half = tableEnvironment('t', table.table.transitions.slice(1))
    expect(thumbnail(half).match(/<circle/g)!.length).toBe(2)
    const many = Array.from({ length: 500 }, (_, i) => [`s${i}`, 'go', `s${i + 1}`, 1, 0] as const)
    expect(thumbnail(tableEnvironment('t', many)).match(/<circle/g)!.length).toBe(39)
  })
})

it('compiles once, and again only when the model changes', () => {
  const document = gridDocument(['..', '..'])
  const renamed = { ...document, name: 'other', note: 'x', discount: 0.5 }
  expect(compiledOf(renamed)).toBe(compiledOf(document))
  expect(sameModel(document, renamed)).toBe(true)
  const capped = { ...document, cap: 7 }
  expect(sameModel(document, capped)).toBe(false)
  const result = compiledOf(capped)
  expect(result.ok && result.compiled.model.cap).toBe(7)
  expect(sameModel(undefined, document)).toBe(false)
  const broken = compiledOf(gridDocument(['##']))
  expect(broken.ok).toBe(false)
})
