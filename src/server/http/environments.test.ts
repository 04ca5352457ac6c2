import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rulebookEnvironment } from '../../core/kinds/rulebook/blank'
import { gridDocument } from '../../core/testing/models'
import type { EnvironmentRecord } from '../contract/environments'
import * as environments from './environments'
import { readJson } from './answers'
import { fromOwner } from '../testing/callers'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-http-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const HALL = { ...gridDocument(['..', '..']), name: 'Hall' }
const asked = (body: unknown, address = 'http://localhost/api/environments') =>
  fromOwner(address, { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body) })

async function made(document: object = HALL): Promise<EnvironmentRecord> {
  const response = await environments.create(asked(document))
  expect(response.status).toBe(201)
  return response.json()
}

async function refused(response: Response, status = 400): Promise<string> {
  expect(response.status).toBe(status)
  const { problems } = await response.json()
  expect(problems.length).toBeGreaterThan(0)
  for (const { place, cause, remedy } of problems)
    for (const text of [place, cause, remedy]) expect(text).toMatch(/\S/)
  return problems.map(({ place, cause }: { place: string; cause: string }) => `${place}: ${cause}`).join('\n')
}

describe('making environments', () => {
  it('from a document, a rulebook, a list or a map, named by the address', async () => {
    expect((await made()).document.name).toBe('Hall')
    const list = await environments.create(
      asked(
        'state,action,next_state,probability,reward\na,go,b,1,2\n',
        'http://localhost/api/environments?name=A%20list',
      ),
    )
    expect(await list.json()).toMatchObject({ document: { name: 'A list', kind: 'table' } })
    const rules = await environments.create(asked('state a from 0 to 3\nstart a = 0\naction go\nnext a = a'))
    expect(await rules.json()).toMatchObject({ document: { kind: 'rulebook' } })
  })

  it('of what does not compile none, and says why', async () => {
    expect(await refused(await environments.create(asked('{')))).toMatch(/not valid JSON/)
    expect(await refused(await environments.create(asked(rulebookEnvironment('bad', 'state'))))).toMatch(
      /line 1/,
    )
    const walls = { ...HALL, grid: { ...HALL.grid, floor: ['##'] } }
    expect(await refused(await environments.create(asked(walls)))).toMatch(/No cell is open/)
  })
})

describe('saving', () => {
  const put = (id: string, body: unknown) =>
    environments.save(fromOwner('http://localhost', { method: 'PUT', body: JSON.stringify(body) }), id)

  it('keeps what is half made, and refuses what could not be shown', async () => {
    const { id, revision } = await made()
    const halfMade = { ...HALL, grid: { ...HALL.grid, starts: [{ at: 'Z9', weight: 1 }] } }
    await refused(await put(id, { revision, document: halfMade }))
    const walls = { ...HALL, grid: { ...HALL.grid, floor: ['##', '##'] } }
    const saved = await put(id, { revision, document: walls })
    expect(saved.status).toBe(200)
  })

  it('overwrites nothing that somebody else saved meanwhile', async () => {
    const { id, revision } = await made()
    const first = await put(id, { revision, document: { ...HALL, name: 'First' } })
    expect(first.status).toBe(200)
    expect(await refused(await put(id, { revision, document: { ...HALL, name: 'Second' } }), 409)).toMatch(
      /\S/,
    )
    const record = await (await environments.read(asked(''), id)).json()
    expect(record.document.name).toBe('First')
  })

  it('asks for a revision and a document', async () => {
    const { id } = await made()
    expect(await refused(await put(id, { document: HALL }))).toMatch(/revision/)
    expect(await refused(await put(id, { revision: 1 }))).toMatch(/document/)
  })
})

describe('the rest of the shelf', () => {
  it('renames, duplicates, makes variants, deletes and brings back', async () => {
    const { id } = await made()
    expect((await environments.rename(asked({ name: 'Renamed' }), id)).status).toBe(200)
    const copy = await (await environments.duplicate(asked(''), id)).json()
    expect(copy.id).not.toBe(id)
    const variant = await (await environments.makeVariant(asked({ name: 'Windy' }), id)).json()
    expect(variant).toMatchObject({ base: { id, name: 'Renamed' }, document: { name: 'Windy' } })
    expect((await environments.remove(asked(''), id)).status).toBe(204)
    expect((await environments.read(asked(''), id)).status).toBe(404)
    expect((await environments.restore(asked(''), id)).status).toBe(204)
    expect((await environments.read(asked(''), id)).status).toBe(200)
    const shelf: { id: string }[] = await (await environments.list(asked(''))).json()
    expect(shelf.map((each) => each.id)).toEqual(expect.arrayContaining([id, copy.id, variant.id]))
  })

  it('answers with a picture of what is on it', async () => {
    const { id } = await made()
    const draw = ({ name }: { name: string }) => `<svg>${name}</svg>`
    const response = await environments.picture(asked(''), id, draw)
    expect(response.headers.get('content-type')).toBe('image/svg+xml')
    expect(await response.text()).toBe('<svg>Hall</svg>')
    expect((await environments.picture(asked(''), 'none', draw)).status).toBe(404)
  })

  it('keeps versions by name, and says of what is not there that it is not', async () => {
    const { id } = await made()
    expect((await environments.keep(asked({ name: 'before the lecture' }), id)).status).toBe(201)
    const versions: { name: string }[] = await (await environments.versions(asked(''), id)).json()
    expect(versions.map(({ name }) => name)).toContain('before the lecture')
    for (const response of [
      await environments.read(asked(''), 'none'),
      await environments.rename(asked({ name: 'x' }), 'none'),
      await environments.duplicate(asked(''), 'none'),
      await environments.makeVariant(asked({ name: 'x' }), 'none'),
      await environments.remove(asked(''), 'none'),
      await environments.restore(asked(''), 'none'),
      await environments.keep(asked({ name: 'x' }), 'none'),
    ])
      expect(response.status).toBe(404)
    expect(await refused(await environments.rename(asked({ name: ' ' }), id))).toMatch(/name/)
  })
})

it('a body that is too large is refused before it is read', async () => {
  const large = fromOwner('http://localhost', {
    method: 'POST',
    body: '{}',
    headers: { 'content-length': String(40 * 1024 * 1024) },
  })
  await expect(readJson(large)).rejects.toThrow(/larger than 32 MB/)
  // One that does not tell its length is read no further than that.
  let sent = 0
  const endless = new ReadableStream({
    pull(controller) {
      sent += 1024 * 1024
      controller.enqueue(new Uint8Array(1024 * 1024).fill(32))
    },
  })
  const chunked = fromOwner('http://localhost', { method: 'POST', body: endless, duplex: 'half' } as never)
  await expect(readJson(chunked)).rejects.toThrow(/larger than 32 MB/)
  expect(sent).toBeLessThan(40 * 1024 * 1024)
  const binary = fromOwner('http://localhost', { method: 'POST', body: new Uint8Array([255, 254, 0]) })
  await expect(readJson(binary)).rejects.toThrow(/not UTF-8/)
  await expect(readJson(asked('nope'))).rejects.toThrow(/It is not JSON/)
})
