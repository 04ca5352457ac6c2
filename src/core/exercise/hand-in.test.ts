import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import { writeCsv } from '../formats/csv'
import type { EnvironmentDocument } from '../kinds/kinds'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { makeCheckpoint } from '../learn/checkpoint'
import { World } from '../learn/world'
import { RandomStream } from '../random/generator'
import { gridDocument } from '../testing/models'
import { policyOf, type HandIn } from './hand-in'
import { readHandIn } from './read-hand-in'

const bytes = (text: string) => new TextEncoder().encode(text)
const hall = gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: '' }] })
const booth = rulebookEnvironment(
  'Booth',
  `state left from 0 to 3
start left = 3
action price in 2, 5
action close when left < 3
chance calls ~ coin(if action = price then 1 / price else 0)
next left = if action = close then 0 else if calls then left - 1 else left
reward 2 when calls
end when left = 0
policy "handed in": price 2
`,
)
const onto = (handIn: HandIn, document: EnvironmentDocument = hall) =>
  policyOf(handIn, compileEnvironment(document), document)
const rule = (text: string) => onto({ kind: 'rule', text }, booth)

describe('a policy that is handed in', () => {
  const { model } = compileEnvironment(hall)
  const wanted = { A1: 'east', B1: 'south', A2: { east: 0.25, north: 0.75 } }
  const asCsv = 'state,action,chance\nA1,east,1\nB1,south,\nA2,east,0.25\nA2,north,0.75\n'

  it('is read from JSON and from CSV, as the same', () => {
    const json = readHandIn(bytes(JSON.stringify(wanted)))
    const csv = readHandIn(bytes(asCsv.replace('south,', 'south,1')))
    expect([...onto(json)]).toEqual([...onto(csv)])
    expect([...onto(readHandIn(bytes(JSON.stringify({ policy: wanted, states: 4 }))))]).toEqual([
      ...onto(json),
    ])
    const row = (state: string, action: string) => {
      const s = model.labels.indexOf(state)
      return model.rowAction.indexOf(model.actions.indexOf(action), model.rowStart[s])
    }
    expect(onto(json)[row('A2', 'north')]).toBe(0.75)
    expect(onto(json)[row('A2', 'south')]).toBe(0)
  })

  it('comes back from what is exported, whatever its names', () => {
    const names = ['=cmd()', '-1', 'a,"b"', '__proto__']
    const lines = names.map((name) => [name, 'go', 1] as const)
    const csv = readHandIn(bytes(writeCsv(['state', 'action', 'chance'], lines)))
    expect(csv).toEqual({
      kind: 'policy',
      policy: Object.fromEntries(names.map((name) => [name, { go: 1 }])),
    })
  })

  it.each([
    [asCsv, 'line 3: The chance is "".'],
    ['state,move\nA1,east\n', 'line 1: There is no column action.'],
    ['state,action\nA1,east\nA1,east\n', 'line 3: "east" was named for "A1" before.'],
    ['state,action,chance\nA1,east,2\n', 'line 2: The chance is "2".'],
    ['{"A1": ', 'the file: It begins like JSON, but it is damaged.'],
    ['', 'file: It is empty.'],
  ])('%j is refused with its place', (text, told) => {
    expect(() => readHandIn(bytes(text))).toThrow(told)
  })

  it('that is too large is refused before it is read', () => {
    expect(() => readHandIn(new Uint8Array(5_000_001))).toThrow('It has 5.0 MB.')
  })

  it('names what does not fit: states that are missing, actions that are impossible', () => {
    expect(() => onto({ kind: 'policy', policy: { A1: 'east', B1: 'fly' } })).toThrow(
      /"B1": It has no action "fly"[^]*"A2": No action is named/,
    )
  })

  it('does the same where an agent sees the same', () => {
    const doors = checkEnvironment(JSON.parse(readFileSync('demo/same-looking-doors.json', 'utf8')))
    const { model: seen } = compileEnvironment(doors)
    const policy = Object.fromEntries(
      seen.labels
        .filter((_, s) => !seen.ending[s])
        .map((label) => [label, label === 'door 6' ? 'open' : 'on']),
    )
    expect(() => onto({ kind: 'policy', policy }, doors)).toThrow(/An agent cannot tell it from "door \d"/)
    expect(onto({ kind: 'policy', policy: { ...policy, 'door 2': 'open' } }, doors)).toHaveLength(seen.rows)
  })
})

it('a learned table is handed in by its greedy policy', () => {
  const world = new World(compileEnvironment(hall).model)
  const stream = new RandomStream(3, 'problem', 0)
  const table = Float64Array.from({ length: world.tableStart[world.model.observations] }, () =>
    stream.uniform(),
  )
  const about = {
    name: 'mine',
    environment: '',
    method: 'q-learning',
    holds: 'action values',
    settings: null,
    steps: 0,
    episodes: 0,
  } as const
  const handIn = readHandIn(bytes(JSON.stringify(makeCheckpoint(world, table, about))))
  expect(handIn.kind).toBe('table')
  const policy = onto(handIn)
  for (let s = 0; s < world.model.states; s++) {
    const rows = Array.from(
      { length: world.model.rowStart[s + 1] - world.model.rowStart[s] },
      (_, i) => world.model.rowStart[s] + i,
    )
    const best = rows.reduce((x, y) => (table[y] > table[x] ? y : x), rows[0])
    for (const row of rows) expect(policy[row]).toBe(row === best ? 1 : 0)
  }
})

describe('a rule that is handed in', () => {
  const { model } = compileEnvironment(booth)

  it('chooses as the same rule in the rulebook would', () => {
    const text = '# cheap at last\npolicy "handed in": price 5 when left > 1, close'
    expect(readHandIn(bytes(text))).toEqual({ kind: 'rule', text })
    const policy = rule(text)
    const chosen = (state: string) => {
      const s = model.labels.indexOf(state)
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] === 1) return model.actions[model.rowAction[r]]
      return null
    }
    expect(['left 3', 'left 2', 'left 1'].map(chosen)).toEqual(['price 5', 'price 5', 'close'])
  })

  it.each([
    ['policy "mine": price 5\nreward 1000', 'It is not one policy and nothing else.'],
    ['reward 1000', 'It is not one policy and nothing else.'],
    ['policy "a": price 5\npolicy "b": price 2', 'It is not one policy and nothing else.'],
    ['# nothing', 'Nothing is written.'],
    ['policy "mine": fly', 'There is no action'],
    ['\npolicy "mine" price 5', 'the rule, line 2'],
    [`policy "mine": price 5 ${'#'.repeat(5000)}`, 'It has 5023 characters.'],
  ])('%j is refused', (text, told) => {
    expect(() => rule(text)).toThrow(told)
  })

  it('is refused where nothing is written as rules', () => {
    expect(() => onto({ kind: 'rule', text: 'policy "mine": east' })).toThrow(
      'This environment is not written as rules.',
    )
  })
})
