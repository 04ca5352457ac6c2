import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import nightRounds from '../../../demo/night-rounds.json' with { type: 'json' }
import { compileEnvironment } from '../../core/environment/compile'
import { kindOf, KINDS, type EnvironmentDocument, type Kind } from '../../core/kinds/kinds'
import { makeCheckpoint } from '../../core/learn/checkpoint'
import { World } from '../../core/learn/world'
import { ProblemError } from '../../core/problem'
import { gridDocument } from '../../core/testing/models'
import { newComparison } from '../../core/compare/comparison'
import { choiceIn } from '../../core/settings/first-choice'
import { addView } from '../../core/lesson/lesson'
import { newLesson } from '../../core/lesson/lesson-document'
import { checkScene } from '../../core/lesson/read-lesson'
import { database } from '../../server/db/database'
import { fromOwner } from '../../server/testing/callers'
import { getLink } from '../../server/repositories/links'
import { emptyFromBin, takeFromBin } from '../../session/api/bin'
import { handOutPage } from '../../session/api/hand-out'
import { keepLink, serverLessons } from '../../session/api/lessons'
import { serverComparisons } from '../../session/api/comparisons'
import * as client from '../../session/api/environments'
import { StaleError } from '../../session/api/send'
import { createCheckpointShelf } from '../../session/learn/checkpoint-shelf'
import { checkEnvironment } from '../../core/environment/document'
import * as binItem from './bin/[kind]/[item]/route'
import * as bin from './bin/route'
import * as comparisonRoute from './comparisons/[comparison]/route'
import * as comparisonsHere from './environments/[id]/comparisons/route'
import * as checkpoint from './checkpoints/[checkpoint]/route'
import * as checkpoints from './checkpoints/route'
import * as keptHere from './environments/[id]/checkpoints/route'
import * as duplicate from './environments/[id]/duplicate/route'
import * as picture from './environments/[id]/picture/route'
import * as handOut from './hand-out/route'
import * as schemas from './schemas/[name]/route'
import * as restore from './environments/[id]/restore/route'
import * as environment from './environments/[id]/route'
import * as variant from './environments/[id]/variant/route'
import * as version from './environments/[id]/versions/[version]/route'
import * as versions from './environments/[id]/versions/route'
import * as environments from './environments/route'
import * as linksHere from './environments/[id]/links/route'
import * as lesson from './lessons/[lesson]/route'
import * as lessonVersion from './lessons/[lesson]/versions/[version]/route'
import * as lessonVersions from './lessons/[lesson]/versions/route'
import * as lessons from './lessons/route'

// What pages ask with, joined to the routes that answer, without a server in between.

type Handler = (request: Request, context: { params: Promise<never> }) => Promise<Response>
const ROUTES: readonly (readonly [address: RegExp, route: object])[] = [
  [/^\/api\/environments$/, environments],
  [/^\/api\/schemas\/(?<name>[^/]+)$/, schemas],
  [/^\/api\/hand-out$/, handOut],
  [/^\/api\/environments\/(?<id>[^/]+)$/, environment],
  [/^\/api\/environments\/(?<id>[^/]+)\/duplicate$/, duplicate],
  [/^\/api\/environments\/(?<id>[^/]+)\/restore$/, restore],
  [/^\/api\/environments\/(?<id>[^/]+)\/variant$/, variant],
  [/^\/api\/environments\/(?<id>[^/]+)\/picture$/, picture],
  [/^\/api\/environments\/(?<id>[^/]+)\/versions$/, versions],
  [/^\/api\/environments\/(?<id>[^/]+)\/versions\/(?<version>[^/]+)$/, version],
  [/^\/api\/environments\/(?<id>[^/]+)\/checkpoints$/, keptHere],
  [/^\/api\/environments\/(?<id>[^/]+)\/comparisons$/, comparisonsHere],
  [/^\/api\/comparisons\/(?<comparison>[^/]+)$/, comparisonRoute],
  [/^\/api\/environments\/(?<id>[^/]+)\/links$/, linksHere],
  [/^\/api\/lessons$/, lessons],
  [/^\/api\/lessons\/(?<lesson>[^/]+)$/, lesson],
  [/^\/api\/lessons\/(?<lesson>[^/]+)\/versions$/, lessonVersions],
  [/^\/api\/lessons\/(?<lesson>[^/]+)\/versions\/(?<version>[^/]+)$/, lessonVersion],
  [/^\/api\/bin$/, bin],
  [/^\/api\/bin\/(?<kind>[^/]+)\/(?<item>[^/]+)$/, binItem],
  [/^\/api\/checkpoints$/, checkpoints],
  [/^\/api\/checkpoints\/(?<checkpoint>[^/]+)$/, checkpoint],
]

let reachable = true

async function route(address: string, { keepalive: _, ...init }: RequestInit = {}): Promise<Response> {
  if (!reachable) throw new TypeError('fetch failed')
  const request = fromOwner(`http://localhost${address}`, init)
  const { pathname } = new URL(request.url)
  for (const [pattern, module] of ROUTES) {
    const found = pattern.exec(pathname)
    const handler = (module as Readonly<Record<string, Handler>>)[request.method]
    if (found && handler) return handler(request, { params: Promise.resolve({ ...found.groups } as never) })
  }
  return new Response('<html>', { status: 405 })
}

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-routes-'))
beforeAll(() => {
  process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')
  vi.stubGlobal('fetch', route)
})
afterAll(() => {
  vi.unstubAllGlobals()
  rmSync(folder, { recursive: true, force: true })
})

const HALL: EnvironmentDocument = {
  ...gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 3, name: '' }] }),
  name: 'Hall',
}
const made = (document: EnvironmentDocument = HALL) => client.createEnvironment(JSON.stringify(document))

/** What a promise is refused with, as a problem of words. */
async function problem(promise: Promise<unknown>): Promise<ProblemError> {
  const error = await promise.then(
    () => null,
    (thrown: unknown) => thrown,
  )
  expect(error).toBeInstanceOf(ProblemError)
  return error as ProblemError
}

describe('environments, from the page to the database and back', () => {
  it('come back as they were sent, of every kind', async () => {
    for (const kind of Object.keys(KINDS) as Kind[]) {
      // As it is written to a file: what is undefined is left out.
      const document = checkEnvironment(JSON.parse(JSON.stringify(kindOf({ kind }).blank(`A ${kind}`))))
      const { id, revision } = await made(document)
      expect(await client.readEnvironment(id)).toMatchObject({ id, revision, document })
    }
  })

  it('are saved one revision after the other; an old one is stale, and nothing is lost', async () => {
    const { id, revision } = await made()
    const receipt = await client.saveEnvironment(id, revision, { ...HALL, note: 'first' })
    expect(receipt.revision).toBeGreaterThan(revision)
    const stale = await problem(client.saveEnvironment(id, revision, { ...HALL, note: 'second' }))
    expect(stale).toBeInstanceOf(StaleError)
    expect((await client.readEnvironment(id)).document.note).toBe('first')
    await client.saveEnvironment(id, receipt.revision, { ...HALL, note: 'third' })
    expect((await client.readEnvironment(id)).document.note).toBe('third')
  })

  it('are renamed, copied, deleted and taken back', async () => {
    const { id } = await made()
    await client.renameEnvironment(id, 'Great hall')
    const copy = await client.duplicateEnvironment(id)
    expect(copy.document).toEqual({ ...HALL, name: copy.document.name })
    expect(copy.document.name).toMatch(/Great hall/)
    await client.deleteEnvironment(id)
    expect((await problem(client.readEnvironment(id))).message).toMatch(/\S/)
    await client.restoreEnvironment(id)
    expect((await client.readEnvironment(id)).document.name).toBe('Great hall')
  })

  it('are followed by their variants, but where these differ', async () => {
    const base = await made()
    const other = await client.createVariant(base.id, 'Dear steps')
    expect(other.base).toMatchObject({ id: base.id })
    const dear = { ...other.document, grid: { ...HALL.grid, stepReward: -4 } } as EnvironmentDocument
    await client.saveEnvironment(other.id, other.revision, dear)
    await client.saveEnvironment(base.id, base.revision, {
      ...HALL,
      grid: { ...HALL.grid, stepReward: -2, veer: 0.1 },
    } as EnvironmentDocument)
    const { document } = await client.readEnvironment(other.id)
    expect(document).toMatchObject({ name: 'Dear steps', grid: { stepReward: -4, veer: 0.1 } })
  })

  it('keep versions by name, which are read again', async () => {
    const { id, revision } = await made()
    const kept = await client.keepVersion(id, 'before class')
    await client.saveEnvironment(id, revision, { ...HALL, discount: 0.5 })
    expect((await client.listVersions(id)).map(({ name }) => name)).toContain('before class')
    expect((await client.readVersion(id, kept.id)).document).toEqual(HALL)
    await problem(client.readVersion(id, 'no-such-version'))
  })

  it('have a small picture of their present state', async () => {
    const { id, revision } = await made()
    const before = await client.readPicture(id, revision)
    expect(before).toMatch(/^<svg/)
    expect(before).toContain('>+3<')
    const dear = { ...HALL, grid: { ...HALL.grid, endings: [{ at: 'B2', reward: -7, name: '' }] } }
    await client.saveEnvironment(id, revision, dear as EnvironmentDocument)
    expect(await client.readPicture(id, revision + 1)).toContain('>−7<')
  })

  it('refuse nonsense with the place, and say when the server is gone', async () => {
    const { problems } = await problem(client.createEnvironment('{"format": "something else"}'))
    expect(problems[0].place).toMatch(/\S/)
    await problem(client.readEnvironment('nobody'))
    await problem(client.renameEnvironment((await made()).id, ''))
    reachable = false
    expect((await problem(client.readEnvironment('nobody'))).message).toMatch(/does not answer/)
    reachable = true
    // An answer that is no report is told by its status.
    expect((await problem(client.restoreEnvironment('a/b'))).message).toMatch(/status 405/)
  })
})

describe('learned tables that are kept', () => {
  const document = nightRounds as unknown as EnvironmentDocument
  const world = new World(compileEnvironment(document).model)
  const table = Float64Array.from({ length: world.model.rows }, (_, r) => Math.sin(r) / 3)
  const checkpointOf = (name: string) =>
    makeCheckpoint(world, table, {
      name,
      environment: document.name,
      method: 'q-learning',
      holds: 'action values',
      settings: { episodes: 7 },
      steps: 120,
      episodes: 7,
    })

  it('come back to the same bits, those of this environment in front, and can be taken back', async () => {
    const [here, elsewhere] = [await made(document), await made(document)]
    const shelf = createCheckpointShelf(here.id)
    await createCheckpointShelf(elsewhere.id).keep(checkpointOf('elsewhere'))
    await shelf.keep(checkpointOf('here, first'))
    await shelf.keep(checkpointOf('here, second'))
    await shelf.refresh()
    const names = () => shelf.store.getState().list!.map(({ name }) => name)
    expect(names()).toEqual(['here, second', 'here, first', 'elsewhere'])
    const [second] = shelf.store.getState().list!
    expect(await shelf.read(second.id)).toEqual(checkpointOf('here, second'))
    await shelf.remove(second)
    expect(names()).toEqual(['here, first', 'elsewhere'])
    await shelf.undo()
    expect(names()).toHaveLength(3)
    expect(shelf.store.getState().deleted).toBeNull()
    const again = shelf.store.getState().list!.find(({ name }) => name === 'here, second')!
    expect(await shelf.read(again.id)).toEqual(checkpointOf('here, second'))
    expect(shelf.store.getState().problems).toEqual([])
  })

  it('note what is wrong instead of throwing it', async () => {
    const shelf = createCheckpointShelf('nobody')
    await shelf.keep(checkpointOf('of nobody'))
    expect(shelf.store.getState().problems.length).toBeGreaterThan(0)
    expect(await shelf.read('nothing')).toBeUndefined()
    expect(shelf.store.getState().problems[0].cause).toMatch(/not kept, or has been deleted/)
    await shelf.undo()
    await shelf.refresh()
    expect(shelf.store.getState().problems).toEqual([])
  })

  it('are refused where their numbers are none', async () => {
    const { id } = await made(document)
    const bad = { ...checkpointOf('bad'), values: [['x']] }
    const shelf = createCheckpointShelf(id)
    await shelf.keep(bad as never)
    expect(shelf.store.getState().problems.length).toBeGreaterThan(0)
    await shelf.refresh()
    expect(shelf.store.getState().list!.filter(({ name }) => name === 'bad')).toEqual([])
  })
})

describe('comparisons', () => {
  it('are kept with their environment, changed, listed and deleted', async () => {
    const { id } = await made()
    expect(await serverComparisons.list(id)).toEqual([])
    const first = {
      ...newComparison('Rates'),
      contestants: [{ id: 2, knobs: {}, choice: choiceIn(HALL, { method: 'sarsa' }) }],
    }
    const one = await serverComparisons.create(id, first)
    const other = await serverComparisons.create(id, { ...newComparison('Empty'), environment: HALL })
    expect(await serverComparisons.read(one.id)).toEqual(first)
    // The environment stands on the shelf and is not kept twice.
    expect(await serverComparisons.read(other.id)).toEqual(newComparison('Empty'))
    await serverComparisons.write(one.id, { ...first, name: 'Learning rates' })
    expect((await serverComparisons.list(id)).map(({ name }) => name)).toEqual(['Learning rates', 'Empty'])
    await serverComparisons.remove(other.id)
    expect(await serverComparisons.list(id)).toHaveLength(1)
    expect(await listedElsewhere()).toBe(0)
  })

  async function listedElsewhere(): Promise<number> {
    const { id } = await made()
    return (await serverComparisons.list(id)).length
  }

  it('are refused where they are wrong, gone, or of an environment that is not there', async () => {
    const { id } = await made()
    const wrong = { ...newComparison('x'), runs: 0 }
    expect((await problem(serverComparisons.create(id, wrong))).problems[0].place).toBe('runs')
    expect((await problem(serverComparisons.create('gone', newComparison('x')))).message).toContain(
      'not on the shelf',
    )
    for (const asked of [serverComparisons.read('gone'), serverComparisons.remove('gone')])
      expect((await problem(asked)).problems[0].place).toBe('comparison')
    expect(await serverComparisons.write('gone', newComparison('x'))).toBe(false)
    const kept = await serverComparisons.create(id, newComparison('x'))
    expect(await serverComparisons.write(kept.id, newComparison('y'))).toBe(true)
    await client.deleteEnvironment(id)
    expect((await problem(serverComparisons.read(kept.id))).problems[0].place).toBe('comparison')
  })
})

describe('lessons, from the page to the database and back', () => {
  const scene = checkScene({ stage: 'plan', selected: 'A1' }, HALL)
  const prepared = addView(newLesson('Sweeps'), { title: 'One', text: 'x', notes: '' }, scene, {
    shelf: null,
    document: HALL,
  })

  it('come back as they were sent, and are listed with their views', async () => {
    const { id, revision } = await serverLessons.create(prepared)
    expect(await serverLessons.read(id)).toEqual({ id, revision, lesson: prepared })
    expect(await serverLessons.list()).toContainEqual(
      expect.objectContaining({ id, name: 'Sweeps', views: 1 }),
    )
  })

  it('are saved one revision after the other; an old one is stale, and versions are kept', async () => {
    const { id, revision } = await serverLessons.create(prepared)
    const next = await serverLessons.write(id, revision, { ...prepared, name: 'Two' })
    expect(await problem(serverLessons.write(id, revision, prepared))).toBeInstanceOf(StaleError)
    await serverLessons.write(id, next, { ...prepared, name: 'Three' })
    await serverLessons.keepVersion(id, 'before class')
    const versions = await serverLessons.versions(id)
    expect(versions.map(({ name }) => name)).toEqual(['before class', null])
    expect((await serverLessons.readVersion(id, versions[0].id)).name).toBe('Three')
    expect(await serverLessons.readVersion(id, versions[1].id)).toEqual(prepared)
  })

  it('lie in the bin for a while, and are gone with their versions after that', async () => {
    const { id } = await serverLessons.create(prepared)
    await serverLessons.keepVersion(id, 'kept')
    await serverLessons.remove(id)
    await problem(serverLessons.read(id))
    await takeFromBin('lesson', id)
    expect((await serverLessons.read(id)).lesson.name).toBe('Sweeps')
    await serverLessons.remove(id)
    await emptyFromBin('lesson', id)
    await problem(takeFromBin('lesson', id))
    expect(await serverLessons.versions(id)).toEqual([])
  })

  it('are refused with the place where something is wrong', async () => {
    const wrong = { ...prepared, views: [{ ...prepared.views[0], environment: 'attic' }] }
    expect((await problem(serverLessons.create(wrong))).message).toContain('views.0.environment')
    expect((await problem(serverLessons.write('nobody', 1, prepared))).message).toContain('lesson')
  })

  it('are handed out as soon as they have a view', async () => {
    const empty = await problem(handOutPage(newLesson('Nothing yet')))
    expect(empty.message).toContain('no views yet')
    expect((await problem(handOutPage({ ...prepared, views: 1 } as never))).message).toContain('views')
  })

  it('links are short, the same for the same view, and of one environment only', async () => {
    const [one, other] = [await made(), await made()]
    const link = await keepLink(one.id, scene)
    expect(link).toMatch(/^[a-z0-9]{10}$/)
    expect(await keepLink(one.id, scene)).toBe(link)
    expect(await keepLink(other.id, scene)).not.toBe(link)
    expect(await keepLink(one.id, { ...scene, stage: 'learn' })).not.toBe(link)
    const db = await database()
    expect(checkScene(await getLink(db, one.id, link), HALL)).toEqual(scene)
    expect(await getLink(db, other.id, link)).toBeUndefined()
    await problem(keepLink('nobody', scene))
    expect((await problem(keepLink(one.id, { ...scene, view: 'smell' } as never))).message).toContain('view')
  })
})

it('schemas are served as they are published', async () => {
  const served = await route('/api/schemas/environment.json')
  expect(await served.json()).toEqual(JSON.parse(readFileSync('docs/schemas/environment.json', 'utf8')))
  const missing = await route('/api/schemas/poem.json')
  expect(missing.status).toBe(404)
  expect(await missing.text()).toContain('lesson.json')
})
