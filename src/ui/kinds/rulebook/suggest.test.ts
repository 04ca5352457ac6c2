import { CompletionContext } from '@codemirror/autocomplete'
import { EditorState } from '@codemirror/state'
import { describe, expect, it } from 'vitest'
import { declaredNames, explainWord, suggest } from './suggest'

const TEXT =
  'knob n = 3 from 1 to 5\nstate shape in new, worn\naction send in north, south when n > 2\nlet far = n * 2\n'

const offered = (line: string) => {
  const state = EditorState.create({ doc: TEXT + line })
  return (
    suggest(new CompletionContext(state, state.doc.length, false))?.options.map(({ label }) => label) ?? []
  )
}

describe('completion', () => {
  it('offers rules at the beginning of a line', () => {
    expect(offered('me')).toContain('measure')
    expect(offered('me')).not.toContain('far')
  })

  it('offers names, words and functions inside a rule, distributions after ~', () => {
    for (const name of ['n', 'far', 'shape', 'worn', 'north', 'min', 'if'])
      expect(offered('reward x')).toContain(name)
    expect(offered('reward x')).not.toContain('poisson')
    expect(offered('chance c ~ p')).toEqual(expect.arrayContaining(['poisson', 'pick']))
    expect(offered('chance c ~ p')).not.toContain('min')
  })

  it('keeps quiet in remarks and texts', () => {
    expect(offered('# remark wi')).toEqual([])
    expect(offered('check "never ov')).toEqual([])
  })
})

it('tells lets that are called with values from those that are not', () => {
  const names = declaredNames('let fee(n) = 2 * n\nlet far = 3\nstate a from 0 to 2')
  expect(names.map(({ name, called }) => [name, called])).toEqual([
    ['fee', true],
    ['far', false],
    ['a', false],
  ])
})

it('knows the parts of an action and their words', () => {
  const text =
    'action send in box, bag with van from 1 to 3, to in cellar, attic when van > 1\naction wait with van = 0'
  expect(declaredNames(text).map(({ name, rule }) => `${rule} ${name}`)).toEqual([
    ...[
      'action send',
      'word box',
      'word bag',
      'part van',
      'part to',
      'word cellar',
      'word attic',
      'action wait',
    ],
  ])
  expect(explainWord(text, 'van', false)?.says).toBe('the part of this line')
})

it('knows what is declared, and explains words', () => {
  expect(declaredNames(TEXT).map(({ name, rule }) => `${rule} ${name}`)).toEqual([
    'knob n',
    'state shape',
    'word new',
    'word worn',
    'action send',
    'word north',
    'word south',
    'let far',
  ])
  expect(explainWord(TEXT, 'reward', true)?.says).toContain('What a step pays')
  expect(explainWord(TEXT, 'far', false)?.form).toBe('let far = n * 2')
  expect(explainWord(TEXT, 'poisson', false)?.form).toContain('poisson(mean)')
  expect(explainWord(TEXT, 'nothing', false)).toBeNull()
})
