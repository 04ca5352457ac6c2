import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { kindOf, KINDS, type EnvironmentDocument, type Kind } from '../../core/kinds/kinds'
import { newBandit } from '../../core/kinds/bandit/blank'
import { tableEnvironment } from '../../core/kinds/table/blank'
import { gridDocument } from '../../core/testing/models'
import { thumbnail } from './thumbnails'

const DEMOS = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((file) => JSON.parse(readFileSync(`demo/${file}`, 'utf8')) as EnvironmentDocument)

it('every kind and every demo has a small picture that names it, without a number that is none', () => {
  const blanks = (Object.keys(KINDS) as Kind[]).map((kind) => kindOf({ kind }).blank(`A “<${kind}>”`))
  for (const document of [...blanks, ...DEMOS] as EnvironmentDocument[]) {
    const svg = thumbnail(document)
    expect(svg).toMatch(/^<svg [^>]*role="img"/)
    expect(svg).not.toMatch(/NaN|undefined|Infinity/)
    const [, width, height] = /width="([\d.]+)" height="([\d.]+)"/.exec(svg)!.map(Number)
    expect(Math.max(width, height)).toBeLessThanOrEqual(330)
    expect(svg).toContain(document.name.replace(/[<>]/g, (c) => (c === '<' ? '&lt;' : '&gt;')))
  }
  expect(new Set(DEMOS.map((document) => thumbnail(document).replace(/aria-label="[^"]*"/, ''))).size).toBe(
    DEMOS.length,
  )
})

it('a hidden bandit shows its arms and nothing of what they pay', () => {
  const open = newBandit('Arms')
  const hidden = { ...open, bandit: { ...open.bandit, hidden: true } }
  // The same pay-offs, dealt to other arms.
  const { arms } = hidden.bandit
  const dealt = arms.map(({ name }, i) => ({ name, pays: arms[(i + 1) % arms.length].pays }))
  const other = { ...hidden, bandit: { ...hidden.bandit, arms: dealt } }
  expect(thumbnail(hidden)).toContain(arms[0].name)
  expect(thumbnail(hidden)).toContain('>?<')
  expect(thumbnail(open)).not.toContain('>?<')
  expect(thumbnail(other)).toBe(thumbnail(hidden))
  expect(thumbnail({ ...other, bandit: { ...other.bandit, hidden: false } })).not.toBe(thumbnail(open))
})

it('a long rulebook shows its first rules, without remarks, and cuts long lines', () => {
  const document = kindOf({ kind: 'rulebook' }).blank('Rules') as EnvironmentDocument
  if (document.kind !== 'rulebook') throw new Error('It is a rulebook.')
  const text = `# a remark\n\nlet long = ${'1 + '.repeat(30)}1\n${'let x = 1\n'.repeat(99)}`
  const svg = thumbnail({ ...document, rulebook: { ...document.rulebook, text } })
  expect(svg).not.toContain('remark')
  expect(svg.match(/<text/g)).toHaveLength(15)
  expect(svg).toMatch(/>let long = [1 +]+…</)
})

it('a small table is drawn as a graph; one that is large, or wrong, by its transitions', () => {
  const chain = (length: number) =>
    tableEnvironment(
      'Chain',
      Array.from({ length }, (_, i) => [`s${i}`, 'go', `s${i + 1}`, 1, 0] as const),
    )
  // Six states with their names, or a dot for each of the first transitions.
  expect(thumbnail(chain(5))).toContain('>s5<')
  const large = thumbnail(chain(100))
  expect(large).not.toContain('>s5<')
  expect(large.match(/<circle/g)).toHaveLength(39)
  const wrong = tableEnvironment('Wrong', [
    ['a', 'go', 'b', 0.5, 0],
    ['b', 'go', 'a', 0, 0],
  ])
  // A transition of chance 0 is none.
  expect(thumbnail(wrong).match(/<circle/g)).toHaveLength(1)
})

it('a wide grid and a tall one keep their shape', () => {
  const size = (floor: string[]) =>
    /width="([\d.]+)" height="([\d.]+)"/
      .exec(thumbnail(gridDocument(floor)))!
      .slice(1)
      .map(Number)
  const [wide, low] = size(['........'])
  expect(wide).toBeCloseTo(8 * low, 1)
  const [narrow, tall] = size(['.', '.', '.', '.'])
  expect(tall).toBeCloseTo(4 * narrow, 1)
})
