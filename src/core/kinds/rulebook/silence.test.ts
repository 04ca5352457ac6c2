import { describe, expect, it } from 'vitest'
import { problemsOf, rulebook } from '../../testing/rulebooks'

/** The notes on a rulebook, by name. */
function notesOn(text: string): Record<string, string> {
  return Object.fromEntries(
    rulebook(text).facts.notes.map(({ rule, place, cause }) => [rule, `${place}: ${cause}`]),
  )
}

describe('what a rulebook leaves unsaid', () => {
  it('is told where it makes no fault', () => {
    expect(
      notesOn(`state left from 0 to 3
start left = 1
action sell
action wait when left > 5
chance wind ~ coin(0.5)
reward 1
end when left = 3
end after left > 7 "flood"`),
    ).toEqual({
      'nothing-changes':
        'line 1, column 1: No line says what a variable will be, so that every state stays as it is.',
      'chance-not-read':
        'line 5, column 8: Nothing reads the chance wind, so that how it falls makes no difference.',
      'never-possible': 'line 4, column 8: The action wait is possible in no state that can be reached.',
      'never-ends': 'line 8, column 1: This holds in nothing that can happen, so that no episode ends here.',
    })
  })

  it('is not told of rules that matter somewhere', () => {
    expect(
      notesOn(`state left from 0 to 3
start left = 1
action sell from 0 to 3 when sell <= left
action wait
chance wind ~ coin(0.5)
reward if wind then 1 else 0
next left = left - sell when action = sell
next left = min(3, left + 1)
end when left = 0
end after wind "blown away"`),
    ).toEqual({})
  })
})

describe('the way to what is wrong', () => {
  const BREACH = `state lit from 0 to 3
start lit = 0
action light
chance wind ~ pick(calm: 0.25, gust: rest)
next lit = min(3, lit + 1) when wind = calm
check "never all": lit < 3
`
  it('names what fell in every step, not in the last one only', () => {
    const { broken } = rulebook(BREACH).facts.checks[0]
    expect(broken).toEqual({
      state: 'lit 3',
      action: 'light',
      chances: 'wind = calm',
      path: [0, 1, 2].map((lit) => ({ state: `lit ${lit}`, action: 'light', chances: 'wind = calm' })),
    })
  })

  it('is told of a state without an action, and of a number that leaves its range', () => {
    const [stuck] = problemsOf('state a from 0 to 3\nstart a = 0\naction go when a < 2\nnext a = a + 1')
    expect(stuck.cause).toBe('No action is possible, when a 2. The way there: a 0, go; a 1, go.')
    expect(stuck.path).toEqual([
      { state: 'a 0', action: 'go', chances: '' },
      { state: 'a 1', action: 'go', chances: '' },
    ])
    const [out] = problemsOf('state a from 0 to 9\nstart a = 0\naction go\nnext a = a + 1')
    expect(out.cause).toContain(
      'The way there: a 0, go; a 1, go; a 2, go; 3 more steps; a 6, go; a 7, go; a 8, go.',
    )
    // Nine steps to get there, and the one that goes wrong.
    expect(out.path).toHaveLength(10)
  })

  it('is that of what was done where an impossible action is clamped, and where nothing is decided', () => {
    const { broken } = rulebook(`state a from 0 to 4
state busy yes or no
start a = 0, busy = no
action add from 0 to 2 when a + add <= 3
pass when busy
chance luck ~ coin(0.5)
next a = min(4, a + add) when action = add
next busy = luck and not busy
impossible actions are clamped
check "never three": a < 3`).facts.checks[0]
    expect(broken!.path.at(-1)!.action).toMatch(/add|passes by itself/)
    expect(broken!.path.every(({ chances }) => /^luck = (yes|no)$/.test(chances))).toBe(true)
  })
})

describe('two states of one name', () => {
  it('are refused: an ending must not be called like a state', () => {
    const text = `state door in open, closed
start door = open
action shut
action wait
next door = closed when action = shut
end after action = wait "door closed"`
    expect(problemsOf(text)[0]).toMatchObject({
      place: 'line 6, column 1',
      cause: 'The ending “door closed” has the name of a state.',
    })
    expect(rulebook(text.replace('"door closed"', '"the end"')).model.labels).toContain('the end')
  })

  it('do not come from buckets that lie close together, and centres are exact', () => {
    const { model } = rulebook(`state x from 0 to 0.6 in 4 buckets
start x = 0.1
action a
next x = 0.5`)
    expect([...model.labels].sort()).toEqual(['x 0.075', 'x 0.225', 'x 0.375', 'x 0.525'])
    const { space } = rulebook(`state x from 1000000 to 1000000.001 in 3 buckets nearest
start x = 1000000
action a`)
    expect(new Set(space.axes[0].texts).size).toBe(3)
    for (const text of space.axes[0].texts)
      expect(Math.abs((Number(text) - 1e6) * 6000 - Math.round((Number(text) - 1e6) * 6000))).toBeLessThan(
        1e-5,
      )
  })
})

describe('declarations that stand twice', () => {
  it.each([
    'state q list of 3 from 0 to 3',
    'state q from 0 to 3',
    'state q yes or no',
    'let q = 3',
    'knob q = 3 from 1 to 5',
    'table q = 1, 2',
    'chance q ~ coin(0.5)',
    'action q from 1 to 3',
    'measure q = 1',
  ])('%s is a fault and nothing worse', (again) => {
    const text = `state q list of 2 from 0 to 3
start q = 0
action go
next q = shift(q, 1)
${again}
reward sum(q)`
    const [first] = problemsOf(text)
    expect(first.place).toMatch(/^line [15], column/)
    expect(first.cause).toMatch(/declared|is a word already/)
  })
})

describe('slips from other languages', () => {
  const BASE = `knob shelf = 6 from 2 to 20
state stock from 0 to shelf
state sky in dry, wet
state coming list of 2 from 0 to 3
state lit yes or no
start stock = 0, sky = dry, coming = 0, lit = no
action order from 0 to shelf when stock + order <= shelf
next stock = order
`
  it.each([
    ['reward 1 when stock == 2', 'line 9, column 21', 'Write a single = to compare.'],
    ['reward 1 when lit && stock = 2', 'line 9, column 19', 'Write and.'],
    ['reward 1 when lit || stock = 2', 'line 9, column 19', 'Write or.'],
    ['reward 1 when stock <> 2', 'line 9, column 21', 'Write != for unequal.'],
    ['next lit = true', 'line 9, column 12', 'Write yes.'],
    ['reward 1 when lit = False', 'line 9, column 21', 'Write no.'],
    ['chance c ~ coin(0,5)', 'line 9, column 12', 'Write numbers with a point: 0.5.'],
    ['knob share = 0,5 from 0 to 1', 'line 9, column 14', 'Write the number with a point: 0.5.'],
    ['start stock = 1,5, sky = dry', 'line 9, column 15', 'Write the number with a point: 1.5.'],
    ['chance c ~ pick(dry: 0,5, wet: rest)', 'line 9, column 12', 'Write numbers with a point'],
    ['chance w ~ pick(dry: 0.5, wett: rest)\nnext sky = w', 'line 10, column 12', 'Did you mean “wet”?'],
    ['reward 0,5 * stock', 'line 9, column 8', 'Write the number with a point: 0.5.'],
    ['check “never full”: stock < 3', 'line 9, column 7', 'Type straight ones: "never full".'],
    ['next sky = wett', 'line 9, column 12', 'Did you mean “wet”?'],
    ['if lit then next stock = 0', 'line 9, column 1', 'next left = if lit then 0 else left'],
    ['for i from 1 to 3 next stock = i', 'line 9, column 1', 'Walk through a list inside square brackets'],
    ['reward 1 when lit when stock = 2', 'line 9, column 19', 'Join the conditions with and.'],
    ['let room = 3 when lit', 'line 9, column 14', 'Write if … then … else … instead.'],
    ['action more to 5', 'line 9, column 13', 'Levels are written “from 0 to 5”'],
    ['action send with van from 1 to 3 to in hall, attic', 'line 9, column 34', 'Put a comma between parts'],
    [
      'start stock = 2 or stock = 3, sky = dry',
      'line 9, column 15',
      'Write several starts in lines of their own',
    ],
    ['start stock = 2 and sky = dry', 'line 9, column 15', 'Put a comma between the variables.'],
    ['policy "p": order if lit', 'line 9, column 25', 'begins with “when”'],
    ['reward 1 if lit', 'line 9, column 10', 'Write when instead of if.'],
    ['reward 1 wen lit', 'line 9, column 10', 'Did you mean “when”?'],
    ['reward if lit than 1 else 2', 'line 9, column 15', 'Did you mean “then”?'],
    ['stock = 3', 'line 9, column 1', 'Write “next stock = …” for what a state variable will be'],
    ['f(x) = 3 * x', 'line 9, column 1', 'Declare functions with let: let f(n) = …'],
    ['measure f(x) = 3 * x', 'line 9, column 9', 'Declare functions with let: let f(n) = …'],
    ['state row in 1..3', 'line 9, column 15', 'Write a range with words: from 1 to 3.'],
    ['let room = shop.shelf', 'line 9, column 16', 'Put it between digits'],
    ['coming[1] = 2', 'line 9, column 1', 'next coming[1] = …'],
    ['table joy for dry = 1\nreward joy[sky]', 'line 10, column 12', 'Add wet = … to the table.'],
    [
      'let after = stock + order\naction more from 0 to 2 when after < 3',
      'line 10, column 30',
      'Write the condition from the state and the level',
    ],
    [
      'action more from 0 to 2 when next stock < 3',
      'line 9, column 35',
      'Write the condition from the state',
    ],
    ['action plain when next stock < 3', 'line 9, column 24', 'Write the condition from the state'],
  ])('%s: the way out is named', (line, place, remedy) => {
    const problem = problemsOf(BASE + line).find((each) => each.place === place)
    expect(problem?.remedy).toContain(remedy)
  })

  it('what follows from the state alone may stand in “when”, whatever it is called', () => {
    const { model } = rulebook(`state stock from 0 to 3
start stock = 0
action go
let room = 3 - stock
action more from 1 to 2 when more <= room
next stock = min(3, stock + (if action = more then more else 0))`)
    expect(model.states).toBe(4)
  })
})

it(
  'a model with far too many outcomes is refused before they are all worked out',
  { timeout: 60_000 },
  () => {
    const before = performance.now()
    const [problem] = problemsOf(`state a from 0 to 300
state b from 0 to 300
start a = 0, b = 0
action x from 0 to 20
chance c ~ uniform(0, 40)
chance d ~ uniform(0, 40)
next a = (a + c + x) mod 301
next b = (b + d) mod 301`)
    expect(problem.cause).toMatch(/^About \d+ million outcomes, and up to 40 million are worked out/)
    expect(performance.now() - before).toBeLessThan(20_000)
  },
)

describe('what follows from a rule that cannot be read', () => {
  it('is not told besides: its names may be declared there', () => {
    const text = `state at list of 3 in hall, attic
start at = hall
action send with van in 1..3, to in hall, attic when at[van] != to
reward 1 when action = send
next at[van] = to
next att = hall`
    expect(problemsOf(text).map(({ place, cause }) => [place, cause])).toEqual([
      ['line 3, column 26', 'The sign .. means nothing here.'],
      ['line 6, column 6', 'There is no state variable “att”.'],
    ])
  })
})
