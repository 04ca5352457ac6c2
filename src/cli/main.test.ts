import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LEARN_METHOD_IDS } from '../core/learn/methods/methods'
import { PLAN_METHOD_IDS, planMethod } from '../core/plan/plan-methods'
import { playTrials } from '../core/evaluate/rollout'
import { World } from '../core/learn/world'
import { randomPolicy } from '../core/plan/evaluate'
import { gridDocument } from '../core/testing/models'
import { openEnvironment } from './files'
import { runCommandLine } from './main'

let folder: string
const LIST =
  'state,action,next_state,probability,reward\na,go,b,0.5,1\na,go,end,0.5,0\nb,go,a,1,2\nb,stop,end,1,1\n'

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'pawn-'))
  file('list.csv', LIST)
  file(
    'grid.json',
    JSON.stringify(
      gridDocument(['....', '.#..', '....'], {
        starts: [{ at: 'A3', weight: 1 }],
        endings: [{ at: 'D1', reward: 10, name: '' }],
      }),
    ),
  )
})
afterAll(() => rmSync(folder, { recursive: true }))

function file(name: string, contents: string | Uint8Array): string {
  const path = join(folder, name)
  writeFileSync(path, contents)
  return path
}

async function pawn(...args: string[]) {
  let out = ''
  let err = ''
  const code = await runCommandLine(args, { out: (text) => (out += text), err: (text) => (err += text) })
  return { code, out, err, json: () => JSON.parse(out) }
}

describe('plan', () => {
  it('gives the answer worked out by hand', async () => {
    // v(b) = 2 + 0.9 v(a), v(a) = 0.5 (1 + 0.9 v(b)): v(a) = 1.4 / 0.595.
    const { code, json } = await pawn('plan', join(folder, 'list.csv'), '--discount', '0.9', '--json')
    expect(code).toBe(0)
    const result = json()
    expect(Object.keys(result)).toEqual([
      'method',
      'sweeps',
      'converged',
      'states',
      'values',
      'policy',
      'startValue',
      'seconds',
    ])
    expect(result).toMatchObject({ method: 'value-iteration', converged: true, policy: { a: 'go', b: 'go' } })
    expect(result.values.a).toBeCloseTo(1.4 / 0.595, 9)
    expect(result.values.b).toBeCloseTo(2 + (0.9 * 1.4) / 0.595, 9)
    expect(result.values.end).toBe(0)
    expect(result.startValue).toBe(result.values.a)
  })

  it('plans a horizon and starts where it is told', async () => {
    const { json } = await pawn(
      'plan',
      join(folder, 'list.csv'),
      '--discount',
      '1',
      '--horizon',
      '2',
      '--start',
      'b',
      '--json',
    )
    // Two steps from b: 2 + best of one step at a (0.5).
    expect(json()).toMatchObject({ method: 'backward-induction', startValue: 2.5, policy: { b: 'go' } })
  })

  it('wants a horizon for backward induction, and for nothing else', async () => {
    const list = join(folder, 'list.csv')
    const without = await pawn('plan', list, '--method', 'backward-induction')
    expect([without.code, without.err]).toEqual([1, expect.stringContaining('needs to know how many steps')])
    const twice = await pawn('plan', list, '--method', 'value-iteration', '--horizon', '3')
    expect([twice.code, twice.err]).toEqual([1, expect.stringContaining('Value iteration knows no horizon')])
  })

  it('takes the settings of a method, in their range, and says which one has no use for them', async () => {
    const list = join(folder, 'list.csv')
    const planned = async (...words: string[]) =>
      (await pawn('plan', list, '--discount', '0.9', ...words)).err
    const value = async (...words: string[]) =>
      (await pawn('plan', list, '--discount', '0.9', '--json', ...words)).json().startValue
    const usual = await value()
    for (const words of [
      ['--method', 'policy-iteration', '--evaluation', 'solve'],
      ['--method', 'modified-policy-iteration', '--evaluations', '3'],
      ['--method', 'value-iteration-in-place', '--order', 'backward'],
    ])
      expect(await value(...words)).toBeCloseTo(usual, 8)
    expect(await planned('--method', 'value-iteration', '--order', 'backward')).toContain(
      '--order: Value iteration has no use for it',
    )
    expect(await planned('--tolerance', '0')).toContain('--tolerance: "0" does not fit')
    expect(await planned('--method', 'modified-policy-iteration', '--evaluations', '1.5')).toContain(
      '--evaluations: "1.5" does not fit',
    )
  })

  it('comes to the same values and policy by every method that finds the best', async () => {
    const grid = join(folder, 'grid.json')
    const usual = (await pawn('plan', grid, '--json')).json()
    for (const method of PLAN_METHOD_IDS.filter(
      (id) => planMethod(id).purpose === 'control' && !planMethod(id).staged,
    )) {
      const planned = (await pawn('plan', grid, '--method', method, '--json')).json()
      expect(planned).toMatchObject({ method, converged: true, policy: usual.policy })
      for (const [state, value] of Object.entries(usual.values))
        expect(planned.values[state]).toBeCloseTo(value as number, 8)
    }
  })

  it('plans a grid document with its own discount', async () => {
    const { json } = await pawn('plan', join(folder, 'grid.json'), '--json')
    // Five steps to D1 at discount 0.9: four times -1, then -1 + 10.
    const expected = -1 - 0.9 - 0.81 - 0.729 + 0.6561 * 9
    expect(json().startValue).toBeCloseTo(expected, 9)
  })

  it('reports reward without end at discount 1', async () => {
    const path = file(
      'loop.csv',
      'state,action,next_state,probability,reward\na,stay,a,1,1\na,leave,end,1,0\n',
    )
    const { code, err } = await pawn('plan', path, '--discount', '1')
    expect(code).toBe(1)
    expect(err).toMatch(/among a reward can be collected for ever/)
    const lost = file('lost.csv', 'state,action,next_state,probability,reward\na,go,a,1,-1\n')
    const second = await pawn('plan', lost, '--discount', '1')
    expect(second.code).toBe(1)
    expect(second.err).toMatch(/no action leads from a to an ending/)
  })

  it('never prints a gain without end, or what has not converged, as a result', async () => {
    const path = file(
      'gain.csv',
      'state,action,next_state,probability,reward\ns,go,t,1,2\nt,go,s,1,-1\nt,out,end,1,0\n',
    )
    for (const method of ['value-iteration', 'policy-iteration', 'modified-policy-iteration-in-place']) {
      const { code, out, err } = await pawn('plan', path, '--discount', '1', '--method', method)
      expect({ code, out }).toEqual({ code: 1, out: '' })
      expect(err).toMatch(/among s, t reward can be collected for ever/)
      // Not after a thousand lines of progress.
      expect(err.split('\n').length).toBeLessThan(4)
    }
  })

  it('gives one of the best actions that comes to an ending, and names states in their order', async () => {
    const path = file(
      'idle.csv',
      'state,action,next_state,probability,reward\n10,wait,10,1,0\n10,go,9,1,0\n9,go,end,1,4\n',
    )
    const { json } = await pawn('plan', path, '--discount', '1', '--json')
    expect(json().policy).toEqual({ 10: 'go', 9: 'go' })
    expect(json().states).toEqual(['10', '9', 'end'])
  })

  it('evaluates a policy by a method of planning', async () => {
    const list = join(folder, 'list.csv')
    const policy = file('stopping.json', '{"a":"go","b":"stop"}')
    for (const method of ['policy-evaluation', 'policy-evaluation-in-place', 'linear-solve']) {
      const args = ['--method', method, '--policy', policy, '--discount', '0.9', '--json']
      expect((await pawn('plan', list, ...args)).json().startValue).toBeCloseTo(0.95, 9)
    }
    const { code, err } = await pawn('plan', list, '--policy', policy)
    expect([code, err]).toEqual([1, expect.stringContaining('Value iteration takes no policy')])
  })

  it('says when the cap is shorter than the shortest way, and when nothing ends', async () => {
    const corridor = gridDocument(['.....'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'E1', reward: 1, name: '' }],
    })
    const short = file('short.json', JSON.stringify({ ...corridor, cap: 3 }))
    const note = /step limit of 3 is shorter than the shortest way to an ending, 4 steps/
    expect((await pawn('plan', short)).err).toMatch(note)
    expect((await pawn('learn', short, '--method', 'sarsa', '--episodes', '5')).err).toMatch(note)
    const walled = file(
      'walled.json',
      JSON.stringify({ ...corridor, grid: { ...corridor.grid, floor: ['..#..'] } }),
    )
    expect((await pawn('plan', walled)).err).toMatch(/No ending can be reached from the start/)
  })
})

describe('evaluate', () => {
  it('is exact for named policies and for a file', async () => {
    const list = join(folder, 'list.csv')
    // Random at b: half (2 + 0.9 v(a)) and half 1; v(a) = 0.5 + 0.45 v(b).
    const random = (await pawn('evaluate', list, '--policy', 'random', '--discount', '0.9', '--json')).json()
    expect(random.startValue).toBeCloseTo((0.5 + 0.45 * 1.5) / (1 - 0.45 * 0.45), 12)
    expect(Object.keys(random)).toEqual(['states', 'values', 'startValue'])
    const policy = file('policy.json', '{"a":"go","b":"stop"}')
    const held = (await pawn('evaluate', list, '--policy', policy, '--discount', '0.9', '--json')).json()
    expect(held.startValue).toBeCloseTo(0.95, 12)
    const planned = file('plan.json', (await pawn('plan', list, '--json')).out)
    const again = (await pawn('evaluate', list, '--policy', planned, '--json')).json()
    expect(again.startValue).toBeCloseTo((await pawn('plan', list, '--json')).json().startValue, 9)
  })

  it('plays the episodes that trials play', async () => {
    const grid = join(folder, 'grid.json')
    const { document, model } = openEnvironment(grid)
    const trials = playTrials(new World(model), randomPolicy(model), {
      episodes: 50,
      seed: 9,
      cap: 200,
      discount: document.discount,
    })
    const args = ['--policy', 'random', '--episodes', '50', '--seed', '9', '--json']
    expect((await pawn('evaluate', grid, ...args)).json()).toMatchObject({
      startValue: trials.mean,
      standardError: trials.standardError,
      steps: trials.steps,
    })
  })

  it('takes the start alone for finite, and names the states that are not', async () => {
    const path = file(
      'apart.csv',
      'state,action,next_state,probability,reward\na,go,end,1,3\na,stray,b,1,0\nb,wait,b,1,-1\nb,out,end,1,0\n',
    )
    const policy = file('apart.json', '{"a":"go","b":"wait"}')
    const { code, json } = await pawn('evaluate', path, '--policy', policy, '--discount', '1', '--json')
    expect(code).toBe(0)
    expect(json()).toEqual({
      states: ['a', 'b', 'end'],
      values: { a: 3, end: 0 },
      startValue: 3,
      endless: ['b'],
    })
    const from = ['--policy', policy, '--discount', '1', '--start', 'b']
    expect((await pawn('evaluate', path, ...from)).err).toMatch(/may never end, from b/)
  })

  it('says what the cap cut off beside a sampled value, and knows no error of a single episode', async () => {
    const path = file('on.csv', 'state,action,next_state,probability,reward\na,on,a,1,1\n')
    const args = ['--policy', 'first', '--discount', '0.9999', '--cap', '200', '--json']
    const many = (await pawn('evaluate', path, ...args, '--episodes', '20')).json()
    expect(many).toMatchObject({ cutOff: 20, values: {}, note: expect.stringContaining('cut off after 200') })
    const one = (await pawn('evaluate', path, ...args, '--episodes', '1')).json()
    expect(one.standardError).toBeNull()
  })

  it('samples near the exact value, the same with the same seed', async () => {
    const args = [
      'evaluate',
      join(folder, 'list.csv'),
      '--policy',
      'random',
      '--discount',
      '0.9',
      '--episodes',
      '20000',
      '--json',
    ]
    const first = await pawn(...args, '--seed', '5')
    expect((await pawn(...args, '--seed', '5')).out).toBe(first.out)
    expect((await pawn(...args, '--seed', '6')).out).not.toBe(first.out)
    const { startValue, standardError } = first.json()
    expect(Math.abs(startValue - 1.175 / 0.7975)).toBeLessThan(4 * standardError)
  })
})

describe('learn', () => {
  it.each(['q-learning', 'sarsa', 'reinforce'])(
    '%s answers in the agreed form, and repeats itself',
    async (method) => {
      const args = [
        'learn',
        join(folder, 'grid.json'),
        '--method',
        method,
        '--episodes',
        '300',
        '--runs',
        '3',
        '--seed',
        '2',
        '--json',
      ]
      const result = (await pawn(...args)).json()
      expect(Object.keys(result)).toEqual([
        'method',
        'runs',
        'returns',
        'states',
        'policy',
        'values',
        'exactValueOfPolicy',
        'episodes',
        'cutOff',
        'steps',
        'stepsPerSecond',
        'seconds',
      ])
      expect(result.returns.episode).toEqual(Array.from({ length: 300 }, (_, i) => i + 1))
      for (const key of ['mean', 'lower', 'upper']) expect(result.returns[key]).toHaveLength(300)
      expect(result.exactValueOfPolicy).toBeLessThan(2.4659 + 1e-9)
      const again = (await pawn(...args)).json()
      expect(again.returns).toEqual(result.returns)
      expect(again.values).toEqual(result.values)
    },
  )

  it.each(LEARN_METHOD_IDS)('%s runs, with settings from a file', async (method) => {
    const settings = file(
      'settings.json',
      JSON.stringify({
        episodes: 40,
        exploration: {
          way: 'softmax',
          level: { kind: 'exponential', from: 5, to: 1, over: 30, per: 'episode' },
        },
      }),
    )
    const args = ['--method', method, '--settings', settings, '--lambda', '0.5', '--lookahead', '2', '--json']
    const { code, json } = await pawn('learn', join(folder, 'grid.json'), ...args)
    expect(code).toBe(0)
    expect(json().returns.mean).toHaveLength(40)
    for (const value of Object.values(json().values)) expect(Number.isFinite(value)).toBe(true)
  })

  it('prediction follows the policy that is named, and comes near what it is worth', async () => {
    const grid = join(folder, 'grid.json')
    const exact = (await pawn('evaluate', grid, '--policy', 'random', '--json')).json()
    const args = ['--method', 'monte-carlo-prediction', '--policy', 'random', '--episodes', '4000', '--json']
    const learned = (await pawn('learn', grid, ...args)).json()
    expect(learned.exactValueOfPolicy).toBeCloseTo(exact.startValue, 9)
    const start = Object.keys(exact.values)[0]
    expect(Math.abs(learned.values[start] - exact.values[start])).toBeLessThan(0.5)
  })

  it('many runs that a stop rule ends are compared as far as all of them came', async () => {
    const settings = file('stop.json', '{"stop": {"kind": "steps", "count": 3000}}')
    const args = ['--method', 'q-learning', '--runs', '40', '--settings', settings, '--json']
    const { code, json } = await pawn('learn', join(folder, 'grid.json'), ...args)
    expect(code).toBe(0)
    const { returns, steps } = json()
    expect(steps).toBe(120_000)
    expect(returns.mean.length).toBeGreaterThan(50)
    expect(returns.mean.length).toBeLessThan(2000)
    expect(returns.upper).toHaveLength(returns.mean.length)
  })

  it('a table that runs away ends with 1 and says so', async () => {
    const settings = file(
      'wild.json',
      '{"lambda": 1, "traces": "accumulating", "learningRate": {"kind": "constant", "from": 1}, "exploration": {"way": "epsilon-greedy", "level": {"kind": "constant", "from": 1}}, "discount": 1}',
    )
    const args = ['--method', 'sarsa-lambda', '--settings', settings, '--cap', '1000']
    const { code, err } = await pawn('learn', join(folder, 'grid.json'), ...args)
    expect(code).toBe(1)
    expect(err).toMatch(/diverged in step .*smaller learning rate/)
  })

  it('begins from a learned table, at the run that is named', async () => {
    const grid = join(folder, 'grid.json')
    const planned = (await pawn('plan', grid, '--json')).json()
    const table = file(
      'table.csv',
      'state,action,value\n' +
        Object.entries(planned.policy)
          .map(([state, action]) => `${state},${action as string},50`)
          .join('\n'),
    )
    const args = ['learn', grid, '--method', 'q-learning', '--episodes', '1', '--json']
    const begun = (await pawn(...args, '--from', table, '--exploration', '0')).json()
    expect(begun.returns.mean[0]).toBeCloseTo(planned.startValue, 9)
    const [third] = await Promise.all([pawn(...args, '--run', '3')])
    const settings = file('run.json', '{"run": 3}')
    expect((await pawn(...args, '--settings', settings)).json().returns).toEqual(third.json().returns)
    expect((await pawn(...args)).json().returns).not.toEqual(third.json().returns)
    expect((await pawn(...args, '--from', 'none.json')).err).toMatch(/cannot be opened/)
  })

  it('takes as many episodes by a file as by an option, says how traces are, and counts what was cut off', async () => {
    const grid = join(folder, 'grid.json')
    const settings = file('many.json', '{"episodes": 2000000, "stop": {"kind": "steps", "count": 50}}')
    const { code, json } = await pawn('learn', grid, '--method', 'sarsa', '--settings', settings, '--json')
    expect([code, json().steps]).toEqual([0, 50])
    const run = async (traces: string) =>
      (
        await pawn(
          ...['learn', grid, '--method', 'sarsa-lambda', '--traces', traces],
          ...['--episodes', '50', '--cap', '9', '--json'],
        )
      ).json()
    const [replacing, accumulating] = [await run('replacing'), await run('accumulating')]
    expect(replacing.values).not.toEqual(accumulating.values)
    expect(replacing.episodes).toBe(50)
    expect(replacing.cutOff).toBeGreaterThan(0)
  })

  it('says what the cap is where nobody names one', async () => {
    const { out } = await pawn('learn', '--help')
    expect(out.replace(/\s+/g, ' ')).toContain('default: what the file says, 200 where it says nothing')
    const list = file('slow.csv', 'state,action,next_state,probability,reward\na,on,a,1,1\na,out,end,1,0\n')
    const args = ['--method', 'sarsa', '--episodes', '3', '--exploration', '0', '--json']
    // Waiting pays, so that it is what a greedy agent does until it is cut off.
    const { steps, cutOff } = (await pawn('learn', list, ...args)).json()
    expect(steps).toBeLessThanOrEqual(600)
    expect(steps).toBeGreaterThan(200)
    expect(cutOff).toBeGreaterThan(0)
  })

  it('explores as it is told, with the number of that way', async () => {
    const poster = 'demo/which-poster.json'
    const args = ['--method', 'bandit-values', '--episodes', '300', '--json']
    const choice = file(
      'ucb.json',
      '{"exploration": {"way": "ucb1", "level": {"kind": "constant", "from": 0.5}}, "learningRate": {"kind": "constant", "from": 0.1}}',
    )
    const bySettings = (await pawn('learn', poster, ...args, '--settings', choice)).json()
    const byFlags = [...args, '--explore', 'ucb1', '--exploration', '0.5', '--learning-rate', '0.1']
    const byFlag = (await pawn('learn', poster, ...byFlags)).json()
    expect(byFlag.values).toEqual(bySettings.values)
    expect(byFlag.returns).toEqual(bySettings.returns)
    // Without a number, that of the way.
    expect((await pawn('learn', poster, ...args, '--explore', 'posterior-bernoulli')).code).toBe(0)
    const range = await pawn('learn', poster, ...args, '--explore', 'softmax', '--exploration', '0')
    expect([range.code, range.err]).toEqual([2, expect.stringMatching(/--exploration: "0" does not fit/)])
    const sarsa = await pawn('learn', poster, '--method', 'sarsa', '--explore', 'ucb1-tuned')
    expect([sarsa.code, sarsa.err]).toEqual([2, expect.stringContaining('goes by rewards alone')])
    const reinforce = await pawn('learn', poster, '--method', 'reinforce', '--explore', 'ucb1')
    expect([reinforce.code, reinforce.err]).toEqual([2, expect.stringContaining('has no use for it')])
  })

  it('wrong settings end with 1 and the place', async () => {
    const grid = join(folder, 'grid.json')
    const wrong = file('wrong-settings.json', '{"lambda": 3}')
    const { code, err } = await pawn('learn', grid, '--method', 'sarsa', '--settings', wrong)
    expect(code).toBe(1)
    expect(err).toMatch(/wrong-settings.json, lambda: .*less than or equal to 1/)
  })

  it('reaches the optimum of a small grid', async () => {
    const args = [
      'learn',
      join(folder, 'grid.json'),
      '--method',
      'q-learning',
      '--episodes',
      '2000',
      '--json',
    ]
    const { json } = await pawn(...args)
    expect(json().exactValueOfPolicy).toBeCloseTo(-1 - 0.9 - 0.81 - 0.729 + 0.6561 * 9, 9)
  })
})

describe('what is wrong', () => {
  it.each([
    ['broken.json', '{"format": "jaunty-pawn/environment", ', /broken.json, .*not valid JSON/],
    [
      'sum.csv',
      'state,action,next_state,probability,reward\na,go,b,0.9,0\n',
      /sum.csv, state "a", action "go".*sum to 0.9/,
    ],
    [
      'nan.csv',
      'state,action,next_state,probability,reward\na,go,b,1,NaN\n',
      /nan.csv, line 2, column reward/,
    ],
    ['ragged.csv', 'state,action,next_state,probability,reward\na,go,b\n', /ragged.csv, line 2/],
    ['missing.csv', 'state,action,next_state,probability\na,go,b,1\n', /column "reward" is missing/],
    ['empty.csv', '', /empty.csv, file: It is empty/],
    ['long.csv', 'x'.repeat(50_000_000), /long.csv, line 1: It is 50000000 characters long/],
    ['binary.csv', new Uint8Array(5000).map((_, i) => (i * 37) % 256), /binary.csv, byte \d+/],
  ])('%s ends with 1 and the place', async (name, contents, message) => {
    const { code, out, err } = await pawn('plan', file(name, contents), '--json')
    expect({ code, out }).toEqual({ code: 1, out: '' })
    expect(err).toMatch(message)
  })

  it('wrong usage ends with 2', async () => {
    const list = join(folder, 'list.csv')
    for (const args of [
      [],
      ['sing', list],
      ['plan'],
      ['plan', list, '--discount', 'much'],
      ['plan', list, '--horizon', '0'],
      ['learn', list],
      ['learn', list, '--method', 'guessing'],
      ['learn', list, '--method', 'sarsa', '--learning-rate', '0'],
      ['evaluate', list],
    ])
      expect((await pawn(...args)).code).toBe(2)
  })

  it('a file that is not there, a folder, an unknown start, a wrong policy end with 1', async () => {
    const list = join(folder, 'list.csv')
    for (const [args, message] of [
      [['plan', join(folder, 'nothing.csv')], /nothing.csv, file: It cannot be opened/],
      [['plan', folder], /It is a folder/],
      [['plan', list, '--start', 'z'], /There is no state "z"/],
      [['plan', list, '--start', 'end'], /"end" is an ending/],
      [['evaluate', list, '--policy', list], /not valid JSON/],
      [['evaluate', list, '--policy', 'missing.json'], /missing.json, .*cannot be opened/],
    ] as const) {
      const { code, err } = await pawn(...args)
      expect(code).toBe(1)
      expect(err).toMatch(message)
    }
  })
})

it('exports a model that plans to the same values', async () => {
  const exported = file('exported.csv', (await pawn('export', join(folder, 'grid.json'), '--to', 'csv')).out)
  const options = ['--discount', '0.9', '--start', 'A3', '--json']
  const direct = (await pawn('plan', join(folder, 'grid.json'), ...options)).json()
  expect((await pawn('plan', exported, ...options)).json().values).toEqual(direct.values)
})

it('prints the schema that is published', async () => {
  const { code, out } = await pawn('schema', 'lesson')
  expect(code).toBe(0)
  expect(out).toBe(readFileSync('docs/schemas/lesson.json', 'utf8'))
  expect((await pawn('schema', 'poem')).code).toBe(2)
})

it('prints its version', async () => {
  expect(await pawn('--version')).toMatchObject({ code: 0, out: expect.stringMatching(/^\d+\.\d+\.\d+\n$/) })
})

it('tells people what it found when no JSON is asked for', async () => {
  const { out } = await pawn('plan', join(folder, 'grid.json'))
  expect(out).toMatch(/method: value-iteration\n/)
  expect(out).toMatch(/A3 {2}east|A3 {2}north/)
})

describe('rulebooks', () => {
  const TEXT = `knob shelf = 3 from 1 to 5
state left from 0 to shelf
start left = 1
action order from 0 to 2 when left + order <= shelf
chance sold ~ coin(0.5)
let out = if sold and left > 0 then 1 else 0
reward 5 * out - order
next left = left - out + order
check "never full": next left < shelf
policy "fill it up": order shelf - left
`
  const path = () => file('shop.rules', TEXT)

  it('are planned, with knobs turned', async () => {
    const small = (await pawn('plan', path(), '--knob', 'shelf=1', '--discount', '0.9', '--json')).json()
    // With one place: sell it with 1/2 or wait; when empty, order at once. Solved by hand:
    // v1 = 2.5 + 0.9 (v0 / 2 + v1 / 2), v0 = -1 + 0.9 v1.
    const v1 = (2.5 - 0.45) / (1 - 0.45 - 0.405)
    expect(small.values['left 1']).toBeCloseTo(v1, 8)
    expect(small.values['left 0']).toBeCloseTo(-1 + 0.9 * v1, 8)
    const large = (await pawn('plan', path(), '--discount', '0.9', '--json')).json()
    expect(large.startValue).toBeGreaterThan(small.startValue)
  })

  it('evaluate their own policies by name', async () => {
    const { code, json } = await pawn(
      'evaluate',
      path(),
      '--policy',
      'fill it up',
      '--knob',
      'shelf=1',
      '--discount',
      '0.9',
      '--json',
    )
    expect(code).toBe(0)
    expect(json().startValue).toBeCloseTo((2.5 - 0.45) / (1 - 0.45 - 0.405), 8)
  })

  it('are checked: breaches with the shortest way, exit code 1', async () => {
    const { code, json } = await pawn('check', path(), '--json')
    expect(code).toBe(1)
    const { findings, states, rows, proved } = json()
    expect([states, rows]).toEqual([4, 9])
    expect(findings[0]).toEqual({
      severity: 'error',
      rule: 'check',
      message:
        'The check "never full" is broken with sold = no. Change the rules, or what the check asks for.',
      where: 'left 1, action order 2',
      path: [{ state: 'left 1', action: 'order 2', chances: 'sold = no' }],
      proof: { kind: 'proved', states: 4 },
    })
    expect(findings.filter(({ severity }: { severity: string }) => severity === 'error')).toHaveLength(1)
    expect(proved).toContainEqual({ rule: 'bounds', sentence: 'No variable leaves its range.' })
    const { out } = await pawn('check', path())
    expect(out).toContain(
      'left 1, action order 2: error, check: The check "never full" is broken with sold = no. Change the rules, or what the check asks for.\n  1. left 1: order 2 (sold = no)\n',
    )
    expect(out).toMatch(/\n4 states, 9 pairs of a state and an action\n$/)
  })

  it('are checked into a report, with the stories as tables', async () => {
    const report = join(folder, 'report.md')
    expect((await pawn('check', path(), '--report', report)).code).toBe(1)
    const text = readFileSync(report, 'utf8')
    expect(text).toContain('## Errors\n\n### left 1, action order 2: check\n')
    expect(text).toContain('| 1 | left 1 | order 2 | sold = no |')
    expect(text).toContain('## What holds\n\n- No variable leaves its range.\n')
    expect(text).toContain('Proved over all 4 states')
    expect((await pawn('check', file('good.rules', TEXT.replace('< shelf', '<= shelf')))).code).toBe(0)
  })

  it('that are wrong are findings of check, and errors of everything else, with line and column', async () => {
    const bad = file('bad.rules', TEXT.replace('coin', 'coyn'))
    const { code, json } = await pawn('check', bad, '--json')
    expect([code, json().findings[0].where]).toEqual([1, 'bad.rules, line 5, column 15'])
    const planned = await pawn('plan', bad)
    expect(planned.code).toBe(1)
    expect(planned.err).toContain('bad.rules, line 5, column 15: There is no distribution “coyn”.')
  })

  it.each([
    [['--knob', 'shelf'], '--knob: It is "shelf".'],
    [['--knob', 'shelf=many'], '--knob: It is "shelf=many".'],
    [['--knob', 'shelv=2'], 'knob shelv: There is no knob "shelv". The knobs are shelf.'],
    [['--knob', 'shelf=9'], 'The knob is set to 9; its range is 1 to 5.'],
  ])('%j is refused', async (words, cause) => {
    const { code, err } = await pawn('plan', path(), ...words)
    expect(code).toBe(1)
    expect(err).toContain(cause)
  })

  it('are planned by every method to the same values', async () => {
    const plan = async (method: string) =>
      (await pawn('plan', path(), '--method', method, '--discount', '0.9', '--json')).json()
    const best = await plan('value-iteration')
    for (const method of ['value-iteration-in-place', 'policy-iteration', 'modified-policy-iteration']) {
      const found = await plan(method)
      expect(found).toMatchObject({ method, converged: true, policy: best.policy })
      for (const [state, value] of Object.entries(best.values))
        expect(found.values[state]).toBeCloseTo(value as number, 7)
    }
    expect((await plan('policy-evaluation')).startValue).toBeLessThan(best.startValue)
  })

  it('grids have no knobs', async () => {
    const { code, err } = await pawn('plan', join(folder, 'grid.json'), '--knob', 'a=1')
    expect([code, err.includes('This grid has no knobs.')]).toEqual([1, true])
  })
})
