import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileEnvironment, tryCompile } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import type { EnvironmentDocument } from '../kinds/kinds'
import type { Model } from '../model/model'
import { gridDocument, randomModel } from '../testing/models'
import { checkEnvironmentModel } from './check'
import { checkProblems } from './check-problems'
import type { CheckReport, Finding } from './finding'
import { returnRange } from './rules/rewards'
import { CHECK_RULE_IDS, type CheckRuleId } from './rule-ids'
import { CHECK_RULES } from './rules/rules'
import { searchFrom, walkTo } from './search'
import { statesOf } from './walk'

const HEAD = { format: 'jaunty-pawn/environment', version: 2, name: 'Test', discount: 0.9, cap: 50 }
const rules = (...lines: string[]): EnvironmentDocument =>
  checkEnvironment({ ...HEAD, kind: 'rulebook', rulebook: { text: lines.join('\n'), knobs: {} } })
type Row = [
  state: string,
  action: string,
  next: string,
  probability: number,
  reward: number,
  discount?: number,
]
const table = (transitions: Row[], part: object = {}, head: object = {}): EnvironmentDocument =>
  checkEnvironment({ ...HEAD, ...head, kind: 'table', table: { transitions, ...part } })

function report(document: EnvironmentDocument): CheckReport {
  const result = tryCompile(document)
  return result.ok ? checkEnvironmentModel(document, result.compiled) : checkProblems(result.problems)
}

function found(document: EnvironmentDocument, rule: CheckRuleId): Finding[] {
  return report(document).findings.filter((each) => each.rule === rule)
}

/** Its story in short: `a go; b stay (fell)`. */
const story = ({ path }: Finding) =>
  path.map(({ state, action, chances }) => `${state} ${action}${chances ? ` (${chances})` : ''}`).join('; ')

const CORRIDOR: Row[] = [
  ['hall', 'on', 'stairs', 1, -1],
  ['hall', 'wait', 'hall', 1, -1],
  ['stairs', 'on', 'door', 0.5, 5],
  ['stairs', 'on', 'hall', 0.5, 0],
]
const LAMPS = [
  'state lamps from 0 to 2',
  'start lamps = 2',
  'action light from 0 to 2 when light <= lamps',
  'chance wind ~ pick(calm: 50%, storm: rest)',
  'reward 3 when wind = calm and light > 0',
  'next lamps = lamps - light',
  'end when lamps = 0',
]

/** Of each rule: what breaks it, what is then found and how it comes about, and what does not break it. */
const CASES: Partial<
  Record<
    CheckRuleId,
    { bad: EnvironmentDocument; where: string; cause: string; story?: string; good: EnvironmentDocument }
  >
> = {
  compiles: {
    bad: rules('state lamps from 0 to 2', 'start lamps = 2', 'action go', 'next lamps = lanps'),
    where: 'line 4, column 14',
    cause: 'lanps',
    good: rules(...LAMPS),
  },
  bounds: {
    bad: rules(
      'state lamps from 0 to 2',
      'start lamps = 2',
      'action light',
      'action wait',
      'next lamps = if action = light then lamps - 1 else lamps',
    ),
    where: 'line 5, column 14',
    cause: 'lamps can reach -1, and its range is 0 to 2',
    story: 'lamps 2 light; lamps 1 light; lamps 0 light',
    good: rules(...LAMPS),
  },
  probabilities: {
    bad: table([
      ['hall', 'on', 'stairs', 0.5, 0],
      ['hall', 'on', 'hall', 0.5, 0],
      ['stairs', 'up', 'attic', 1, 0],
      ['attic', 'jump', 'hall', 0.5, 0],
      ['attic', 'jump', 'door', 0.4, 0],
    ]),
    where: 'state "attic", action "jump"',
    cause: 'The probabilities sum to 0.9.',
    story: 'hall on; stairs up; attic jump',
    good: table(CORRIDOR),
  },
  'no-action': {
    bad: rules(
      'state lamps from 0 to 2',
      'start lamps = 2',
      'action light when lamps > 0',
      'next lamps = lamps - 1',
    ),
    where: 'line 3, column 1',
    cause: 'No action is possible, when lamps 0.',
    story: 'lamps 2 light; lamps 1 light',
    good: rules(...LAMPS),
  },
  check: {
    bad: rules(...LAMPS, 'check "one at a time": light < 2 or wind = calm'),
    where: 'lamps 2, action light 2',
    cause: 'The check "one at a time" is broken with wind = storm.',
    story: 'lamps 2 light 2 (wind = calm or wind = storm)',
    good: rules(...LAMPS, 'check "one at a time": light < 3'),
  },
  expected: {
    bad: { ...table(CORRIDOR), checks: [{ kind: 'reachable', state: 'door', expected: false }] },
    where: 'expectation 1',
    cause: 'An episode can never come to door. It can, in 2 steps.',
    story: 'hall on; stairs on',
    good: { ...table(CORRIDOR), checks: [{ kind: 'reachable', state: 'door', expected: true }] },
  },
  trap: {
    bad: table([
      ...CORRIDOR,
      ['hall', 'down', 'cellar', 1, 0],
      ['cellar', 'look', 'pit', 1, 0],
      ['pit', 'look', 'cellar', 1, 0],
    ]),
    where: 'cellar',
    cause: 'No ending can be reached from 2 states: cellar, pit.',
    story: 'hall down',
    good: table(CORRIDOR),
  },
  'impossible-policy': {
    bad: { ...table(CORRIDOR), policy: { hall: 'on', stairs: 'wait' } },
    where: 'stairs',
    cause: 'The drawn policy says wait, which is not possible there.',
    story: 'hall on',
    good: { ...table(CORRIDOR), policy: { hall: 'wait', gone: 'fly' } },
  },
  'never-possible': {
    bad: rules(...LAMPS, 'action dance when lamps > 5'),
    where: 'line 8, column 8',
    cause: 'The action dance is possible in no state that can be reached.',
    good: rules(...LAMPS),
  },
  'idle-action': {
    bad: table([...CORRIDOR, ['stairs', 'wait', 'stairs', 1, -1]]),
    where: 'wait',
    cause: 'The action wait always leads back to where it was taken, for −1.',
    story: 'hall wait',
    good: table([...CORRIDOR, ['stairs', 'wait', 'hall', 1, -1]]),
  },
  'same-actions': {
    bad: table([
      ['hall', 'on', 'door', 0.25, 1],
      ['hall', 'on', 'hall', 0.75, 0],
      ['hall', 'go', 'hall', 0.75, 0],
      ['hall', 'go', 'door', 0.25, 1],
    ]),
    where: 'on',
    cause: 'The actions on, go are possible in the same states and do the same in all of them.',
    good: table([
      ['hall', 'on', 'door', 1, 1],
      ['hall', 'go', 'door', 1, 1.5],
    ]),
  },
  unreached: {
    bad: table([...CORRIDOR, ['attic', 'down', 'hall', 1, 0]]),
    where: 'attic',
    cause: 'No episode can come to attic.',
    good: table([...CORRIDOR, ['attic', 'down', 'hall', 1, 0]], {
      starts: ['hall', 'attic'].map((state) => ({ state, weight: 1 })),
    }),
  },
  'never-ends': {
    bad: gridDocument(['..#.'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: 'lift' }],
    }),
    where: 'D1',
    cause: 'No episode can come to the ending lift in D1.',
    good: gridDocument(['....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: 'lift' }],
    }),
  },
  'start-ends': {
    bad: rules(...LAMPS.map((line) => (line.startsWith('start') ? 'start lamps ~ uniform(0, 2)' : line))),
    where: 'line 2, column 1',
    cause: 'Of the starts, lamps 0 is an ending: no episode begins there.',
    good: rules(...LAMPS),
  },
  'step-limit': {
    bad: { ...table(CORRIDOR), cap: 1 },
    where: 'hall',
    cause:
      'The step limit is 1, and the shortest way to an ending takes 2 steps: such an episode never ends by itself.',
    story: 'hall on; stairs on',
    good: table(CORRIDOR),
  },
  policy: {
    bad: rules(...LAMPS, 'policy "all": light 2 when lamps = 2'),
    where: 'line 8, column 1',
    cause: 'The policy “all” says nothing possible for the state lamps 1.',
    good: rules(...LAMPS, 'policy "all": light 2'),
  },
  'nothing-changes': {
    bad: rules('state lamps from 0 to 2', 'start lamps = 2', 'action look', 'reward 1'),
    where: 'line 1, column 1',
    cause: 'No line says what a variable will be, so that every state stays as it is.',
    good: rules(...LAMPS),
  },
  'chance-not-read': {
    bad: rules(...LAMPS, 'chance bell ~ pick(rings: 10%, silent: rest)'),
    where: 'line 8, column 8',
    cause: 'Nothing reads the chance bell, so that how it falls makes no difference.',
    good: rules(...LAMPS),
  },
  'idle-chance': {
    bad: rules(
      ...LAMPS,
      'chance bell ~ pick(rings: 10%, silent: rest)',
      'reward if bell = rings then 0 else 0',
    ),
    where: 'bell',
    cause: 'Every outcome of the chance bell has the same effect, in every state.',
    good: rules(
      ...LAMPS,
      'chance bell ~ pick(rings: 10%, silent: rest)',
      'reward if bell = rings then 1 else 0',
    ),
  },
  'reward-never': {
    bad: rules(...LAMPS, 'reward 7 when lamps = 0'),
    where: '7',
    cause: 'The reward “7” never occurs, or is always 0.',
    good: rules(...LAMPS, 'reward 7 when lamps = 1'),
  },
  'look-alikes': {
    bad: table(
      [
        ['left', 'east', 'door', 1, 1],
        ['left', 'west', 'left', 1, 0],
        ['right', 'east', 'right', 1, 0],
        ['right', 'west', 'door', 1, 1],
      ],
      {
        starts: ['left', 'right'].map((state) => ({ state, weight: 1 })),
        observations: { left: 'a door', right: 'a door' },
      },
    ),
    where: 'left and right',
    cause:
      'left and right look alike to the agent, and no action is best in both. The best policy that was found which acts on what is seen alone is worth 0.90909 from the start, the optimum 1.',
    good: table(
      [
        ['left', 'east', 'door', 1, 1],
        ['right', 'east', 'door', 1, 2],
      ],
      { observations: { left: 'a door', right: 'a door' } },
    ),
  },
  'reward-loop': {
    bad: table([...CORRIDOR, ['stairs', 'linger', 'stairs', 1, 4]]),
    where: 'stairs',
    cause:
      'The best policy never comes to an ending although it could: going round is worth more. The cycle has 1 step and pays 4.',
    story: 'hall on; stairs linger',
    good: table([...CORRIDOR, ['stairs', 'linger', 'stairs', 1, 0.1]]),
  },
}

describe('every rule', () => {
  const broken = CHECK_RULE_IDS.filter((id) => CHECK_RULES[id].severity !== 'fact')
  it('that finds faults is tried here', () => {
    expect(broken.filter((id) => !CASES[id])).toEqual([])
  })

  it.each(broken)('%s finds what breaks it, with the shortest story', (id) => {
    const { bad, where, cause, story: told = '' } = CASES[id]!
    const [finding, ...others] = found(bad, id)
    expect(finding).toMatchObject({
      severity: CHECK_RULES[id].severity,
      where,
      cause: expect.stringContaining(cause),
    })
    expect(finding.remedy).not.toBe('')
    expect(others).toEqual([])
    expect(story(finding)).toBe(told)
  })

  it.each(broken)('%s finds nothing where nothing breaks it', (id) => {
    expect(found(CASES[id]!.good, id)).toEqual([])
  })
})

describe('facts', () => {
  const facts = (document: EnvironmentDocument, rule: CheckRuleId) =>
    found(document, rule).map(({ cause }) => cause)

  it('tell every reward with a way to it, the returns and the lengths', () => {
    const document = table(CORRIDOR, {}, { discount: 0.5, cap: 4 })
    expect(found(document, 'rewards').map((each) => [each.cause, story(each)])).toEqual([
      ['A step can pay −1.', 'hall on'],
      ['A step can pay 0.', 'hall on; stairs on'],
      ['A step can pay 5.', 'hall on; stairs on'],
    ])
    // Least: waiting four times; largest: straight through.
    expect(facts(document, 'returns')).toEqual([
      'The return of an episode lies between −1.875 and 1.5, discounted by 0.5, within 4 steps.',
    ])
    expect(facts(document, 'length')).toEqual([
      'The shortest episode has 2 steps.',
      'Episodes can be of any length, up to the step limit of 4: one can come back to hall after 2 steps.',
    ])
    expect(facts(document, 'loops')).toEqual(['An agent can stay for ever among hall.'])
  })

  it('do not take a step that is discounted for one that leads away', () => {
    const document = table([
      ['a', 'wait', 'a', 1, 0, 0.5],
      ['a', 'go', 'b', 1, 1],
    ])
    expect(facts(document, 'loops')).toEqual(['An agent can stay for ever among a.'])
    expect(facts(document, 'certain-ending')).toEqual([])
  })

  it('tell rewards that differ by a rounding alone once', () => {
    const document = table([
      ['a', 'one', 'b', 1, 0.1 + 0.2],
      ['a', 'other', 'b', 1, 0.3],
    ])
    expect(facts(document, 'rewards')).toEqual(['A step can pay 0.3.'])
  })

  it('tell the longest episode where none can go round, and the certain ending', () => {
    const document = table([
      ['a', 'go', 'b', 0.5, 0],
      ['a', 'go', 'c', 0.5, 0],
      ['b', 'go', 'c', 1, 0],
      ['c', 'go', 'end', 1, 1],
    ])
    expect(facts(document, 'length')).toEqual([
      'The shortest episode has 2 steps.',
      'The longest episode has 3 steps.',
    ])
    expect(facts(document, 'certain-ending')).toEqual(['Every episode ends in end, whatever the agent does.'])
    expect(facts(document, 'loops')).toEqual([])
  })

  it('tell how often something else is carried out than what was chosen', () => {
    const grid = (veer: number) =>
      gridDocument(['..'], {
        starts: [{ at: 'A1', weight: 1 }],
        endings: [{ at: 'B1', reward: 1, name: '' }],
        veer,
      })
    expect(facts(grid(0), 'carried-out')).toEqual([])
    expect(facts(grid(0.3), 'carried-out')[0]).toContain('over all pairs with a chance of 30 %')
    expect(facts(grid(0), 'chance')).toEqual(['Every step is certain.'])
  })

  it('tell that nothing ends an episode', () => {
    const endless = table([['a', 'go', 'a', 1, 1]])
    expect(facts(endless, 'no-endings')).toEqual([
      'Nothing ends an episode: every one is cut off after 50 steps.',
    ])
    expect(found({ ...endless, discount: 1 }, 'trap')[0].cause).toBe(
      'Nothing ends an episode, and at discount 1 no value is finite.',
    )
  })
})

it('a chance that moves a number between the same two buckets matters', () => {
  const text = [
    'state damp from 0 to 10 in 2 buckets',
    'start damp = 4',
    'action wait',
    'chance drift ~ pick(0.5: 50%, 1: rest)',
    'next damp = within(damp + drift, 0, 10)',
  ]
  expect(found(rules(...text), 'idle-chance')).toEqual([])
})

/** A document around a small random model. */
function randomDocument(problem: number, states: number): EnvironmentDocument {
  const { model } = randomModel(problem, states)
  return table(
    Array.from({ length: model.outcomes }, (_, o): Row => {
      let row = 0
      while (model.outcomeStart[row + 1] <= o) row++
      let state = 0
      while (model.rowStart[state + 1] <= row) state++
      return [
        model.labels[state],
        model.actions[model.rowAction[row]],
        model.labels[model.outcomeState[o]],
        model.outcomeProbability[o],
        model.outcomeReward[o],
      ]
    }),
  )
}

describe('of small random models', () => {
  const problems = fc.integer({ min: 1, max: 100_000 })
  const sizes = fc.integer({ min: 2, max: 9 })

  /** States that are reached, by repeating one step until nothing is added; and how many rounds that takes. */
  function slowDistances(model: Model): Map<number, number> {
    const known = new Map(Array.from(model.startState, (s) => [s, 0]))
    for (let round = 1; round <= model.states; round++)
      for (const [s, when] of [...known])
        if (when === round - 1)
          for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
            for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
              if (!known.has(model.outcomeState[o])) known.set(model.outcomeState[o], round)
    return known
  }

  it('distances are those of a slow search, and every way is a way of that length', () => {
    fc.assert(
      fc.property(problems, sizes, (problem, size) => {
        const { model } = randomModel(problem, size)
        const search = searchFrom(model)
        const slow = slowDistances(model)
        for (let s = 0; s < model.states; s++) {
          expect(search.steps[s]).toBe(slow.get(s) ?? -1)
          if (search.steps[s] < 0) continue
          const walk = walkTo(model, search, s)
          const states = statesOf(model, walk)
          expect(states).toHaveLength(search.steps[s] + 1)
          expect(states.at(-1)).toBe(s)
          expect(Array.from(model.startState)).toContain(walk.start)
        }
      }),
    )
  })

  it('every story replays through the model', () => {
    fc.assert(
      fc.property(problems, sizes, (problem, size) => {
        const document = randomDocument(problem, size)
        const { model } = compileEnvironment(document)
        for (const { walk, path } of report(document).findings) {
          if (!walk) continue
          let at = walk.start
          expect(Array.from(model.startState)).toContain(at)
          walk.outcomes.forEach((o, i) => {
            expect(path[i].state).toBe(model.labels[at])
            const from = model.outcomeStart[model.rowStart[at]]
            const to = model.outcomeStart[model.rowStart[at + 1]]
            expect(o >= from && o < to).toBe(true)
            at = model.outcomeState[o]
          })
        }
      }),
      { numRuns: 60 },
    )
  })

  it('traps are the states from which a million random steps would not end', () => {
    fc.assert(
      fc.property(problems, sizes, (problem, size) => {
        const document = randomDocument(problem, size)
        const { model } = compileEnvironment(document)
        const trapped = new Set(found(document, 'trap').flatMap(({ states }) => states))
        // By the chance to have ended after very many steps of the random policy, squared again and again.
        const n = model.states
        let power = Array.from({ length: n }, (_, s) => {
          const line = new Array<number>(n).fill(0)
          const rows = model.rowStart[s + 1] - model.rowStart[s]
          if (!rows) line[s] = 1
          for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
            for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
              line[model.outcomeState[o]] += model.outcomeProbability[o] / rows
          return line
        })
        for (let k = 0; k < 20; k++)
          power = power.map((line) =>
            power[0].map((_, t) => line.reduce((sum, p, m) => sum + p * power[m][t], 0)),
          )
        const reached = searchFrom(model).steps
        for (let s = 0; s < n; s++) {
          const ends = power[s].some((p, t) => model.ending[t] === 1 && p > 1e-9)
          expect(trapped.has(s)).toBe(reached[s] >= 0 && !ends && model.ending.includes(1))
        }
      }),
      { numRuns: 60 },
    )
  })

  it('returns lie in their range, which no episode leaves and some come to', () => {
    fc.assert(
      fc.property(
        problems,
        fc.integer({ min: 2, max: 4 }),
        fc.constantFrom(0.5, 0.9, 1),
        (problem, size, discount) => {
          const document = { ...randomDocument(problem, size), cap: 4 }
          const { model } = compileEnvironment(document)
          let [least, most] = [Infinity, -Infinity]
          // Every episode there is.
          const go = (s: number, left: number, weight: number, sum: number) => {
            if (!left || model.ending[s]) {
              least = Math.min(least, sum)
              most = Math.max(most, sum)
              return
            }
            for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
              for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
                go(model.outcomeState[o], left - 1, weight * discount, sum + weight * model.outcomeReward[o])
          }
          for (const s of model.startState) go(s, 4, 1, 0)
          const range = returnRange(model, discount)!
          expect(range.exact).toBe(true)
          expect(range.least).toBeCloseTo(least, 9)
          expect(range.most).toBeCloseTo(most, 9)
        },
      ),
      { numRuns: 60 },
    )
  })
})
