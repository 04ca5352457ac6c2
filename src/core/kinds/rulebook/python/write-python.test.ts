import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../../environment/compile'
import { parseEnvironment } from '../../../environment/document'
import { solveOptimum } from '../../../plan/solve'
import { rulebookEnvironment } from '../blank'
import type { RulebookEnvironment } from '../kind'
import { PATTERNS, patternEnvironment } from '../patterns/patterns'
import { DISTRIBUTIONS } from '../distributions'
import { FUNCTIONS } from '../functions'
import { PYTHON_FUNCTIONS } from './python-expression'
import { RUNTIME } from './runtime'
import { writePython } from './write-python'

const folder = mkdtempSync(join(tmpdir(), 'rulebook-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** Walks over all that can be reached, by what the module says alone. */
const WALK = `
import json
starts = [(p, state) for p, state in STARTS]
known, rows = {state for _, state in starts}, []
todo = list(known)
for state in todo:
    for action in [None] if passes(state) else actions(state):
        found = outcomes(state, action)
        rows.append([name_of(state), action, [[p, r, d, name_of(to)] for p, r, d, to in found]])
        for *_, to in found:
            if to not in known:
                known.add(to)
                todo.append(to)
print(json.dumps({"starts": [[p, name_of(s)] for p, s in starts], "states": len(known), "rows": rows}))
`

interface Walked {
  readonly starts: [number, string][]
  readonly states: number
  readonly rows: [string, string | null, [number, number, number, string][]][]
}

function runPython(text: string): string {
  writeFileSync(join(folder, 'rules.py'), text)
  const { status, stdout, stderr } = spawnSync('python3', ['rules.py'], {
    cwd: folder,
    encoding: 'utf8',
    maxBuffer: 1e9,
  })
  if (status !== 0) throw new Error(stderr.slice(-2000))
  return stdout
}

function walked(document: RulebookEnvironment): Walked {
  const compiled = compileEnvironment(document)
  return JSON.parse(runPython(writePython(document.name, document.rulebook, compiled) + WALK)) as Walked
}

/** Holds every number of the Python module against the model. */
function compare(document: RulebookEnvironment): void {
  const { model } = compileEnvironment(document)
  const { starts, states, rows } = walked(document)
  expect(states).toBe(model.states)
  expect(rows).toHaveLength(model.rows)
  expect(starts).toEqual(Array.from(model.startState, (s, i) => [model.startProbability[i], model.labels[s]]))
  const numberOf = new Map(model.labels.map((label, s) => [label, s]))
  let worst = 0
  for (const [state, action, outcomes] of rows) {
    const s = numberOf.get(state)!
    const r = Array.from(
      { length: model.rowStart[s + 1] - model.rowStart[s] },
      (_, k) => model.rowStart[s] + k,
    ).find((row) => model.actions[model.rowAction[row]] === action)!
    const wanted = new Map<string, number[]>()
    for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
      wanted.set(model.labels[model.outcomeState[o]], [
        model.outcomeProbability[o],
        model.outcomeReward[o],
        model.outcomeDiscount?.[o] ?? 1,
      ])
    for (const [p, reward, discount, to] of outcomes) {
      const [chance, paid, kept] = wanted.get(to) ?? [0, reward, discount]
      worst = Math.max(
        worst,
        Math.abs(p - chance),
        chance > 1e-9 ? Math.abs(reward - paid) / (1 + Math.abs(paid)) : 0,
        Math.abs(discount - kept),
      )
      wanted.delete(to)
    }
    for (const [chance] of wanted.values()) worst = Math.max(worst, chance)
  }
  expect(worst).toBeLessThan(1e-9)
}

const DEMOS = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((name) => parseEnvironment(readFileSync(`demo/${name}`, 'utf8')))
  .filter((document): document is RulebookEnvironment => document.kind === 'rulebook')
const EXAMPLES = [...readFileSync('docs/rulebook.md', 'utf8').matchAll(/```rules\n([^]*?)```/g)].map(
  ([, text], i) => rulebookEnvironment(`Example ${i}`, text),
)
const WRITTEN = [...DEMOS, ...EXAMPLES, ...PATTERNS.map((pattern) => patternEnvironment(pattern, ''))]
const isSmall = (document: RulebookEnvironment) => compileEnvironment(document).model.rows < 4000
const passesBy = ({ rulebook }: RulebookEnvironment) => /^pass /m.test(rulebook.text)

it('has every function and every distribution of the language', () => {
  const own = Object.keys(FUNCTIONS).filter((name) => !Object.hasOwn(PYTHON_FUNCTIONS, name))
  for (const name of [...own, ...Object.keys(DISTRIBUTIONS), 'pick', 'sample', 'table'])
    expect(RUNTIME).toContain(`\ndef _${name}(`)
})

describe('a rulebook as a Python module', () => {
  it.each(
    WRITTEN.filter((document) => !passesBy(document) && isSmall(document)).map(
      (document) => [document.name, document] as const,
    ),
  )('is the same model: %s', (_, document) => compare(document))

  it('has all that the language has', () => {
    compare(
      rulebookEnvironment(
        'All "of" it',
        `knob most = 3 from 1 to 5
knob __odd = 0.5 from 0 to 1
table way for hall = [hall: 0, attic: 3], attic = [hall: 2, attic: 0]
table worth from 0 = 1, 2.5, -4, 8
table odds = [0: 0.5, 2: 0.5], [0: 0.25, 2: 0.75]
state at list of 2 in hall, attic
state in_ from 0 to most
state heat from 0 to 10 in 5 buckets
state lambda yes or no
state kind in 1, 2.5, 4
start at = [hall, attic], in_ ~ uniform(0, 1), heat = 3, lambda = no, kind = 2.5
action send with van from 1 to 2, to in hall, attic when at[van] != to and in_ < most
action price in 8, 12
action wait with price = 0, van = 1
let double(n, m) = if n > 1 then n * 2 + m else n
let p = double(in_, most)
chance lit list of 2 ~ coin(if item = 1 or lit[item - 1] then __odd else 0.25)
chance calls ~ table odds[1 + in_ mod 2]
chance sky ~ pick(dry: 0.25, wet: rest)
chance seen ~ sample(1: 3, 2.5, 2.5)
let found = sum([a * b for a in [1, 2], b from 3 to 4]) + count(lit, yes) + place(at, attic) + length(at)
let sent = if action = send then put(at, van, to) else swap(at, 1, 2)
reward worth[in_] + p / 4 when sky = dry and not lambda
reward -way[at[1]][at[2]] - (if action = price then price / 4 else 0)
reward round(2.5) + floor(-0.5) + ceil(0.2) + abs(-3) + sqrt(4) + exp(-1) + sin(1) + cos(2) + within(calls, 1, 2) ^ 2
reward max(sorted([3, seen, 1])) - min(1, 2, calls) + (-7) mod 3 + found
measure used = calls
next in_ = min(most, in_ + used) when lit[1]
next in_ = max(0, in_ - 1) when action != wait
next at = turn(sent, 1) when any(lit)
next at[van] = attic when action = send and calls = 1
next at = sent when all([x != attic for x in at])
next at[1] = hall when sky = dry or calls = 2
next heat = within(heat + seen - 1.3, 0, 10)
next lambda = next in_ > 2 or (heat > 5 and shift(at, hall)[2] = hall)
next kind = if sky = wet then 4 else kind
discount exp(-0.1 * calls)
discount 0.5 when sky = wet
end when in_ = most and at[1] = attic
end after lit[1] and calls = 2 and sky = wet "too much"
`,
      ),
    )
  })

  it('treats impossible actions as they are treated, and keeps items in order', () => {
    const text = `state at list of 3 from 0 to 2
start at = [0, 1, 2]
same at
action move with van from 1 to 3, by from -1 to 1 when at[van] + by >= 0 and at[van] + by <= 2
action rest_ with van = 1, by = 0
next at = put(at, van, at[van] + by)
reward sum(at) - abs(by)
`
    for (const line of ['are forbidden', 'are penalised by 2 * abs(by)'])
      compare(rulebookEnvironment(line, `${text}impossible actions ${line}`))
    // The nearest possible action depends on the number of the van.
    compare(rulebookEnvironment('clamped', `${text.replace('same at', '')}impossible actions are clamped`))
  })

  it('says what passes by itself: worked out from there the values are the same', () => {
    const documents = WRITTEN.filter((document) => passesBy(document) && isSmall(document))
    expect(documents.length).toBeGreaterThan(1)
    for (const document of documents) {
      // With the discount of stretches all steps count alike.
      const { rulebook } = document
      const alike = {
        ...document,
        rulebook: {
          ...rulebook,
          text: rulebook.text.replace(/^(pass when [^\n]*?)(?: discounted [\d.]+)?$/m, '$1 discounted 0.9'),
        },
      }
      const { model } = compileEnvironment(alike)
      const { rows } = walked(alike)
      const values = new Map<string, number>()
      for (let sweep = 0; sweep < 400; sweep++) {
        const best = new Map<string, number>()
        for (const [state, action, outcomes] of rows) {
          const worth = outcomes.reduce(
            (sum, [p, reward, discount, to]) =>
              sum + p * (reward + (action === null ? 1 : 0.9) * discount * (values.get(to) ?? 0)),
            0,
          )
          best.set(state, Math.max(best.get(state) ?? -Infinity, worth))
        }
        for (const [state, value] of best) values.set(state, value)
      }
      const optimum = solveOptimum(model, 0.9)!.values
      model.labels.forEach((label, s) => expect(optimum[s]).toBeCloseTo(values.get(label) ?? 0, 6))
    }
  })
})

// Without numpy on this machine there is nothing to make arrays with.
it.skipIf(spawnSync('python3', ['-c', 'import numpy']).status !== 0)(
  'gives the model as arrays of numpy',
  () => {
    const document = patternEnvironment(PATTERNS[0], '')
    const compiled = compileEnvironment(document)
    const printed = runPython(`${writePython('Oil', document.rulebook, compiled)}
m = model()
totals = np.bincount(m["outcome_row"], weights=m["outcome_probability"]) if (np := __import__("numpy")) else None
print(len(m["states"]), len(m["row_action"]), len(m["outcome_state"]), abs(totals - 1).max() < 1e-12, m["row_state"].max())
`)
    const { states, rows, outcomes } = compiled.model
    expect(printed.trim()).toBe(`${states} ${rows} ${outcomes} True ${states - 1}`)
  },
)
