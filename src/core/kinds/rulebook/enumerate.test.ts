import { describe, expect, it } from 'vitest'
import { offered, outcomesOf, problemsOf, rulebook } from '../../testing/rulebooks'
import { shareBuckets } from './variables'
import { withTreatment, penaltyOf } from './edit'
import { RulebookCompiler } from './enumerate'

const SHELF = `state left from 0 to 6
start left = 3
action order from 0 to 6 when left + order <= 6
action close with order = 0
chance sold ~ pick(0: 0.5, 2: rest)
reward 10 * min(left, sold) - order
next left = max(0, left - sold) + order
`

describe('a step', () => {
  it('pays and leads on as the rules say, equal outcomes added up', () => {
    const { model } = rulebook(SHELF)
    expect(outcomesOf(model, 'left 3', 'order 2')).toEqual({ 'left 5': [0.5, -2], 'left 3': [0.5, 18] })
    expect(outcomesOf(model, 'left 3', 'close')).toEqual({ 'left 3': [0.5, 0], 'left 1': [0.5, 20] })
    const merged = rulebook(`${SHELF.replace('next left = max(0, left - sold) + order', 'next left = 0')}`)
    expect(outcomesOf(merged.model, 'left 3', 'order 1')).toEqual({ 'left 0': [1, 9] })
  })

  it('takes of several next lines the first that holds, and keeps what none speaks of', () => {
    const { model } = rulebook(`state a from 0 to 9
state b in low, high
start a = 0, b = low
action go
next a = 5 when b = high
next a = a + 1 when a < 9
next b = high when a = 1`)
    expect(model.labels).toEqual(['a 0, b low', 'a 1, b low', 'a 2, b high', 'a 5, b high'])
    expect(outcomesOf(model, 'a 5, b high', 'go')).toEqual({ 'a 5, b high': [1, 0] })
  })

  it('lets rewards and ends look at what will be', () => {
    const { model } = rulebook(`state a from 0 to 3
start a = 0
action go
next a = a + 1
reward 5 when next a = 3
end after next a = 3 "there"`)
    expect(outcomesOf(model, 'a 2', 'go')).toEqual({ there: [1, 5] })
    expect(model.ending[model.labels.indexOf('there')]).toBe(1)
  })

  it('ends in states or after steps; a step that ends need not stay in range', () => {
    const { model } = rulebook(`state a from 0 to 3
start a = 2
action up
action down
next a = if action = up then a + 1 else a - 1
end when a = 0 "floor"
end after a = 3 and action = up "ceiling"`)
    expect(model.labels.filter((_, s) => model.ending[s]).sort()).toEqual(['a 0', 'ceiling'])
    expect(outcomesOf(model, 'a 3', 'up')).toEqual({ ceiling: [1, 0] })
    expect(offered(model, 'a 0')).toEqual([])
  })

  it('lead to one ending for one reason', () => {
    const { model } = rulebook(`state a from 0 to 3
start a = 1
action up
action down
next a = within(if action = up then a + 1 else a - 1, 0, 3)
end after next a = 3 "done"
end after next a = 0 "done"`)
    expect(model.labels.filter((label) => label === 'done')).toHaveLength(1)
  })

  it('tells a value that leaves its range with the state, the action and the chances', () => {
    expect(problemsOf(SHELF.replace('max(0, left - sold)', '(left - sold)'))[0]).toMatchObject({
      place: 'line 7, column 13',
      cause:
        'left can reach -1, and its range is 0 to 6, when left 1, action order 0, sold = 2. The way there: left 3, order 0 (sold = 2).',
      remedy: 'Write max(0, …) around it, or widen the range of left.',
    })
    expect(problemsOf('state a in 1, 2, 5\nstart a = 1\naction x\nnext a = a + 1')[0].cause).toBe(
      'a can become 3, and is one of 1, 2, 5, when a 2, action x. The way there: a 1, x.',
    )
  })
})

describe('impossible actions', () => {
  const at = (treatment: string) => rulebook(`${SHELF}impossible actions are ${treatment}`).model

  it('are forbidden: not offered', () => {
    expect(offered(rulebook(SHELF).model, 'left 3')).toEqual([
      'order 0',
      'order 1',
      'order 2',
      'order 3',
      'close',
    ])
    expect(offered(at('forbidden'), 'left 5')).toEqual(['order 0', 'order 1', 'close'])
  })

  it('are clamped: the nearest possible level', () => {
    const model = at('clamped')
    expect(offered(model, 'left 5')).toHaveLength(8)
    expect(outcomesOf(model, 'left 5', 'order 6')).toEqual(outcomesOf(model, 'left 5', 'order 1'))
  })

  it('are penalised: let through, held at the end of the range, and charged', () => {
    const model = at('penalised by 7')
    // 5 + 6 would be 11: held at 6; 6 are paid for, and 7 more.
    expect(outcomesOf(model, 'left 5', 'order 6')).toEqual({ 'left 6': [1, 10 * 0.5 * 2 - 6 - 7] })
    expect(outcomesOf(model, 'left 5', 'order 1')).toEqual(outcomesOf(at('forbidden'), 'left 5', 'order 1'))
  })

  it('are told before a step is worked out: lets that depend on the action are not known then', () => {
    expect(
      problemsOf(
        'state a from 0 to 5\nstart a = 0\naction order from 0 to 3\nlet sum = a + order\naction more from 1 to 2 when sum + more < 5',
      )[0],
    ).toMatchObject({
      place: 'line 5, column 30',
      cause:
        '“sum” depends on the action or on chance: it is worked out after an action is taken, and this line says which can be taken.',
    })
    expect(
      problemsOf(
        'state a from 0 to 5\nstart a = 0\naction order from 0 to 3 when a < 2\nlet sum = a + order\nimpossible actions are penalised by sum',
      )[0].cause,
    ).toContain('“sum” depends on the action')
    const { model } = rulebook(
      'state a from 0 to 5\nstart a = 0\naction order from 1 to 3 when a + order <= 5\nimpossible actions are penalised by 2 * order\nnext a = a + order',
    )
    expect(outcomesOf(model, 'a 3', 'order 3')).toEqual({ 'a 5': [1, -6] })
  })

  it('without a possible level act as the first possible action', () => {
    const { model } = rulebook(`state held yes or no
start held = no
action sell when held
action buy when not held
action wait
impossible actions are clamped
next held = if action = buy then yes else if action = sell then no else held`)
    expect(outcomesOf(model, 'held no', 'sell')).toEqual(outcomesOf(model, 'held no', 'buy'))
    expect(outcomesOf(model, 'held yes', 'buy')).toEqual(outcomesOf(model, 'held yes', 'sell'))
  })

  it('are switched by one line of the text', () => {
    const clamped = withTreatment(SHELF, 'clamped')
    expect(clamped.split('\n')[4]).toBe('impossible actions are clamped')
    expect(rulebook(clamped).facts.treatment).toBe('clamped')
    const penalised = withTreatment(clamped, 'penalised', 4)
    expect(penalised.match(/impossible/g)).toHaveLength(1)
    expect(penaltyOf(penalised)).toBe(4)
    expect(rulebook(withTreatment(penalised, 'forbidden')).facts.treatment).toBe('forbidden')
    expect(withTreatment('state a from 0 to 1', 'clamped')).toBe(
      'state a from 0 to 1\nimpossible actions are clamped\n',
    )
  })
})

describe('levels', () => {
  const actions = (line: string) =>
    rulebook(`state a from 0 to 1\nstart a = 0\n${line}\nnext a = a`).model.actions

  it('are counted, stepped, thinned or named', () => {
    expect(actions('action order from 2 to 4')).toEqual(['order 2', 'order 3', 'order 4'])
    expect(actions('action order from 0 to 10 by 4')).toEqual(['order 0', 'order 4', 'order 8'])
    expect(actions('action order from 0 to 5000 in 5 levels')).toEqual(
      [0, 1250, 2500, 3750, 5000].map((n) => `order ${n}`),
    )
    expect(actions('action rate from 0 to 1 in 3 levels')).toEqual(['rate 0', 'rate 0.5', 'rate 1'])
    expect(actions('action send in north, south')).toEqual(['send north', 'send south'])
  })

  it.each([
    ['action order from 0 to 5000', 'There are 5001 levels.'],
    ['action order from 5 to 0', 'The levels go from 5 to 0.'],
    ['action order in 1, 1', 'This value stands here twice.'],
    ['action order from 0 to 5 by 0', 'The step is 0.'],
    ['action order from 0 to 5 in 1 levels', 'There are 1 levels.'],
  ])('%s: %s', (line, cause) => {
    expect(problemsOf(`state a from 0 to 1\nstart a = 0\n${line}`)[0].cause).toBe(cause)
  })
})

describe('buckets', () => {
  const dimension = (nearest: boolean) =>
    ({ kind: 'buckets', low: 0, high: 10, size: 5, nearest }) as Parameters<typeof shareBuckets>[0]

  it('share a value between two centres so that its mean is kept', () => {
    const share = { index: 0, share: 0 }
    for (let x = 1; x <= 9; x += 0.37) {
      expect(shareBuckets(dimension(false), x, share)).toBe(true)
      const centre = (i: number) => 1 + 2 * i
      expect(centre(share.index) * (1 - share.share) + centre(share.index + 1) * share.share).toBeCloseTo(
        x,
        12,
      )
    }
  })

  it('put what lies beyond the outer centres into the outer bucket, and nothing outside the range', () => {
    const share = { index: 0, share: 0 }
    shareBuckets(dimension(false), 9.8, share)
    expect(share).toEqual({ index: 4, share: 0 })
    shareBuckets(dimension(true), 3.99, share)
    expect(share).toEqual({ index: 1, share: 0 })
    expect(shareBuckets(dimension(false), 10.1, share)).toBe(false)
    expect(shareBuckets(dimension(false), NaN, share)).toBe(false)
  })

  it('split an outcome in a model, in two variables at once', () => {
    const { model } = rulebook(`state x from 0 to 10 in 5 buckets
state y from 0 to 10 in 5 buckets
start x = 5, y = 5
action go
next x = min(10, x + 0.5)
next y = max(0, y - 1)
reward x`)
    expect(outcomesOf(model, 'x 5, y 5', 'go')).toEqual({
      'x 7, y 3': [0.125, 5],
      'x 7, y 5': [0.125, 5],
      'x 5, y 3': [0.375, 5],
      'x 5, y 5': [0.375, 5],
    })
  })

  it('tell a value that leaves their range', () => {
    expect(
      problemsOf('state x from 0 to 1 in 4 buckets\nstart x = 0.5\naction a\nnext x = x * 2')[0].cause,
    ).toContain('x can reach 1.25, and its range is 0 to 1, when x 0.625')
    expect(problemsOf('state x from 0 to 1 in 4 buckets\nstart x = 7\naction a')[0].cause).toBe(
      'x goes from 0 to 1, and this is 7.',
    )
  })
})

describe('starts', () => {
  const starts = (text: string) => {
    const { model } = rulebook(text)
    return Object.fromEntries(
      Array.from(model.startState, (s, i) => [
        model.labels[s],
        Number(model.startProbability[i].toFixed(12)),
      ]),
    )
  }

  it('are several, with weights and draws', () => {
    expect(
      starts(
        'state a from 0 to 3\nstate b in x, y\nstart a = 0, b = y weight 3\nstart a ~ uniform(2, 3), b = x\naction go',
      ),
    ).toEqual({ 'a 0, b y': 0.75, 'a 2, b x': 0.125, 'a 3, b x': 0.125 })
  })

  it('are scrambled by random actions, which no ending stops; endings are left out', () => {
    // From 0, two steps up or down with reflection at 0: 0 -> {0, 1} -> 0: 1/2, 1: 1/4, 2: 1/4.
    expect(
      starts(
        'state a from 0 to 3\nstart a = 0 then 2 random actions\naction up\naction down\nnext a = within(if action = up then a + 1 else a - 1, 0, 3)\nend when a = 0',
      ),
    ).toEqual({ 'a 1': 0.5, 'a 2': 0.5 })
  })

  it.each([
    ['start a = 0', 'The start does not say what b is.'],
    ['start a = 0, b = 1, a = 1', 'a stands here twice.'],
    ['start a = 9, b = 1', 'a goes from 0 to 3, and this is 9.'],
    ['start a = b, b = 1', 'This must be known before anything runs.'],
    ['start a = 0, b = 1 weight 0', 'The weight is 0.'],
    ['start a = 0, b = 1 then 1.5 random actions', 'It says 1.5 random actions.'],
    ['start a = 0, c = 1, b = 0', 'There is no state variable “c”.'],
    ['start a = 0, b = yes', 'b is a number, and this is yes or no.'],
    ['start a ~ poisson(b), b = 0', 'A start must be known before anything runs.'],
  ])('%s: %s', (line, cause) => {
    expect(problemsOf(`state a from 0 to 3\nstate b from 0 to 3\n${line}\naction go`)[0].cause).toBe(cause)
  })
})

describe('what the agent sees', () => {
  const HALL =
    'state place from 1 to 4\nstate dark yes or no\nstart place = 1, dark = no\naction on\nnext place = place mod 4 + 1\nnext dark = place = 2\n'

  it('is the state itself unless the rulebook says otherwise', () => {
    const { model } = rulebook(HALL)
    expect([model.observations, model.states]).toEqual([model.states, model.states])
    const seen = rulebook(`${HALL}observe place mod 2 as side`).model
    expect(seen.observations).toBe(2)
    expect(seen.states).toBe(model.states)
  })

  it('must offer the same actions wherever it looks the same', () => {
    expect(
      problemsOf(
        'state a from 0 to 3\nstart a = 0\naction x when a < 2\naction y\nobserve a > 5\nnext a = min(3, a + 1)',
      )[0],
    ).toMatchObject({
      place: 'line 5, column 1',
      cause: expect.stringContaining('offer different actions'),
    })
  })

  it('keeps endings apart from states in which there is something to do', () => {
    const { model } = rulebook(
      'state a from 0 to 3\nstart a = 0\naction x\nobserve 1\nnext a = a + 1\nend when a = 3',
    )
    expect(model.observations).toBe(2)
  })
})

describe('measures, checks and policies', () => {
  const LINE = `state a from 0 to 5
start a = 0
action walk
action jump
chance slips ~ coin(0.25)
next a = min(5, if action = jump then (if slips then a else a + 2) else a + 1)
reward -1
end when a = 5
measure slipped = slips and action = jump
check "never past four by jumping": not (action = jump and next a = 5 and a = 4)
check "stays on the line": next a <= 5
policy "jump, but not at the end": jump when a < 3, walk
policy "silent": walk when a < 3
`
  const { model, measures, policies, facts } = rulebook(LINE)

  it('measures what a step gives, expected', () => {
    const perRow = Object.fromEntries(
      Array.from(model.rowAction, (action, r) => [`${model.actions[action]} ${r}`, measures[0].perRow[r]]),
    )
    expect(Object.entries(perRow).every(([name, x]) => x === (name.startsWith('jump') ? 0.25 : 0))).toBe(true)
  })

  it('finds a broken check and the shortest way to it', () => {
    expect(facts.checks[0].broken).toEqual({
      state: 'a 4',
      action: 'jump',
      chances: 'slips = no',
      path: [
        { state: 'a 0', action: 'jump', chances: 'slips = no' },
        { state: 'a 2', action: 'jump', chances: 'slips = no' },
      ],
    })
    expect(facts.checks[1].broken).toBeNull()
  })

  it('writes policies out, and says when one is silent', () => {
    expect(policies.map(({ title }) => title)).toEqual(['jump, but not at the end'])
    const picked = model.labels.map((label, s) => {
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policies[0].policy[r] === 1) return `${label}: ${model.actions[model.rowAction[r]]}`
      return `${label}: ending`
    })
    expect(picked.sort()).toEqual([
      'a 0: jump',
      'a 1: jump',
      'a 2: jump',
      'a 3: walk',
      'a 4: walk',
      'a 5: ending',
    ])
    expect(facts.notes[0]).toMatchObject({
      place: 'line 13, column 1',
      cause: 'The policy “silent” says nothing possible for the state a 3.',
    })
  })

  it('take the nearest possible level of a policy', () => {
    const { model: shelf, policies: of } = rulebook(`${SHELF}policy "fill": order 9 - left`)
    const s = shelf.labels.indexOf('left 3')
    const row = shelf.rowStart[s] + 3
    expect(of[0].policy[row]).toBe(1)
    expect(shelf.actions[shelf.rowAction[row]]).toBe('order 3')
  })
})

describe('knobs and sizes', () => {
  const TEXT =
    'knob n = 3 from 1 to 6\nknob p = 0.5 from 0 to 1\nstate a from 0 to n\nstart a = 0\naction go\nchance c ~ coin(p)\nnext a = min(n, a + (if c then 1 else 0))'

  it('are turned without touching the text', () => {
    expect(rulebook(TEXT).model.states).toBe(4)
    expect(rulebook(TEXT, { n: 6 }).model.states).toBe(7)
    expect(rulebook(TEXT, { n: 1, p: 0 }).model.states).toBe(1)
    expect(rulebook(TEXT, { p: 1 }).facts.knobs[1]).toMatchObject({
      value: 1,
      standard: 0.5,
      low: 0,
      high: 1,
      step: 0.01,
    })
    expect(rulebook(TEXT, { unknown: 3 }).model.states).toBe(4)
  })

  it.each([
    [{ n: 9 }, 'The knob is set to 9; its range is 1 to 6.'],
    [{ n: 2.5 }, 'The knob is set to 2.5, and takes whole numbers.'],
    [{ n: NaN }, 'The knob is set to NaN; its range is 1 to 6.'],
  ])('refuse %j', (knobs, cause) => {
    expect(problemsOf(TEXT, knobs)[0]).toMatchObject({ cause, place: 'line 1, column 6' })
  })

  it('are refused before anything runs when there are too many combinations', () => {
    expect(
      problemsOf('state a list of 6 from 0 to 99\nstate b from 0 to 9\nstart a = 0, b = 0\naction x')[0],
    ).toMatchObject({
      place: 'line 1, column 1',
      cause:
        'The variables have 1 × 10^13 combinations: a 1 × 10^12 (100 each in 6 places) × b 10. Up to 1 × 10^9 are looked through.',
      remedy: 'Shrink a first.',
    })
  })

  it('are refused on the way when too many can be reached', () => {
    const text =
      'state a from 0 to 9999\nstate b from 0 to 9\nstart a = 0, b = 0\naction x\nchance c ~ uniform(0, 9)\nnext a = (a + 1) mod 10000\nnext b = c'
    const compiler = new RulebookCompiler(
      { text, knobs: {}, view: { across: null, up: null, others: {} } },
      0,
      { rows: 500, happenings: Infinity },
    )
    expect(() => {
      while (!compiler.advance(100));
    }).toThrow(
      'More than 500 pairs of a state and an action can be reached. The variables contribute a 10000 × b 10',
    )
    expect(compiler.progress.rows).toBe(500)
  })

  it('compile in slices to the same model as in one go', () => {
    const text =
      'state a from 0 to 40\nstate b from 0 to 40\nstart a = 0, b = 0\naction x\naction y\nchance c ~ coin(0.3)\nnext a = (a + (if c then 1 else 2)) mod 41\nnext b = (b + (if action = y then 1 else 3)) mod 41\nreward a - b'
    const document = { text, knobs: {}, view: { across: null, up: null, others: {} } }
    const compiler = new RulebookCompiler(document, 100)
    let slices = 0
    while (!compiler.advance(7)) slices++
    expect(slices).toBeGreaterThan(300)
    expect(compiler.finish().model).toEqual(rulebook(text).model)
  })
})
