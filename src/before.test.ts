import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { compileEnvironment } from './core/environment/compile'
import { endingOf } from './core/environment/ending'
import { readEnvironment } from './core/environment/read'
import { createLearner } from './core/learn/methods/learners'
import type { LearnSnapshot } from './core/learn/learner'
import { LEARN_METHOD_IDS, type LearnMethodId } from './core/learn/methods/methods'
import { World } from './core/learn/world'
import { modelFingerprint } from './core/model/fingerprint'
import type { Model } from './core/model/model'
import { randomPolicy } from './core/plan/evaluate'
import { solveOptimum } from './core/plan/solve'
import { LEARN_DEFAULTS, type LearnSettings } from './core/settings/settings'
import { readRunLink } from './session/learn/read-run-link'
import { openDatabase } from './server/db/database'
import type { Database } from './server/db/schema'
import { getCheckpoint, listCheckpoints } from './server/repositories/checkpoints'
import { getEnvironment, restoreEnvironment, saveEnvironment } from './server/repositories/environments'
import { listEnvironments } from './server/repositories/shelf-list'
import { getVersion, listVersions } from './server/repositories/versions'

interface Before {
  readonly shelf: readonly { name: string; fingerprint: number; states: number; optimum: number | null }[]
  /** The fingerprint of each file's model. */
  readonly files: Readonly<Record<string, number>>
  readonly runs: readonly {
    method: LearnMethodId
    settings: Omit<LearnSettings, 'policy'>
    at: Omit<LearnSnapshot, 'arrays'> & {
      /** 'f' or 'i', and the numbers */
      arrays: Record<string, [string, ...number[]]>
      returns: number[]
      lengths: number[]
    }
    table: number[]
    steps: number
  }[]
  readonly link: string
  readonly choice: object
}

const FOLDER = join(process.cwd(), 'tests', 'before')
const before = JSON.parse(readFileSync(join(FOLDER, 'expected.json'), 'utf8')) as Before
let folder: string
let db: Database

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'before-'))
  copyFileSync(join(FOLDER, 'shelf.sqlite'), join(folder, 'shelf.sqlite'))
  db = await openDatabase(join(folder, 'shelf.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))

async function documentOf(name: string) {
  const { id } = (await listEnvironments(db)).find((each) => each.name === name)!
  return (await getEnvironment(db, id))!
}

describe('a database of before', () => {
  it.each(before.shelf)('opens $name: the same model, the same value', async ({ name, ...expected }) => {
    const { document } = await documentOf(name)
    const { model } = compileEnvironment(document)
    expect({
      fingerprint: modelFingerprint(model),
      states: model.states,
      optimum: solveOptimum(model, document.discount)?.start,
    }).toEqual(expected)
  })

  it('has nothing else on the shelf, and brings back what was deleted', async () => {
    const names = async () => (await listEnvironments(db)).map(({ name }) => name)
    expect((await names()).sort()).toEqual(before.shelf.map(({ name }) => name).sort())
    const { rows } = await db.run('select id from environments where deleted_at is not null')
    expect(await restoreEnvironment(db, String(rows[0].id))).toBe(true)
    expect(await names()).toContain('A docent’s round (copy)')
  })

  it('has the versions, and the variant that still follows its base', async () => {
    const base = await documentOf('Night rounds')
    const [version] = await listVersions(db, base.id)
    expect(version.name).toBe('before the lecture')
    expect((await getVersion(db, base.id, version.id))!.document).toEqual(base.document)
    await saveEnvironment(db, base.id, base.revision, { ...base.document, note: 'Read this first.' })
    const variant = await documentOf('Night rounds, patient')
    expect(variant.base?.id).toBe(base.id)
    expect(variant.document).toMatchObject({ discount: 0.99, cap: 77, note: 'Read this first.' })
  })

  it('has the learned table', async () => {
    const [summary] = await listCheckpoints(db)
    expect(summary).toMatchObject({ name: 'first try', method: 'sarsa', episodes: 60 })
    const { table } = before.runs.find(({ method }) => method === 'sarsa')!
    const { values } = (await getCheckpoint(db, summary.id))!
    expect(values.flat().filter((value) => value !== null)).toEqual(table)
  })
})

describe('a file of before', () => {
  it.each(readdirSync(join(FOLDER, 'files')))('%s is read as it was', (file) => {
    const text = readFileSync(join(FOLDER, 'files', file), 'utf8')
    const document = readEnvironment(text, file, endingOf(file))
    expect(modelFingerprint(compileEnvironment(document).model)).toBe(before.files[file])
  })
})

it('a link of before asks for the same settings', () => {
  expect(readRunLink(before.link)).toEqual({ choice: before.choice })
})

describe('a run of before', () => {
  let model: Model
  beforeAll(async () => {
    model = compileEnvironment((await documentOf('A docent’s round')).document).model
  })

  it('there is one by every method', () => {
    const then = before.runs.map(({ method }) => method)
    expect(LEARN_METHOD_IDS).toEqual(expect.arrayContaining(then))
    expect(new Set(then).size).toBe(14)
  })

  it.each(before.runs)('by $method goes on from where it stood to the same bits', ({ method, ...run }) => {
    // Settings that came later are as they usually are.
    const settings = { ...LEARN_DEFAULTS, ...run.settings, policy: randomPolicy(model) }
    const whole = createLearner(method, new World(model), settings)
    const later = createLearner(method, new World(model), settings)
    const { numbers, status } = run.at
    const arrays = Object.entries(run.at.arrays).map(([name, [kind, ...values]]) => [
      name,
      kind === 'f' ? Float64Array.from(values) : Int32Array.from(values),
    ])
    later.log.returns.set(run.at.returns)
    later.log.lengths.set(run.at.lengths)
    later.restore({ numbers, arrays: Object.fromEntries(arrays), status })
    for (const learner of [whole, later]) {
      while (learner.advance(1000) > 0);
      expect({ steps: learner.steps, table: [...learner.table] }).toEqual({
        steps: run.steps,
        table: run.table,
      })
    }
  })
})
