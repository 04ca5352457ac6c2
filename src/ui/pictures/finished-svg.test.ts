import { expect, it } from 'vitest'
import { holdsAny, withoutForbidden } from './finished-svg'

it('knows which parts of a typeface a text uses', () => {
  const latin = 'U+0-FF, U+131, U+2212'
  const greek = 'U+370-377, U+37A-37F, U+384-3FF'
  expect(holdsAny(latin, 'value')).toBe(true)
  expect(holdsAny(greek, 'value −3')).toBe(false)
  expect(holdsAny(greek, 'ε 0.1')).toBe(true)
  expect(holdsAny('', 'anything')).toBe(true)
})

it('leaves out what XML does not allow, and nothing else', () => {
  expect(withoutForbidden('a\u0001b\tc\nd\u000B\uFFFEé')).toBe('ab\tc\ndé')
})
