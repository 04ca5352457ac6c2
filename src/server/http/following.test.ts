import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Scene } from '../../core/lesson/scene'
import { gridDocument } from '../../core/testing/models'
import { classNow } from '../class-events'
import { database } from '../db/database'
import { changeClass, createClass, enterClass, getClass } from '../repositories/classes'
import { fromOwner, fromStudent } from '../testing/callers'
import * as following from './following'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-following-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const HALL = { ...gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: '' }] }), name: 'Hall' }
const SCENE: Scene = {
  ...{ stage: 'plan', view: 'board', layers: ['values'], selected: 'A1', spread: false, planned: false },
  ...{ knobs: {}, tabs: {}, folds: {}, plan: null, learn: null, compare: null, check: null },
}
const shown = (scene: unknown = SCENE, covers: unknown = []) => ({ title: 'Hall', text: '', scene, covers })

async function opened() {
  const db = await database()
  const id = await createClass(db, 'Autumn')
  const student = (await enterClass(db, (await getClass(db, id))!.code!, 'Ada'))!
  const address = `http://localhost/api/classes/${id}/following`
  const send = (method: 'PUT' | 'PATCH', body: unknown) =>
    following[method === 'PUT' ? 'put' : 'patch'](
      fromOwner(address, { method, body: JSON.stringify(body) }),
      id,
    )
  return {
    id,
    put: (document: unknown, what = shown()) => send('PUT', { document, shown: what }),
    patch: (name: string, what: unknown) => send('PATCH', { document: name, shown: what }),
    end: () => following.remove(fromOwner(address, { method: 'DELETE' }), id),
    read: (name: string) =>
      following.document(fromStudent(student, id, `http://localhost/api/class/following/${name}`), name),
  }
}

it('an environment is followed by its name, and what is shown of it changes by that name alone', async () => {
  const { id, put, patch, read, end } = await opened()
  expect((await classNow(id)).following).toBeNull()
  const { document: name } = (await (await put(HALL)).json()) as { document: string }
  expect((await classNow(id)).following).toEqual({ document: name, ...shown() })
  expect(await (await read(name)).json()).toMatchObject({ name: 'Hall', kind: 'grid' })
  const later = { ...SCENE, selected: 'B1' }
  expect((await patch(name, shown(later))).status).toBe(204)
  expect((await classNow(id)).following!.scene.selected).toBe('B1')
  // Another page is followed since: the one before is told.
  await put({ ...HALL, discount: 0.5 })
  expect((await patch(name, shown())).status).toBe(409)
  expect((await read(name)).status).toBe(404)
  expect((await end()).status).toBe(204)
  expect((await classNow(id)).following).toBeNull()
})

it('what is covered is told by its place, and by nothing of what is under it', async () => {
  const { id, put, patch } = await opened()
  const covers = [
    { on: 'board', across: 0.25, down: 0.5 },
    { on: 'table', row: 'A1', column: null },
  ]
  const { document: name } = (await (await put(HALL, shown(SCENE, covers))).json()) as { document: string }
  expect((await classNow(id)).following!.covers).toEqual(covers)
  // A page of before says nothing of covers.
  const before = { title: 'Hall', text: '', scene: SCENE }
  expect((await patch(name, before)).status).toBe(204)
  expect((await classNow(id)).following!.covers).toEqual([])
  for (const wrong of [
    [{ on: 'board', across: 0.25, down: 0.5, says: 19 }],
    [{ on: 'board', across: 'left', down: 0 }],
    [{ on: 'nowhere' }],
    Array.from({ length: 101 }, () => covers[0]),
  ])
    expect((await patch(name, shown(SCENE, wrong))).status).toBe(400)
})

it('is that of one class alone, and of no class that is closed', async () => {
  const [one, other] = [await opened(), await opened()]
  const { document: name } = (await (await one.put(HALL)).json()) as { document: string }
  expect((await other.read(name)).status).toBe(404)
  expect((await classNow(other.id)).following).toBeNull()
  await changeClass(await database(), one.id, 'close')
  expect((await one.put(HALL)).status).toBe(404)
})

it('is refused where its truth is hidden, or what is sent is nothing that can be shown', async () => {
  const { id, put, patch } = await opened()
  const poster = JSON.parse(readFileSync('demo/which-poster.json', 'utf8')) as { bandit: object }
  const hidden = await put({ ...poster, bandit: { ...poster.bandit, hidden: true } })
  expect([hidden.status, await hidden.text()]).toEqual([400, expect.stringContaining('It is hidden')])
  expect((await put(poster)).status).toBe(200)
  const before = (await classNow(id)).following
  expect((await put({ ...HALL, kind: 'poem' })).status).toBe(400)
  expect((await put(HALL, shown({ ...SCENE, stage: 'cellar' }))).status).toBe(400)
  expect((await patch(before!.document, { title: 'x' })).status).toBe(400)
  expect((await classNow(id)).following).toEqual(before)
})
