import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../environment/compile'
import { checkEnvironment } from '../../environment/document'
import type { DocumentCheck } from '../../environment/document-check'
import type { EnvironmentDocument } from '../../kinds/kinds'
import { checkEnvironmentModel } from '../check'
import { expectationText } from './expected'

// hall: on (-1) to the stairs, wait (0); stairs: on to the door (5) or the hall (0), half each.
const HALL = {
  format: 'jaunty-pawn/environment',
  version: 2,
  name: 'Hall',
  kind: 'table',
  discount: 0.5,
  cap: 20,
  table: {
    transitions: [
      ['hall', 'on', 'stairs', 1, -1],
      ['hall', 'wait', 'hall', 1, 0],
      ['stairs', 'on', 'door', 0.5, 5],
      ['stairs', 'on', 'hall', 0.5, 0],
      ['cellar', 'up', 'hall', 1, 0],
    ],
  },
  policy: { hall: 'wait' },
}
const withChecks = (...checks: object[]): EnvironmentDocument => checkEnvironment({ ...HALL, checks })

/** What is said where an expectation does not hold; null where it does. */
function failure(check: object): string | null {
  const document = withChecks(check)
  const report = checkEnvironmentModel(document, compileEnvironment(document))
  const [finding] = report.findings.filter(({ rule }) => rule === 'expected')
  if (finding) return finding.cause.slice(expectationText(document.checks![0]).length + 1)
  expect(report.proved.map(({ rule }) => rule)).toContain('expected')
  return null
}

describe('what an author expects', () => {
  // v(stairs) = 2.5 + v(hall) / 4, v(hall) = max(-1 + v(stairs) / 2, v(hall) / 2): 2 / 7 and 18 / 7.
  it.each<[string, object, string | null]>([
    ['the value of the start', { kind: 'value', is: 2 / 7, within: 1e-9 }, null],
    ['a value that is off', { kind: 'value', is: 0.3, within: 0.01 }, 'It is 0.28571429.'],
    ['the value of a state', { kind: 'value', state: 'stairs', is: 2.571, within: 0.001 }, null],
    ['a state that is not there', { kind: 'value', state: 'attic', is: 1 }, 'There is no state “attic”.'],
    ['a state that comes up', { kind: 'reachable', state: 'door' }, null],
    ['a state that does not', { kind: 'reachable', state: 'cellar' }, 'It cannot.'],
    ['a state that must not', { kind: 'reachable', state: 'door', expected: false }, 'It can, in 2 steps.'],
    ['and does not', { kind: 'reachable', state: 'cellar', expected: false }, null],
    [
      'an episode',
      {
        kind: 'episode',
        steps: [{ action: 'wait' }, { action: 'on' }, { action: 'on', to: 'door' }],
        return: 0.75,
      },
      null,
    ],
    [
      'its return',
      { kind: 'episode', steps: [{ action: 'on' }, { action: 'on', to: 'door' }], return: 4 },
      'Their return is 1.5.',
    ],
    [
      'a step that is not possible',
      { kind: 'episode', start: 'stairs', steps: [{ action: 'wait' }], return: 0 },
      'Step 1: wait is not possible in stairs.',
    ],
    [
      'a step that cannot come to that',
      { kind: 'episode', steps: [{ action: 'on', to: 'door' }], return: 0 },
      'Step 1: on in hall cannot lead to door.',
    ],
    [
      'a step that says too little',
      { kind: 'episode', start: 'stairs', steps: [{ action: 'on' }], return: 0 },
      'Step 1: on in stairs can lead to different things: say to which.',
    ],
    [
      'a step that says enough by its reward',
      { kind: 'episode', start: 'stairs', steps: [{ action: 'on', reward: 5 }], return: 5 },
      null,
    ],
    ['a better policy', { kind: 'better', policy: 'always on', than: 'drawn' }, null],
    [
      'by how much',
      { kind: 'better', policy: 'always on', than: 'drawn', by: 0.5 },
      'They are worth 0.28571429 and 0.',
    ],
    ['the optimum', { kind: 'better', policy: 'optimum', than: 'random' }, null],
    [
      'a policy that is not there',
      { kind: 'better', policy: 'first come', than: 'random' },
      'The rulebook has no policy "first come". Write one: policy "its name": action.',
    ],
    ['a rule', { kind: 'rule', rule: 'trap' }, null],
    ['a rule that is broken', { kind: 'rule', rule: 'unreached' }, 'No episode can come to cellar.'],
    ['a rule that must be broken', { kind: 'rule', rule: 'unreached', expected: 'broken' }, null],
    ['and is not', { kind: 'rule', rule: 'trap', expected: 'broken' }, 'It finds nothing.'],
  ])('%s', (_, check, cause) => {
    expect(failure(check)).toBe(cause)
  })

  it('is told all together where all holds', () => {
    const document = withChecks({ kind: 'reachable', state: 'door' }, { kind: 'rule', rule: 'trap' })
    const { proved } = checkEnvironmentModel(document, compileEnvironment(document))
    expect(proved.find(({ rule }) => rule === 'expected')!.sentence).toBe(
      'All 2 expectations of the author hold.',
    )
  })

  it('is read with defaults, and refused with the place of what is wrong', () => {
    expect(withChecks({ kind: 'value', is: 1 }).checks).toEqual([{ kind: 'value', is: 1, within: 1e-6 }])
    expect(() => withChecks({ kind: 'colour' })).toThrow('checks[0].kind')
    expect(() => withChecks({ kind: 'rule', rule: 'expected' })).toThrow('checks[0].rule')
    expect(() => withChecks({ kind: 'episode', steps: [], return: 1 })).toThrow('checks[0].steps')
  })

  it('is said in full sentences', () => {
    const said = (check: object) => expectationText(withChecks(check).checks![0] as DocumentCheck)
    expect(said({ kind: 'value', is: 12.37, within: 0.01 })).toBe(
      'The best value of the start is 12.37 within 0.01.',
    )
    expect(said({ kind: 'reachable', state: 'door', expected: false })).toBe(
      'An episode can never come to door.',
    )
    expect(said({ kind: 'better', policy: 'drawn', than: 'random', by: 2 })).toBe(
      'The policy “drawn” is worth more than “random”, by more than 2.',
    )
  })
})
