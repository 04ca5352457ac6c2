import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import alarmBeam from '../../../demo/alarm-beam.json' with { type: 'json' }
import { newComparison, type Comparison } from '../../core/compare/comparison'
import { LearningRuns, type LearningRun } from '../../core/compare/learning-runs'
import { decodeRuns } from '../../core/compare/runs-text'
import { checkEnvironment } from '../../core/environment/document'
import { ProblemError } from '../../core/problem'
import { choiceIn } from '../../core/settings/first-choice'
import { playChunk, type ChunkRequest } from '../../hosts/node/play-chunk'
import type { ChunkRunner } from '../../hosts/node/run-pool'
import type { JobSummary } from '../contract/jobs'
import { openDatabase } from '../db/database'
import type { Database } from '../db/schema'
import { createEnvironment } from '../repositories/environments'
import { readChunks } from '../repositories/jobs'
import { JobEngine } from './engine'

const BEAM = checkEnvironment(alarmBeam)
const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-jobs-'))
let db: Database
let environment: string
beforeAll(async () => {
  db = await openDatabase(join(folder, 'shelf.sqlite'))
  environment = (await createEnvironment(db, BEAM)).id
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const choice = choiceIn(BEAM, { method: 'sarsa', episodes: 30 })
const comparison = (name: string, part: Partial<Comparison> = {}): Comparison => ({
  ...newComparison(name),
  runs: 4,
  contestants: [
    { id: 0, knobs: {}, choice },
    { id: 1, knobs: { veer: 0.1 }, choice: { ...choice, method: 'q-learning' } },
  ],
  ...part,
})

/** Plays in this thread, one after the other; `before` may hold a chunk up, or let it fail. */
class Here implements ChunkRunner {
  readonly asked: ChunkRequest[] = []
  constructor(
    readonly slots: number,
    private readonly before: (chunk: ChunkRequest) => Promise<void> | void = () => {},
  ) {}
  async run(chunk: ChunkRequest): Promise<readonly LearningRun[]> {
    this.asked.push(chunk)
    await this.before(chunk)
    return playChunk(structuredClone(chunk))
  }
  async close() {}
}

const jobOf = async (engine: JobEngine, id: string): Promise<JobSummary> =>
  (await engine.list()).find((job) => job.id === id)!

async function over(engine: JobEngine, id: string): Promise<JobSummary> {
  for (;;) {
    const job = await jobOf(engine, id)
    if (job.state !== 'active') return job
    await new Promise((resolve) => setTimeout(resolve, 2))
  }
}

/** What came of a job: its runs by what they are of, in order. */
async function resultsOf(id: string): Promise<Map<string, LearningRun[]>> {
  const results = new Map<string, LearningRun[]>()
  for (const { key, runs } of await readChunks(db, id, 0, 1000))
    results.set(
      key,
      [...(results.get(key) ?? []), ...decodeRuns(runs)].sort((x, y) => x.run - y.run),
    )
  return results
}

describe('a job', () => {
  it('comes to the runs that the page plays, to the bit', async () => {
    const engine = new JobEngine(db, new Here(3), 'p')
    const id = await engine.submit(environment, comparison('both'), BEAM)
    expect(await over(engine, id)).toMatchObject({ name: 'both', state: 'done', message: null, left: null })
    const results = await resultsOf(id)
    expect(results.size).toBe(2)
    const ask = { measures: [], trials: 0 }
    const alone = new LearningRuns({ document: BEAM, choice, ask })
    expect([...results.values()][0]).toEqual([0, 1, 2, 3].map((run) => alone.play(run)))
  })

  it('goes on with what is missing after the process was killed, and comes to the same', async () => {
    const whole = new JobEngine(db, new Here(1), 'p')
    const reference = await whole.submit(environment, comparison('whole'), BEAM)
    await over(whole, reference)
    // The third chunk and all after it never come back: the process is gone.
    let count = 0
    const killed = new JobEngine(
      db,
      new Here(2, () => (++count > 2 ? new Promise<void>(() => {}) : undefined)),
      'p',
    )
    const id = await killed.submit(environment, comparison('killed'), BEAM)
    while ((await jobOf(killed, id)).done < 2) await new Promise((resolve) => setTimeout(resolve, 2))
    const runner = new Here(2)
    const again = new JobEngine(db, runner, 'p')
    await again.resume()
    const job = await over(again, id)
    expect(job).toMatchObject({ state: 'done', done: job.chunks })
    expect(runner.asked).toHaveLength(job.chunks - 2)
    expect(await resultsOf(id)).toEqual(await resultsOf(reference))
  })

  it('begins again when another program goes on with it', async () => {
    const held = new JobEngine(db, new Here(1, () => new Promise<void>(() => {})), 'old')
    const id = await held.submit(environment, comparison('old'), BEAM)
    const runner = new Here(1)
    const engine = new JobEngine(db, runner, 'new')
    await engine.resume()
    expect(await over(engine, id)).toMatchObject({ state: 'done', program: 'new' })
    expect(runner.asked.length).toBe((await jobOf(engine, id)).chunks)
  })

  it('waits while it is paused, and can be given up', async () => {
    let open: () => void = () => {}
    const runner = new Here(1, () => new Promise<void>((resolve) => (open = resolve)))
    const engine = new JobEngine(db, runner, 'p')
    const id = await engine.submit(environment, comparison('paused'), BEAM)
    expect(await engine.change(id, { state: 'paused' })).toBe(true)
    open()
    await new Promise((resolve) => setTimeout(resolve, 20))
    expect(await jobOf(engine, id)).toMatchObject({ state: 'paused', done: 1, busy: 0 })
    // It is still paused after a restart.
    const again = new JobEngine(db, new Here(1), 'p')
    await again.resume()
    expect(await jobOf(again, id)).toMatchObject({ state: 'paused', done: 1 })
    await again.change(id, { state: 'active' })
    expect(await over(again, id)).toMatchObject({ state: 'done' })
    expect(await again.change(id, { state: 'paused' })).toBe(false)
    const given = await engine.submit(environment, comparison('given up'), BEAM)
    await engine.change(given, { state: 'cancelled' })
    expect(await jobOf(engine, given)).toMatchObject({ state: 'cancelled' })
    await engine.remove(given)
    expect(await jobOf(engine, given)).toBeUndefined()
    open()
    await new Promise((resolve) => setTimeout(resolve, 20))
    expect(await readChunks(db, given, 0, 9)).toEqual([])
  })

  it('goes first when it is more urgent, else when it is older', async () => {
    let open: () => void = () => {}
    let first = true
    const runner = new Here(1, () => {
      if (!first) return
      first = false
      return new Promise<void>((resolve) => (open = resolve))
    })
    const engine = new JobEngine(db, runner, 'p')
    const only = (seed: number) => ({
      contestants: [{ id: 0, knobs: {}, choice: { ...choice, seed } }],
      runs: 2,
    })
    const ids: string[] = []
    for (const seed of [1, 2, 3]) {
      ids.push(await engine.submit(environment, comparison(`job ${seed}`, only(seed)), BEAM))
      await new Promise((resolve) => setTimeout(resolve, 3))
    }
    await engine.change(ids[2], { priority: 1 })
    open()
    for (const id of ids) await over(engine, id)
    expect(runner.asked.map(({ task }) => task.choice.seed)).toEqual([1, 3, 3, 1, 2, 2])
  })

  it('tries a chunk again when a thread dies, and says when it cannot be done', async () => {
    let deaths = 0
    const flaky = new JobEngine(
      db,
      new Here(1, () => {
        if (deaths++ < 2) throw new Error('the thread is gone')
      }),
      'p',
    )
    const lucky = await flaky.submit(environment, comparison('flaky'), BEAM)
    expect(await over(flaky, lucky)).toMatchObject({ state: 'done' })
    const dead = new JobEngine(
      db,
      new Here(1, () => {
        throw new Error('the thread is gone')
      }),
      'p',
    )
    const id = await dead.submit(environment, comparison('dead'), BEAM)
    expect(await over(dead, id)).toMatchObject({ state: 'failed', message: 'the thread is gone' })
    const runner = new Here(1)
    const wrong = new JobEngine(db, runner, 'p')
    const broken = { id: 0, knobs: {}, choice: { ...choice, seed: -1 } }
    const seed = await wrong.submit(environment, comparison('seed', { contestants: [broken] }), BEAM)
    expect(await over(wrong, seed)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('seed -1'),
    })
  })

  it('is forgotten with its runs when fifty later ones are over', async () => {
    const engine = new JobEngine(db, new Here(2), 'p')
    const only = { contestants: [{ id: 0, knobs: {}, choice: { ...choice, episodes: 1 } }], runs: 1 }
    const ids: string[] = []
    for (let i = 0; i < 52; i++) {
      ids.push(await engine.submit(environment, comparison(`job ${i}`, only), BEAM))
      await over(engine, ids[i])
    }
    expect(await readChunks(db, ids[0], 0, 9)).toEqual([])
    expect(await readChunks(db, ids[51], 0, 9)).toHaveLength(1)
    expect(await engine.list()).toHaveLength(50)
  })

  it('is refused where there is nothing to do, or too much', async () => {
    const engine = new JobEngine(db, new Here(1), 'p')
    await expect(engine.submit(environment, comparison('empty', { contestants: [] }), BEAM)).rejects.toThrow(
      'There is nothing to run',
    )
    const sweep = comparison('large', {
      runs: 10_000,
      view: {
        ...newComparison('x').view,
        picture: 'sweep',
        sweep: { axes: [{ varied: 'rate', values: '0.01..1/100' }] },
      },
    })
    await expect(engine.submit(environment, sweep, BEAM)).rejects.toThrow(ProblemError)
  })
})
