import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LearningRuns } from '../core/compare/learning-runs'
import { parseEnvironment } from '../core/environment/document'
import { constant } from '../core/learn/schedule'
import { choiceIn, firstChoice } from '../core/settings/first-choice'
import { playChunk } from '../hosts/node/play-chunk'
import { runCommandLine } from './main'

const BEAM_FILE = 'demo/alarm-beam.json'
const BEAM = parseEnvironment(readFileSync(BEAM_FILE, 'utf8'))
const ASK = { measures: [], trials: 0 }

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'pawn-compare-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

/** Everything in this thread. */
async function pawn(args: readonly string[], isWatched = false) {
  let out = ''
  let err = ''
  const code = await runCommandLine(args, {
    out: (text) => (out += text),
    err: (text) => (err += text),
    isWatched,
    runner: () => ({
      slots: 2,
      run: async (chunk) => playChunk(structuredClone(chunk)),
      close: async () => {},
    }),
  })
  return { code, out, err, json: () => JSON.parse(out) }
}

function written(comparison: object): string {
  const path = join(folder, 'comparison.json')
  writeFileSync(
    path,
    JSON.stringify({ format: 'jaunty-pawn/comparison', version: 1, name: 'Two', ...comparison }),
  )
  return path
}

const TWO = {
  runs: 4,
  contestants: [
    { choice: { method: 'sarsa', episodes: 50 } },
    { choice: { episodes: 50 }, follows: { kind: 'random' } },
    { choice: { episodes: 50 }, follows: { kind: 'optimum' } },
  ],
}

describe('pawn compare', () => {
  it('plays the runs that the page plays, and says which is best', async () => {
    const { code, json } = await pawn(['compare', written({ ...TWO, environment: BEAM }), '--json'])
    expect(code).toBe(0)
    const result = json()
    const alone = new LearningRuns({
      document: BEAM,
      choice: choiceIn(BEAM, TWO.contestants[0].choice as never),
      ask: ASK,
    })
    const scores = [0, 1, 2, 3].map((run) => alone.play(run).mean)
    expect(result.contestants[0].scores.mean.mean).toBeCloseTo(scores.reduce((a, b) => a + b) / 4, 12)
    expect(result).toMatchObject({ best: 'optimal policy', runs: 4, score: 'mean' })
    expect(
      result.differences.map(({ from, better }: { from: string; better: number }) => [from, better]),
    ).toEqual([
      ['SARSA', 4],
      ['random agent', 4],
    ])
    expect(result.contestants[2].scores.exact.mean).toBeCloseTo(result.contestants[2].optimum, 9)
  })

  it('takes its environment from a file, writes CSV, and is plain for people', async () => {
    const [runs, curves] = ['runs.csv', 'curves.csv'].map((name) => join(folder, name))
    const { code, out } = await pawn([
      'compare',
      written(TWO),
      ...['--environment', BEAM_FILE, '--runs', '2', '--score', 'success', '--trials', '5'],
      ...['--out', runs, '--curves', curves],
    ])
    expect(code).toBe(0)
    expect(out).toContain('2 runs each, by the success without learning:')
    expect(out).toContain('  optimal policy: 1.00 ± 0.00')
    const lines = readFileSync(runs, 'utf8').trimEnd().split('\r\n')
    expect(lines[0]).toMatch(/^contestant,run,environment,program,steps,outcome,mean,.*success/)
    expect(lines).toHaveLength(1 + 3 * 2)
    expect(readFileSync(curves, 'utf8').trimEnd().split('\r\n')).toHaveLength(1 + 3 * 2 * 50)
  })

  it('has a progress bar where somebody looks, and no word else', async () => {
    const file = written({ ...TWO, environment: BEAM })
    expect((await pawn(['compare', file])).err).toBe('')
    expect((await pawn(['compare', file], true)).err).toMatch(/^\r {80}\r$/)
  })

  it.each<[object, readonly string[], number, string]>([
    [TWO, [], 1, 'no environment'],
    [{ contestants: [] }, ['--environment', BEAM_FILE], 1, 'none that is shown'],
    [TWO, ['--environment', BEAM_FILE, '--score', 'luck'], 2, 'There is no score "luck"'],
    [TWO, ['--environment', BEAM_FILE, '--runs', '0'], 2, '--runs'],
    [
      { contestants: [{ follows: { kind: 'action', action: 'fly' } }] },
      ['--environment', BEAM_FILE],
      1,
      'contestant always fly: The environment has no action "fly"',
    ],
    [TWO, ['--environment', BEAM_FILE, '--out', '/nowhere/at/all.csv'], 1, 'cannot be written'],
  ])('says what is wrong: %j %j', async (comparison, args, status, cause) => {
    const { code, err } = await pawn(['compare', written({ runs: 2, ...comparison }), ...args])
    expect(code).toBe(status)
    expect(err).toContain(cause)
  })
})

describe('pawn sweep', () => {
  const args = ['sweep', BEAM_FILE, '--episodes', '40', '--runs', '3']

  it('is the same settings run alone, cell by cell, with the best and what is not told from it', async () => {
    const { code, json } = await pawn([
      ...args,
      ...['--method', 'sarsa', '--vary', 'learning-rate=0.1..0.4*2', '--vary', 'veer=0,0.2'],
      ...['--score', 'last-100', '--json'],
    ])
    expect(code).toBe(0)
    const { cells, best, notToldFromBest, score } = json()
    expect(cells.map(({ values }: { values: object }) => values)).toEqual(
      [0.1, 0.2, 0.4].flatMap((rate) => [0, 0.2].map((veer) => ({ 'learning rate': rate, veer }))),
    )
    const choice = {
      ...firstChoice(BEAM),
      method: 'sarsa',
      episodes: 40,
      learningRate: constant(0.2),
    } as const
    const alone = new LearningRuns({ document: BEAM, choice, ask: ASK })
    const mean = (alone.play(0).last + alone.play(1).last + alone.play(2).last) / 3
    expect(cells[2]).toMatchObject({ values: { 'learning rate': 0.2, veer: 0 }, runs: 3 })
    expect(cells[2].mean).toBeCloseTo(mean, 12)
    expect(cells.map((cell: { mean: number }) => cell.mean)).toContain(
      cells.find(({ values }: { values: object }) => JSON.stringify(values) === JSON.stringify(best)).mean,
    )
    expect(notToldFromBest).not.toContainEqual(best)
    expect(score).toBe('last-100')
  })

  it('writes its runs with the values in columns of their own', async () => {
    const file = join(folder, 'sweep.csv')
    const { out } = await pawn([...args, '--vary', 'exploration=0,0.1', '--out', file])
    expect(out).toMatch(/The best is exploration 0\.?1?\./)
    expect(readFileSync(file, 'utf8').split('\r\n')[1]).toMatch(/^agent,0,0,/)
  })

  it.each<[readonly string[], number, string]>([
    [['--vary', 'learning-rate'], 2, 'Write --vary'],
    [['--vary', 'learning-rate=x'], 1, 'not a number'],
    [['--vary', 'nothing=1'], 1, 'no such setting'],
    [['--vary', 'lambda=0.5'], 1, 'no such setting'],
    [['--vary', 'learning-rate=1', '--vary', 'exploration=0', '--vary', 'veer=0'], 2, 'One or two'],
    [[], 2, 'vary'],
  ])('says what is wrong: %j', async (more, status, cause) => {
    const { code, err } = await pawn([...args, ...more])
    expect(code).toBe(status)
    expect(err).toContain(cause)
  })
})
