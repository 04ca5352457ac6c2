import { spawnSync } from 'node:child_process'
import { cpSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { expect, test } from '@playwright/test'
import { serveDatabase } from '../src/server/testing/database-server'
import { at, FLOOR, json, raw, Servers, type Saved } from './servers'
import { named } from './study'

test.describe.configure({ timeout: 180_000 })

const servers = new Servers()
test.afterAll(() => servers.close())

test('answers that are kept are those of now', async () => {
  const port = 3243
  const server = await servers.server(port, 'kept.sqlite')
  const { id, revision, document } = await json<Saved>(
    `${at(port)}/api/environments`,
    'POST',
    named('First name', FLOOR),
  )
  const host = `localhost:${port}`
  const addresses = ['/', `/environment/${id}/build`, `/api/environments/${id}`, '/api/environments']
  const texts = () =>
    Promise.all(addresses.map(async (path) => (await raw({ port, path, headers: { host } })).text))
  for (const name of ['First name', 'First name'])
    for (const text of await texts()) expect(text).toContain(name)

  // Each page has a nonce of its own, which its scripts carry.
  const nonces = new Set<string>()
  for (let i = 0; i < 3; i++) {
    const { headers, text } = await raw({ port, path: '/', headers: { host } })
    const nonce = /'nonce-([^']+)'/.exec(String(headers['content-security-policy']))![1]
    expect(text.match(/<script[^>]* nonce="[^"]*"/g)!.every((tag) => tag.includes(`nonce="${nonce}"`))).toBe(
      true,
    )
    nonces.add(nonce)
  }
  expect(nonces.size).toBe(3)

  await json(`${at(port)}/api/environments/${id}`, 'PUT', {
    revision,
    document: { ...document, name: 'Second name' },
  })
  for (const text of await texts()) {
    expect(text).toContain('Second name')
    expect(text).not.toContain('First name')
  }
  // What belongs to an environment and changes without it is asked anew.
  const versions = () => json<{ name: string | null }[]>(`${at(port)}/api/environments/${id}/versions`)
  await versions()
  await json(`${at(port)}/api/environments/${id}/versions`, 'POST', { name: 'Kept now' })
  expect((await versions()).map(({ name }) => name)).toContain('Kept now')
  // What another program changes in the file counts, too.
  const other = createClient({ url: `file:${join(servers.folder, 'kept.sqlite')}` })
  await other.execute({
    sql: "update environments set name = 'Third name', document = replace(document, 'Second', 'Third'), revision = 9 where id = ?",
    args: [id],
  })
  other.close()
  for (const text of await texts()) expect(text).toContain('Third name')
  await fetch(`${at(port)}/api/environments/${id}`, { method: 'DELETE' })
  expect((await texts()).map((text) => text.includes('Third name'))).toEqual([false, false, false, false])
  await servers.end(server)
})

test('two servers begin together on one database behind an address, and lose nothing', async () => {
  const { server: database, address } = await serveDatabase(join(servers.folder, 'behind.sqlite'), 'a-token')
  const env = { JAUNTY_PAWN_DATABASE: address, JAUNTY_PAWN_DATABASE_TOKEN: 'a-token' }
  const ports = [3245, 3246]
  const started = await Promise.all(ports.map((port) => servers.server(port, '', env)))
  const shelves = await Promise.all(ports.map((port) => json<unknown[]>(`${at(port)}/api/environments`)))
  expect(shelves.map((shelf) => shelf.length)).toEqual([16, 16])

  const body = named('Counted', FLOOR)
  const { id } = await json<Saved>(`${at(ports[0])}/api/environments`, 'POST', { ...body, note: '0' })
  /** Adds one to the number in the note, until it could be saved. */
  const addOne = async (port: number) => {
    for (;;) {
      const { revision, document } = await json<Saved>(`${at(port)}/api/environments/${id}`)
      const answer = await fetch(`${at(port)}/api/environments/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          revision,
          document: { ...document, note: String(Number(document.note) + 1) },
        }),
      })
      if (answer.ok) return
      expect([409, 503]).toContain(answer.status)
    }
  }
  const each = process.env.LONG ? 250 : 20
  const work = async (port: number) => {
    for (let i = 0; i < each; i++) await addOne(port)
  }
  await Promise.all([...ports, ...ports].map(work))
  for (const port of ports)
    expect((await json<Saved>(`${at(port)}/api/environments/${id}`)).document.note).toBe(String(4 * each))
  for (const server of started) expect(await servers.end(server, 'SIGTERM')).toBe(0)
  database.closeAllConnections()
  database.close()
})

test('the release is small, and serves by itself', async ({ page }) => {
  // Looking for what it needs takes a minute of a quiet machine.
  test.setTimeout(600_000)
  const { status, stderr } = spawnSync(process.execPath, ['scripts/release.mjs'], { encoding: 'utf8' })
  expect(status, stderr).toBe(0)
  const files = readdirSync('release', { recursive: true, withFileTypes: true }).filter((entry) =>
    entry.isFile(),
  )
  const bytes = files.reduce((sum, { parentPath, name }) => sum + statSync(join(parentPath, name)).size, 0)
  expect(bytes).toBeLessThan(250e6)

  // Where there is nothing of the checkout.
  const place = join(servers.folder, 'release')
  cpSync('release', place, { recursive: true })
  const port = 3244
  const server = await servers.server(port, 'release.sqlite', {}, place)
  await page.goto(`${at(port)}/`)
  await expect(page.getByLabel('Environments').getByRole('listitem')).toHaveCount(16)
  const shelf = await json<{ id: string; name: string }[]>(`${at(port)}/api/environments`)
  const { id } = shelf.find(({ name }) => name === 'The alarm beam')!
  await page.goto(`${at(port)}/environment/${id}/plan`)
  await expect(page).toHaveTitle(/The alarm beam/)
  // Threads of both kinds: one counts the states of what is new, others play the runs of a job.
  await json(`${at(port)}/api/environments`, 'POST', named('Released', FLOOR))
  await page.goto(`${at(port)}/`)
  await expect(page.getByText('Grid · 8 states · 4 actions')).toBeVisible()
  await json(`${at(port)}/api/environments/${id}/jobs`, 'POST', {
    ...{ format: 'jaunty-pawn/comparison', version: 1, name: 'Short', runs: 2 },
    contestants: [{ choice: { method: 'sarsa', episodes: 20 } }],
  })
  await expect
    .poll(async () => (await json<{ jobs: { state: string }[] }>(`${at(port)}/api/jobs`)).jobs[0].state)
    .toBe('done')
  expect(await servers.end(server, 'SIGTERM')).toBe(0)
  const told = spawnSync(process.execPath, ['.workers/cli/pawn.mjs', 'backup', 'copy.sqlite'], {
    cwd: place,
    env: { ...process.env, JAUNTY_PAWN_DATABASE: join(servers.folder, 'release.sqlite') },
    encoding: 'utf8',
  })
  expect([told.status, told.stdout]).toEqual([0, expect.stringContaining('copy.sqlite')])
})
