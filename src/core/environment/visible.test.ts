import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { exportForm, exportsOf } from '../formats/exports'
import { newBandit } from '../kinds/bandit/blank'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { tableEnvironment } from '../kinds/table/blank'
import { gridDocument } from '../testing/models'
import { compileEnvironment } from './compile'
import { checkEnvironment } from './document'
import { withVisibleSigns } from './visible'

/** Of each kind an environment in which a text stands wherever a name can. */
const NAMED: Readonly<Record<string, (text: string) => object>> = {
  grid: (text) => ({
    ...gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: text }] }),
    name: text,
    note: text,
  }),
  bandit(text) {
    const document = newBandit(text)
    const [arm, ...others] = document.bandit.arms
    return { ...document, bandit: { ...document.bandit, arms: [{ ...arm, name: text }, ...others] } }
  },
  table: (text) =>
    tableEnvironment(text, [
      [`${text}1`, `${text}go`, `${text}2`, 0.5, 1],
      [`${text}1`, `${text}go`, `${text}3`, 0.5, 1],
    ]),
  rulebook: (text) =>
    rulebookEnvironment(text, 'state a from 0 to 1\nstart a = 0\naction go\nnext a = 1\nend when a = 1'),
}

describe('control characters', () => {
  it('become signs that can be seen, and stay where a text has lines', () => {
    const value = {
      name: 'a\u0000b\tc\u007fd\u0085e\u2028',
      note: 'one\n\ttwo\u0007',
      list: ['x', '\r'],
      'k\n': 1,
    }
    expect(withVisibleSigns(value)).toEqual({
      name: 'a␀b␉c␡d\ufffde\u2424',
      note: 'one\n\ttwo␇',
      list: ['x', '␍'],
      'k␊': 1,
    })
  })

  it('that are not there change nothing, not even the object', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const clean = withVisibleSigns(value)
        expect(withVisibleSigns(clean)).toBe(clean)
      }),
    )
    const whole = { a: [{ b: 'ä ␀ 😀' }], note: 'x\ny' }
    expect(withVisibleSigns(whole)).toBe(whole)
  })

  const name = fc
    .string({
      unit: fc.constantFrom(
        'a',
        'Z',
        ' ',
        '\u0000',
        '\u0001',
        '\t',
        '\n',
        '\r',
        '\u007f',
        '\u0085',
        '<',
        '"',
        '\u2028',
      ),
      minLength: 1,
      maxLength: 12,
    })
    .filter((text) => text === text.replace(/^ +| +$/g, '') && text !== '')
  for (const [kind, documentNamed] of Object.entries(NAMED))
    it(`are in no export of a ${kind}`, () => {
      fc.assert(
        fc.property(name, (text) => {
          const document = checkEnvironment(documentNamed(text))
          const compiled = compileEnvironment(document)
          for (const { id } of exportsOf(document)) {
            const written = exportForm(document, id).write(document, compiled)
            expect(written.replace(/\r?\n/g, '')).not.toMatch(/[\p{Cc}\u2028\u2029]/u)
          }
        }),
        { numRuns: 60 },
      )
    })
})
