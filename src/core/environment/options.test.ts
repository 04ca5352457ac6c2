import { describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import doors from '../../../demo/same-looking-doors.json' with { type: 'json' }
import poster from '../../../demo/which-poster.json' with { type: 'json' }
import type { EnvironmentDocument } from '../kinds/kinds'
import { compileEnvironment } from './compile'
import { checkEnvironment } from './document'
import { optionsOf } from '../kinds/options'
import { takeOption } from './options'

const [BEAM, DOORS, POSTER] = [alarmBeam, doors, poster].map((each) => checkEnvironment(each))
const rules = (text: string): EnvironmentDocument =>
  checkEnvironment({
    format: 'jaunty-pawn/environment',
    version: 2,
    kind: 'rulebook',
    name: 'Lamp',
    rulebook: { text, knobs: {} },
  })
const textOf = (document: EnvironmentDocument) => (document.kind === 'rulebook' ? document.rulebook.text : '')

describe('the options of an environment', () => {
  it('each kind names its own, with what they are now', () => {
    expect(optionsOf(BEAM).map(({ name, value }) => [name, value])).toEqual([
      ['moves', 'four directions'],
      ['staying put', 'no action'],
      ['the agent sees', 'its cell'],
    ])
    expect(optionsOf(POSTER)).toEqual([])
  })

  it('every value of every option compiles, and is what the document then says', () => {
    for (const document of [BEAM, DOORS])
      for (const { name, values } of optionsOf(document))
        for (const value of values) {
          const changed = takeOption(document, name, value)
          expect(compileEnvironment(changed).model.states).toBeGreaterThan(0)
          const now = optionsOf(changed).find((each) => each.name === name)
          // Without observing there is nothing left to choose.
          if (now) expect(now.value).toBe(value)
          else expect(value).toBe('the whole state')
        }
  })

  it('a grid of eight directions has eight actions, and nine with staying put', () => {
    const eight = takeOption(BEAM, 'moves', 'eight directions')
    expect(compileEnvironment(eight).model.actions).toHaveLength(8)
    expect(compileEnvironment(takeOption(eight, 'staying put', 'an action')).model.actions).toHaveLength(9)
  })

  it('a penalty that is more than a number stays as it is written', () => {
    const text =
      'state a from 0 to 2\naction up when a < 2\naction stay\nimpossible actions are penalised by 1 +  2\n'
    const document = rules(text)
    const [option] = optionsOf(document)
    expect([option.value, ...option.values]).toEqual([
      'penalised by 1 + 2',
      'forbidden',
      'clamped',
      'penalised by 1 + 2',
    ])
    expect(takeOption(document, 'impossible actions', 'penalised by 1 + 2')).toBe(document)
    expect(textOf(takeOption(document, 'impossible actions', 'penalised by 4.5'))).toContain(
      'are penalised by 4.5\n',
    )
    expect(textOf(takeOption(document, 'impossible actions', 'clamped'))).toContain('are clamped\n')
  })

  it('without the line impossible actions are forbidden', () => {
    const document = rules('state a from 0 to 2\naction up when a < 2\naction stay\nobserve a\n')
    expect(optionsOf(document).map(({ name, value }) => [name, value])).toEqual([
      ['impossible actions', 'forbidden'],
      ['the agent sees', 'what is observed'],
    ])
    expect(textOf(takeOption(document, 'the agent sees', 'the whole state'))).not.toContain('observe')
  })

  it('says which there are when one is not there', () => {
    expect(() => takeOption(BEAM, 'colour', 'red')).toThrow(
      'The options are moves, staying put, the agent sees.',
    )
    expect(() => takeOption(BEAM, 'moves', 'six')).toThrow(
      'Its values are four directions, eight directions.',
    )
    expect(() => takeOption(POSTER, 'moves', 'six')).toThrow('This bandit has no options.')
  })
})
