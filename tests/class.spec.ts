import { execFile } from 'node:child_process'
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'
import { promisify } from 'node:util'
import { Ajv2020 } from 'ajv/dist/2020.js'
import { expect, test, type Browser, type Locator, type Page } from '@playwright/test'
import { ROUTES } from '../src/server/access/routes'
import type { ClassRecord, ExerciseSummary } from '../src/server/contract/classes'
import { at, raw, Servers } from './servers'

test.describe.configure({ timeout: 180_000 })

const PORT = 3250
const PHRASE = 'lamp over the stairs'
const servers = new Servers()
/** The cookie of the instructor. */
let owner = ''

test.beforeAll(async () => {
  await servers.server(PORT, 'class.sqlite', { JAUNTY_PAWN_PASSPHRASE: PHRASE })
  const entered = await ask('POST', '/api/enter', { phrase: PHRASE })
  owner = cookieOf(entered)
})
test.afterAll(() => servers.close())

type Answer = Awaited<ReturnType<typeof raw>>

function ask(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const json: Record<string, string> = body === undefined ? {} : { 'content-type': 'application/json' }
  return raw(
    { port: PORT, method, path, headers: { host: `localhost:${PORT}`, ...json, ...headers } },
    body === undefined ? undefined : JSON.stringify(body),
  )
}
const cookieOf = ({ headers }: Answer) => String(headers['set-cookie']).split(';')[0]
const asOwner = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const { status, text } = await ask(method, path, body, { cookie: owner })
  expect(status, text).toBeLessThan(300)
  return (text ? JSON.parse(text) : undefined) as T
}

/** A class to which the exercises of the demo are handed out. */
async function openClass(name: string): Promise<ClassRecord> {
  const { id } = await asOwner<{ id: string }>('POST', '/api/classes', { name })
  const exercises = await asOwner<ExerciseSummary[]>('GET', '/api/exercises')
  for (const { id: exercise } of exercises)
    await asOwner('POST', `/api/classes/${id}/assignments`, {
      exercise,
      tries: null,
      closesAt: null,
      madeUpNames: false,
    })
  return asOwner('GET', `/api/classes/${id}`)
}

async function enters({ code }: ClassRecord, name: string): Promise<{ cookie: string; token: string }> {
  const cookie = cookieOf(await ask('POST', '/api/join', { code, name }))
  const { text } = await ask('POST', '/api/class/token', undefined, { cookie })
  return { cookie, token: (JSON.parse(text) as { token: string }).token }
}

test('the shelf asks for the pass phrase, and tells nobody else what there is', async ({ page }) => {
  await page.goto(at(PORT))
  await expect(page).toHaveURL(`${at(PORT)}/enter`)
  await page.getByLabel('Pass phrase').fill('lamp under the stairs')
  await page.getByRole('button', { name: 'Open the shelf' }).click()
  await expect(page.getByText('It is not the right one.')).toBeVisible()
  await page.getByLabel('Pass phrase').fill(PHRASE)
  await page.getByRole('button', { name: 'Open the shelf' }).click()
  await expect(page.getByRole('heading', { name: 'Jaunty Pawn', level: 1 })).toBeVisible()
  await expect(page.getByRole('link', { name: /The alarm beam/ }).first()).toBeVisible()
  // An answer that was kept for the instructor is for nobody else.
  const stranger = await ask('GET', '/')
  expect([stranger.status, stranger.headers.location]).toEqual([303, '/enter'])
  expect((await ask('GET', '/api/environments')).status).toBe(401)
})

test('every route lets in whom it should, over the network, whatever headers say', async () => {
  const room = await openClass('Routes')
  const { cookie, token } = await enters(room, 'Ada')
  const callers: Record<string, Record<string, string>> = {
    nobody: {},
    student: { cookie },
    program: { authorization: `Bearer ${token}` },
    forger: {
      'x-caller': JSON.stringify({ roles: ['anyone', 'owner', 'student', 'program'], student: null }),
      'x-forwarded-for': '127.0.0.1',
      'x-middleware-subrequest': 'src/middleware',
      'x-matched-path': '/',
      cookie: 'pawn-owner=owner; pawn-student=owner',
    },
    owner: { cookie: owner },
  }
  for (const [route, may] of Object.entries(ROUTES)) {
    const path = route.replace(/\[\[\.\.\.\w+\]\]/, 'part').replace(/\[+(\.\.\.)?\w+\]+/g, 'not-there')
    for (const [who, headers] of Object.entries(callers)) {
      if ((may as readonly string[]).includes('anyone') || (may as readonly string[]).includes(who)) continue
      const { status, text } = await ask('GET', path, undefined, headers)
      // Pages: whoever is in a class finds nothing there, others are asked who they are.
      const page = (who === 'student' || who === 'program') && path !== '/' ? 404 : 303
      expect([route, who, status], text.slice(0, 200)).toEqual([
        route,
        who,
        path.startsWith('/api/') ? expect.any(Number) : page,
      ])
      if (path.startsWith('/api/')) expect([401, 404]).toContain(status)
    }
  }
  // Parts of pages, as Next.js asks for them, are no way round.
  const parts = await ask('GET', '/?_rsc=x', undefined, { cookie, rsc: '1', 'next-url': '/class' })
  expect(parts.status).toBe(303)
})

test('a student enters by the code, draws a policy on a phone, and finds it in the standings', async ({
  browser,
  page,
}) => {
  await page.context().addCookies([{ name: 'pawn-owner', value: owner.split('=')[1], url: at(PORT) }])
  await page.goto(`${at(PORT)}/classes`)
  await page.getByLabel('Name of a new class').fill('Autumn')
  await page.getByRole('button', { name: 'Open a class' }).click()
  await expect(page.getByRole('heading', { name: 'Autumn' })).toBeVisible()
  await page.getByLabel('Exercise', { exact: true }).selectOption({ label: 'The way of the lamp robot' })
  await page.getByRole('checkbox', { name: 'Made-up names in standings' }).click()
  await page.getByRole('button', { name: 'Hand it out' }).click()
  await expect(
    page.getByRole('list', { name: 'Handed out' }).getByText('The way of the lamp robot'),
  ).toBeVisible()
  const entry = await page.getByText(`${at(PORT)}/join/`).textContent()

  const phone = await phonePage(browser)
  await phone.goto(entry!)
  await phone.getByLabel(/Your name/).fill('Ada <b>')
  await phone.getByRole('button', { name: 'Enter the class' }).click()
  await phone.getByRole('link', { name: /The way of the lamp robot/ }).click()
  await phone.getByRole('radio', { name: 'east' }).click()
  await phone.getByRole('button', { name: /Fill the rest/ }).click()
  // The keyboard draws as well: down the first column, so that the robot leaves by the south.
  const board = phone.getByRole('application')
  await board.focus()
  await phone.keyboard.press('3')
  for (let i = 0; i < 3; i++) {
    await phone.keyboard.press(' ')
    await phone.keyboard.press('ArrowDown')
  }
  // What is drawn is there again when the page is opened anew.
  await phone.reload()
  await expect(phone.getByText('Every state has an action.')).toBeVisible()
  await phone.getByRole('button', { name: 'Hand in this policy' }).click()
  const own = phone.getByRole('region', { name: 'Your hand-ins' })
  await expect(own.getByText(/of 100 points/)).toBeVisible()
  await own.getByRole('button', { name: 'Walk the worst episode' }).first().click()
  await expect(own.getByText(/Step 0 of/)).toBeVisible()
  await expect(phone.getByRole('region', { name: 'Standings' }).getByText('(you)')).toBeVisible()
  expect(await violations(phone)).toEqual([])

  // The instructor sees it grow, and ends it.
  await page.getByRole('link', { name: 'Standings for the projector' }).click()
  await expect(page.getByRole('cell', { name: 'Ada <b>' })).toBeVisible()
  expect(await violations(page)).toEqual([])
  await page.getByRole('link', { name: 'Autumn' }).click()
  await page.getByRole('button', { name: 'Remove: Ada <b>' }).click()
  await expect(page.getByRole('button', { name: 'Let back in: Ada <b>' })).toBeVisible()
  await expect(async () => {
    await phone.goto(`${at(PORT)}/class`)
    await expect(phone).toHaveURL(`${at(PORT)}/enter`, { timeout: 500 })
  }).toPass()
  await phone.context().close()
})

test('the class is asked, answers on phones, and sees what is true once it is revealed', async ({
  browser,
  page,
}) => {
  const room = await openClass('Questions')
  await page.context().addCookies([{ name: 'pawn-owner', value: owner.split('=')[1], url: at(PORT) }])
  const phone = await phonePage(browser)
  const { cookie } = await enters(room, 'Ada')
  await phone.context().addCookies([{ name: 'pawn-student', value: cookie.split('=')[1], url: at(PORT) }])
  await phone.goto(`${at(PORT)}/class`)
  await expect(phone.getByRole('heading', { name: 'Exercises' })).toBeVisible()

  await page.goto(`${at(PORT)}/classes/${room.id}`)
  await page.getByLabel('Question').fill('What is the value of C4?')
  await page.getByLabel(/Correct answer/).fill('2,916')
  await page.getByLabel(/Working/).fill('three fifths of the way')
  await page.getByRole('button', { name: 'Ask', exact: true }).click()
  await expect(page.getByText('0 answers so far')).toBeVisible()

  // It comes to the phone by itself, without what is true.
  const card = phone.getByRole('region', { name: 'Question to the class' })
  await expect(card.getByText('What is the value of C4?')).toBeVisible()
  const sent = await ask('GET', '/class', undefined, { cookie })
  for (const secret of ['2.916', 'three fifths']) expect(sent.text).not.toContain(secret)
  await card.getByLabel('Your answer, a number').fill('3,5')
  await card.getByRole('button', { name: 'Answer' }).click()
  await expect(card.getByText('Your answer: 3.5')).toBeVisible()
  // The last answer of each counts, one answer each.
  const question = page.url().split('/').at(-1)!
  const bo = await enters(room, 'Bo')
  for (const value of [1, 2])
    expect(
      (await ask('PUT', `/api/class/questions/${question}`, { value }, { cookie: bo.cookie })).status,
    ).toBe(204)
  await expect(page.getByText('2 answers so far')).toBeVisible()
  await expect(page.getByRole('img', { name: '2 answers from 2 to 3.5' })).toBeVisible()

  await page.getByRole('button', { name: 'Reveal the answer' }).click()
  await expect(page.getByText('three fifths of the way')).toBeVisible()
  await expect(card.getByText('three fifths of the way')).toBeVisible()
  expect(
    (await ask('PUT', `/api/class/questions/${question}`, { value: 3 }, { cookie: bo.cookie })).status,
  ).toBe(400)
  expect(await violations(phone)).toEqual([])
  expect(await violations(page)).toEqual([])
  // Another class knows nothing of it.
  const other = await enters(await openClass('Others'), 'Cy')
  expect(
    (await ask('PUT', `/api/class/questions/${question}`, { value: 3 }, { cookie: other.cookie })).status,
  ).toBe(404)
  await phone.context().close()
})

test('students follow what is shown, look at it on their own, and catch up after they lost the network', async ({
  browser,
  page,
}) => {
  const room = await openClass('Following')
  await page.context().addCookies([{ name: 'pawn-owner', value: owner.split('=')[1], url: at(PORT) }])
  const context = await browser.newContext()
  const { cookie } = await enters(room, 'Ada')
  await context.addCookies([{ name: 'pawn-student', value: cookie.split('=')[1], url: at(PORT) }])
  const follower = await context.newPage()
  await follower.goto(`${at(PORT)}/class/follow`)
  await expect(follower.getByText('Nothing is being shown.')).toBeVisible()

  await page.goto(at(PORT))
  await page
    .getByRole('link', { name: /Night rounds/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await page.getByRole('button', { name: 'Share this view' }).click()
  await page.getByRole('menuitem', { name: 'Let a class follow …' }).click()
  await page.getByRole('button', { name: /^Following/ }).click()
  await expect(page.getByText('The class Following follows what is shown here.')).toBeVisible()
  await expect(follower.getByRole('heading', { name: 'Night rounds' })).toBeVisible()
  const sweeps = (of: Page, number: number) =>
    expect(of.getByText(new RegExp(`^${number} of \\d+$`)).first()).toBeVisible()
  await sweeps(follower, 0)
  const forward = page.getByRole('button', { name: 'One sweep', exact: true })
  for (let i = 0; i < 3; i++) await forward.click()
  await sweeps(page, 3)
  await sweeps(follower, 3)

  await follower.getByRole('button', { name: 'Explore on my own' }).click()
  await forward.click()
  await sweeps(page, 4)
  await sweeps(follower, 3)
  await follower.getByRole('button', { name: 'Follow again' }).click()
  await sweeps(follower, 4)

  await context.setOffline(true)
  await forward.click()
  await forward.click()
  await sweeps(page, 6)
  await context.setOffline(false)
  await sweeps(follower, 6)

  // What has a truth to be hidden is not sent.
  await asOwner('PUT', `/api/classes/${room.id}/following`, await followed('Night rounds'))
  const refused = await ask(
    'PUT',
    `/api/classes/${room.id}/following`,
    await followed('Which poster', true),
    {
      cookie: owner,
    },
  )
  expect([refused.status, refused.text]).toEqual([
    400,
    expect.stringContaining('pages of students would carry it'),
  ])
  await asOwner('DELETE', `/api/classes/${room.id}/following`)
  await expect(follower.getByText('Nothing is being shown.')).toBeVisible()
  await context.close()
})

test('a class is asked what is covered; its answers lie beside the place, then what is true', async ({
  browser,
  page,
}) => {
  const room = await openClass('Covered')
  await page.context().addCookies([{ name: 'pawn-owner', value: owner.split('=')[1], url: at(PORT) }])
  const context = await browser.newContext({ viewport: { width: 1100, height: 760 } })
  const { cookie } = await enters(room, 'Ada')
  await context.addCookies([{ name: 'pawn-student', value: cookie.split('=')[1], url: at(PORT) }])
  const student = await context.newPage()
  await student.goto(`${at(PORT)}/class/follow`)

  const lessons = await asOwner<{ id: string; name: string }[]>('GET', '/api/lessons')
  const { id: lesson } = lessons.find(({ name }) => name === 'Values and sweeps')!
  await page.goto(`${at(PORT)}/lesson/${lesson}/present?at=6`)
  await page.getByRole('button', { name: 'Class', exact: true }).click()
  await page.getByRole('button', { name: /^Covered/ }).click()
  const board = page.getByTestId('presentation').locator('canvas[aria-roledescription=board]')
  await expect(board).toHaveAttribute('data-side')
  const followed = student.locator('canvas[aria-roledescription=board]')
  await expect(followed).toHaveAttribute('data-side')
  /** The middle of a cell of a board, and its side, on the page. */
  const cellOf = async (canvas: Locator, column: number, row: number) => {
    const box = (await canvas.boundingBox())!
    const number = async (name: string) => Number(await canvas.getAttribute(`data-${name}`))
    const [side, margin] = [await number('side'), await number('margin')]
    const scale = box.width / (10 * side + 2 * margin)
    const middle = (place: number) => (margin + (place + 0.5) * side) * scale
    return { x: box.x + middle(column), y: box.y + middle(row), side: side * scale }
  }
  // J5 lies below the cupboard at J4, which pays 30.
  const { x, y } = await cellOf(board, 9, 4)
  await page.keyboard.press('h')
  await page.mouse.click(x, y)
  // It is covered on the page of who follows, too, on the same cell.
  const cover = student.getByRole('img', { name: 'Covered by your instructor' })
  await expect(cover).toBeVisible()
  const there = await cellOf(followed, 9, 4)
  const lies = (await cover.boundingBox())!
  expect(Math.abs(lies.x + lies.width / 2 - there.x)).toBeLessThan(2)
  expect(Math.abs(lies.y + lies.height / 2 - there.y)).toBeLessThan(2)
  expect(Math.abs(lies.width - there.side)).toBeLessThan(2)

  await page.getByRole('button', { name: 'Ask', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByLabel('Question')).toHaveValue('What is the value of J5?')
  const truth = await dialog.getByLabel(/Correct answer/).inputValue()
  expect(Number(truth)).toBeGreaterThan(20)
  await dialog.getByLabel('Type of answer').selectOption('needle')
  await expect(dialog.getByLabel('Question')).toHaveValue('What does the policy do in J5?')
  await expect(dialog.getByLabel(/Correct answer/)).toHaveValue('north')
  await dialog.getByLabel('Type of answer').selectOption('number')
  await dialog.getByRole('button', { name: 'Ask', exact: true }).click()
  const panel = page.getByRole('region', { name: 'Answers of the class' })
  await expect(panel.getByText('0 answers so far')).toBeVisible()

  const card = student.getByRole('region', { name: 'Question to the class' })
  await card.getByLabel('Your answer, a number').fill('12')
  await card.getByRole('button', { name: 'Answer' }).click()
  await expect(panel.getByText('1 answer so far')).toBeVisible()
  await expect(panel.getByRole('img', { name: '1 answer from 12 to 12' })).toBeVisible()
  expect(await violations(page)).toEqual([])

  await panel.getByRole('button', { name: 'Reveal the answer' }).click()
  await expect(panel.getByText('Answer:')).toContainText(/north/)
  await expect(page.getByRole('button', { name: 'Covered: show it' })).toHaveCount(0)
  await expect(cover).toHaveCount(0)
  await panel.getByRole('button', { name: 'Close' }).click()
  await expect(panel).toHaveCount(0)
  await context.close()
})

/** What a class is let follow. @param hidden  whether the truth of a bandit is hidden */
async function followed(name: string, hidden = false) {
  const all = await asOwner<{ id: string; name: string }[]>('GET', '/api/environments')
  const { id } = all.find((each) => each.name.includes(name))!
  const { document } = await asOwner<{ document: { bandit?: object } }>('GET', `/api/environments/${id}`)
  const scene = {
    ...{
      stage: 'build',
      view: 'board',
      layers: [],
      selected: null,
      spread: false,
      planned: false,
      knobs: {},
    },
    ...{ tabs: {}, folds: {}, plan: null, learn: null, compare: null, check: null },
  }
  const shown = { title: name, text: '', scene }
  return { document: hidden ? { ...document, bandit: { ...document.bandit, hidden } } : document, shown }
}

test('one who asks without end is turned away for a while, and nobody else', async () => {
  const room = await openClass('Flooded')
  const [flood, other] = [await enters(room, 'Ada'), await enters(room, 'Bo')]
  const asks = async ({ cookie }: { cookie: string }) => ask('GET', '/api/class', undefined, { cookie })
  const all = await Promise.all(Array.from({ length: 250 }, () => asks(flood)))
  const refused = all.filter(({ status }) => status === 429)
  expect(refused.length).toBeGreaterThan(40)
  expect(all.filter(({ status }) => status === 200).length).toBeGreaterThan(150)
  const wait = Number(refused[0].headers['retry-after'])
  expect(wait).toBeGreaterThan(0)
  expect(wait).toBeLessThanOrEqual(10)
  expect((await asks(other)).status).toBe(200)
  await expect.poll(async () => (await asks(flood)).status, { timeout: 20_000 }).toBe(200)
})

test('pages of students carry nothing that is hidden', async () => {
  const room = await openClass('Secrets')
  const { cookie } = await enters(room, 'Bo')
  const exercises = await asOwner<ExerciseSummary[]>('GET', '/api/exercises')
  for (const given of room.assignments) {
    const { id } = exercises.find(({ name }) => name === given.name)!
    const { exercise } = await asOwner<{ exercise: { seeds: { hidden: number } } }>(
      'GET',
      `/api/exercises/${id}`,
    )
    for (const path of [
      `/class/exercise/${given.id}`,
      `/api/class/exercises/${given.id}`,
      '/class',
      '/api/class',
    ]) {
      const { status, text } = await ask('GET', path, undefined, { cookie })
      expect(status).toBe(200)
      expect(text).not.toContain(String(exercise.seeds.hidden))
      // Nothing of the document but what is shown.
      expect(text).not.toContain('jaunty-pawn/environment')
      expect(text).not.toContain('learningRate')
    }
  }
})

test('the clients of one page learn a table over the network, and hand in', async () => {
  const room = await openClass('Programs')
  const lamp = room.assignments.find(({ name }) => name === 'The way of the lamp robot')!
  const script = `
import sys
sys.path.insert(0, 'clients')
from class_client import *
room = Class(sys.argv[1], sys.argv[2])
learner = QLearner(discount=0.98)
learner.learn(room, sys.argv[3], 'Ordinary night', rounds=12)
made = room.hand_in(sys.argv[3], learner.choose)
print(made['state'], made['points'])
`
  const run = promisify(execFile)
  const python = await enters(room, 'Python')
  const first = await run('python3', ['-c', script, at(PORT), python.token, lamp.id])
  expect(first.stdout).toMatch(/^scored \d/)
  const node = await enters(room, 'Node')
  const second = await run(process.execPath, [
    '--input-type=module',
    '-e',
    `import { Class, QLearner } from './clients/class-client.mjs'
     const room = new Class('${at(PORT)}', '${node.token}')
     const learner = new QLearner({ discount: 0.98 })
     await learner.learn(room, '${lamp.id}', { level: 'Ordinary night', rounds: 12 })
     const { state, points } = await room.handIn('${lamp.id}', learner.choose)
     console.log(state + ' ' + points)`,
  ])
  expect(second.stdout).toMatch(/^scored \d/)
  const { text } = await ask('GET', `/api/classes/${room.id}/assignments/${lamp.id}/standings`, undefined, {
    cookie: owner,
  })
  const { standings } = JSON.parse(text) as { standings: { name: string; points: number }[] }
  // Far better than chance, which is worth no points.
  for (const name of ['Python', 'Node'])
    expect(standings.find((each) => each.name === name)!.points).toBeGreaterThan(20)
})

test('what programs are answered is as it is described, and nothing happens twice', async () => {
  const room = await openClass('Protocol')
  const vault = room.assignments.find(({ name }) => name === 'Open the vault')!
  const ada = { authorization: `Bearer ${(await enters(room, 'Ada')).token}` }
  const bo = { authorization: `Bearer ${(await enters(room, 'Bo')).token}` }
  const call = (method: string, path: string, body?: unknown, who = ada) =>
    ask(method, `/api/play${path}`, body, who)
  type Described = {
    paths: Record<
      string,
      Record<string, { responses: Record<string, { content?: Record<string, { schema: object }> }> }>
    >
  }
  const { paths } = JSON.parse(readFileSync('docs/protocol.openapi.json', 'utf8')) as Described
  const fits = (route: string, method: string, { status, text }: Answer) => {
    const { content } = paths[`/api/play${route}`][method].responses[status]
    const check = new Ajv2020({ strict: false }).compile(content!['application/json'].schema)
    expect(check(JSON.parse(text)), JSON.stringify(check.errors)).toBe(true)
    return JSON.parse(text)
  }
  fits('', 'get', await call('GET', ''))
  const begun = fits(
    '/sessions',
    'post',
    await call('POST', '/sessions', { exercise: vault.id, level: 'Four twists', episodes: 5, seed: 3 }),
  )
  expect(begun.actions).toEqual(['left', 'right', 'press', 'wrench'])
  const steps = `/sessions/${begun.session}/steps`
  const body = { number: 1, actions: [0, 1, 2, 3, 0] }
  const one = fits('/sessions/{session}/steps', 'post', await call('POST', steps, body))
  expect(JSON.parse((await call('POST', steps, body)).text)).toEqual(one)
  expect(fits('/sessions/{session}', 'get', await call('GET', `/sessions/${begun.session}`)).number).toBe(1)
  // Out of order, of a wrong number, impossible, of somebody else: nothing happens.
  for (const wrong of [
    { number: 3, actions: [0, 0, 0, 0, 0] },
    { number: 0, actions: [0, 0, 0, 0, 0] },
    { number: 2, actions: [0, 0] },
    { number: 2, actions: [0, 0, 0, 0, 99] },
    { number: 2, actions: [0, 0, 0, 0, -1] },
    { number: 2, actions: 'all' },
    { number: 2 },
    [[[[[[[[]]]]]]]],
  ])
    expect((await call('POST', steps, wrong)).status).toBe(400)
  expect((await call('POST', steps, { number: 2, actions: [0, 0, 0, 0, 0] }, bo)).status).toBe(404)
  expect((await call('GET', `/sessions/${begun.session}`, undefined, bo)).status).toBe(404)
  expect(fits('/sessions', 'get', await call('GET', '/sessions'))).toHaveLength(1)
  expect((await call('GET', `/sessions/${begun.session}`)).text).toContain('"number":1')
  // The same seed meets the same chance.
  const again = fits(
    '/sessions',
    'post',
    await call('POST', '/sessions', { exercise: vault.id, level: 'Four twists', episodes: 5, seed: 3 }),
  )
  expect(again.observations).toEqual(begun.observations)
  expect(JSON.parse((await call('POST', `/sessions/${again.session}/steps`, body)).text)).toEqual(one)
  expect((await call('DELETE', `/sessions/${begun.session}`)).status).toBe(204)
  expect((await call('GET', `/sessions/${begun.session}`)).status).toBe(404)
  // A hand-in says which parts there are, and not with which seed they are played.
  const made = fits('/hand-ins', 'post', await call('POST', '/hand-ins', { exercise: vault.id }))
  expect(made.parts).toHaveLength(6)
  const part = fits(
    '/hand-ins/{handIn}/parts',
    'post',
    await call('POST', `/hand-ins/${made.handIn}/parts`, { part: 4 }),
  )
  expect(part.seed).toBeNull()
  expect((await call('POST', `/hand-ins/${made.handIn}/parts`, { part: 4 })).status).toBe(400)
  expect((await call('POST', `/hand-ins/${made.handIn}/parts`, { part: 5 }, bo)).status).toBe(404)
  fits('/hand-ins/{handIn}', 'get', await call('GET', `/hand-ins/${made.handIn}`))
})

async function phonePage(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  return context.newPage()
}

/** What stands in the way of people who do not see, or do not use a mouse. */
async function violations(page: Page): Promise<string[]> {
  await page.evaluate(readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8'))
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run(options: object): Promise<{ violations: { id: string; nodes: { target: unknown }[] }[] }> }
    }
    const found = await axe.run({ runOnly: ['wcag2a', 'wcag2aa'] })
    return found.violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ target }) => String(target)).join(' ')}`,
    )
  })
}
