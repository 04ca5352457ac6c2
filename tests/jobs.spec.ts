import type { ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { Servers } from './servers'

// Servers of their own: they are killed in the middle of their work.
test.describe.configure({ mode: 'serial', timeout: 180_000 })

const servers = new Servers()
test.afterAll(() => servers.close())
const begin = servers.begin.bind(servers)
const server = servers.server.bind(servers)
const kill = (child: ChildProcess) => servers.end(child)

interface Job {
  readonly id: string
  readonly state: string
  readonly chunks: number
  readonly done: number
}

/** The jobs of a server, without a page. */
class Client {
  constructor(private readonly port: number) {}

  async json<T>(address: string, init?: RequestInit): Promise<T> {
    const headers = { 'content-type': 'application/json' }
    const answer = await fetch(`http://localhost:${this.port}${address}`, { headers, ...init })
    expect(answer.ok, await answer.clone().text()).toBe(true)
    return (await answer.json()) as T
  }

  /** Asks for runs of the alarm beam. */
  async submit(runs: number): Promise<string> {
    const shelf = await this.json<{ id: string; name: string }[]>('/api/environments')
    const { id } = shelf.find(({ name }) => name === 'The alarm beam')!
    const contestants = ['q-learning', 'sarsa', 'dyna-q'].map((method) => ({
      choice: { method, episodes: 4000 },
    }))
    const body = JSON.stringify({
      ...{ format: 'jaunty-pawn/comparison', version: 1, name: 'Three methods', runs, contestants },
    })
    return (await this.json<{ id: string }>(`/api/environments/${id}/jobs`, { method: 'POST', body })).id
  }

  async job(id: string): Promise<Job> {
    return (await this.json<{ jobs: Job[] }>('/api/jobs')).jobs.find((each) => each.id === id)!
  }

  async until(id: string, holds: (job: Job) => boolean): Promise<Job> {
    for (;;) {
      const job = await this.job(id)
      if (holds(job)) return job
      await new Promise((resolve) => setTimeout(resolve, 40))
    }
  }

  /** All runs of a job as text, in an order that does not depend on when they were finished. */
  async results(id: string): Promise<string[]> {
    const all: string[] = []
    for (let after = 0, more = true; more;) {
      const found: { chunks: { key: string; runs: string }[]; last: number; more: boolean } = await this.json(
        `/api/jobs/${id}/results?after=${after}`,
      )
      all.push(...found.chunks.map(({ key, runs }) => `${key} ${runs}`))
      ;({ last: after, more } = found)
    }
    return all.sort()
  }
}

const RUNS = 40
let undisturbed: string[]

test('a job goes on after the server was killed, and comes to the same bits as one that was left alone', async () => {
  let child = await server(3221, 'kill.sqlite')
  const client = new Client(3221)
  const reference = await client.submit(RUNS)
  await client.until(reference, ({ state }) => state === 'done')
  undisturbed = await client.results(reference)
  const id = await client.submit(RUNS)
  const { chunks } = await client.until(id, ({ done }) => done >= 3)
  await kill(child)
  child = await server(3221, 'kill.sqlite')
  // What was done is still done: nobody plays it again.
  expect((await client.job(id)).done).toBeGreaterThanOrEqual(3)
  const job = await client.until(id, ({ state }) => state !== 'active')
  expect(job).toMatchObject({ state: 'done', done: chunks })
  expect(await client.results(id)).toEqual(undisturbed)
  await kill(child)
})

test('chunks are played by workers on a queue; one that is killed loses nothing', async () => {
  const port = 3229
  const queue = `redis://127.0.0.1:${port}`
  const redis = await begin(
    'redis-server',
    ['--port', String(port), '--bind', '127.0.0.1', '--save', '', '--dir', servers.folder],
    {},
    /Ready to accept connections/,
  )
  const child = await server(3222, 'queue.sqlite', { JAUNTY_PAWN_QUEUE: queue })
  const client = new Client(3222)
  const id = await client.submit(RUNS)
  // Without workers it waits, and says why.
  await expect
    .poll(async () => (await client.json<{ notice: string | null }>('/api/jobs')).notice)
    .toContain('npm run worker')
  const worker = () =>
    begin(
      process.execPath,
      ['scripts/worker.mjs'],
      { JAUNTY_PAWN_QUEUE: queue, JAUNTY_PAWN_CORES: '1' },
      /takes chunks on 1 cores/,
    )
  const [first, second] = await Promise.all([worker(), worker()])
  await client.until(id, ({ done }) => done >= 2)
  await kill(first)
  const job = await client.until(id, ({ state }) => state !== 'active')
  expect(job.state).toBe('done')
  expect(await client.results(id)).toEqual(undisturbed)
  await kill(second)
  await kill(child)
  // A worker of another program is refused.
  await begin('redis-cli', ['-p', String(port), 'set', 'jaunty-pawn:program', 'other'], {}, /OK/)
  await expect(worker()).rejects.toThrow(
    /ended with 1: The server runs the program other, this worker is 0\./,
  )
  await kill(redis)
})

test('a page hands its runs to the server, which goes on while the page is closed', async ({ page }) => {
  await page.goto('/?show=1000')
  await page.getByRole('link', { name: /The draughty hall/ }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  await page.getByRole('button', { name: 'New', exact: true }).click()
  await page.getByLabel('Add a contestant').selectOption({ label: 'SARSA' })
  await page.getByLabel('Add a contestant').selectOption({ label: 'a random agent' })
  await page.getByLabel('Runs each').fill('60')
  await page.getByRole('button', { name: /server/ }).click()
  await expect(page.getByText(/The server is at work on/)).toBeVisible()
  const address = page.url()
  await page.goto('about:blank')
  await page.waitForTimeout(1500)
  await page.goto(address)
  await expect(page.getByRole('button', { name: 'Jobs' })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('cell', { name: '60', exact: true })).toHaveCount(2)
  await expect(page.getByTestId('verdict')).toContainText(/beats random agent in 60 of 60 runs/)
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeDisabled()
  await page.getByRole('button', { name: 'Jobs' }).click()
  const jobs = page.getByRole('list', { name: 'Jobs' })
  await expect(jobs.getByText('done', { exact: true })).toBeVisible()
  await jobs.getByRole('button', { name: 'Remove' }).click()
  await expect(jobs).toHaveCount(0)
})

test('comparisons of the demo are ready, and say what to look at', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: /Cloakroom queue/ }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  await expect(page.getByText(/a class that is let in without hooks pays 18/)).toBeVisible()
  await page.getByLabel('Runs each').fill('3')
  await page.getByRole('button', { name: 'Run', exact: true }).click()
  await expect(
    page.getByRole('img', { name: /Return while learning .* impossible actions penalised by 25/ }),
  ).toBeVisible({ timeout: 60_000 })
  // Exported and brought in again it is the same, with its own environments.
  await page.getByRole('button', { name: 'Name, note, files' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Export (JSON)' }).click()
  const path = await (await download).path()
  const file = JSON.parse(readFileSync(path, 'utf8')) as { contestants: object[]; environment: object }
  expect(file.contestants).toHaveLength(4)
  await page.getByLabel('File of a comparison').setInputFiles(path)
  await expect(page.getByLabel('Which comparison').getByRole('option')).toHaveCount(2)
  await expect(page.getByRole('list', { name: 'Contestants' }).getByRole('listitem')).toHaveCount(4)
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByText(/was deleted/)).toBeVisible()
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByLabel('Which comparison').getByRole('option')).toHaveCount(2)
})
