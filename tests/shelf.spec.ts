import { expect, test, type Page } from '@playwright/test'
import { named, putOnShelf, newEnvironment } from './study'

const item = (page: Page, name: string) =>
  page.getByRole('listitem').filter({ has: page.getByRole('link', { name, exact: true }) })

async function choose(page: Page, name: string, entry: string) {
  await item(page, name)
    .getByRole('button', { name: `More for ${name}` })
    .click()
  await page.getByRole('menuitem', { name: entry }).click()
}

async function importFile(page: Page, name: string, contents: string | Buffer) {
  await page
    .getByLabel('File to import')
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(contents) })
}

test('the demo stands on the shelf, with pictures and sizes', async ({ page }) => {
  // Other tests put many in front of them.
  await page.goto('/?show=1000')
  await expect(item(page, 'Night rounds')).toContainText('Grid · 48 states · 4 actions')
  await expect(item(page, 'The alarm beam')).toContainText('Grid · 77 states · 4 actions')
  await expect(item(page, 'Night rounds')).toContainText(/changed (just now|\d+ minutes? ago)/)
  await item(page, 'Night rounds').scrollIntoViewIfNeeded()
  await expect(
    item(page, 'Night rounds').locator('svg[aria-label="The board of Night rounds"]'),
  ).toBeVisible()
})

test('a new grid is made, and stays after a reload', async ({ page }) => {
  await page.goto('/')
  await newEnvironment(page, 'New grid')
  await page.getByLabel('Name', { exact: true }).fill('East wing')
  await page.getByLabel('Columns').fill('12')
  await page.getByLabel('Rows', { exact: true }).fill('99')
  await expect(page.getByText('Write a whole number from 1 to 64.')).toBeVisible()
  await page.getByLabel('Rows', { exact: true }).fill('5')
  await page.getByLabel('Bare floor').check()
  await page.getByRole('button', { name: 'Create' }).click()
  await expect(page.getByTestId('size')).toContainText('60 states')
  await page.goto('/')
  await expect(item(page, 'East wing')).toContainText('60 states')
})

test('rename, duplicate, delete and undo', async ({ page }) => {
  await putOnShelf(page.request, named('Porch', ['...']))
  await page.goto('/')
  await choose(page, 'Porch', 'Rename')
  await page.getByLabel('New name').fill('Back porch <script>')
  await page.getByLabel('New name').press('Enter')
  await expect(item(page, 'Back porch <script>')).toBeVisible()
  await choose(page, 'Back porch <script>', 'Duplicate')
  await expect(item(page, 'Back porch <script> (copy)')).toBeVisible()
  await choose(page, 'Back porch <script>', 'Delete')
  await expect(item(page, 'Back porch <script>')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(item(page, 'Back porch <script>')).toBeVisible()
  await page.reload()
  await expect(item(page, 'Back porch <script>')).toBeVisible()
})

test('a document and a transition list are imported', async ({ page }) => {
  await page.goto('/')
  await importFile(page, 'walk.json', JSON.stringify(named('Imported walk', ['....'])))
  await expect(page.getByLabel('Name of the environment')).toHaveValue('Imported walk')
  await page.goto('/')
  await importFile(
    page,
    'docent round.csv',
    '\uFEFFstate,action,next_state,probability,reward\r\n"foyer, east",walk,café,1,2\r\ncafé,sit,café,0.5,1\r\ncafé,sit,street,0.5,0\r\n',
  )
  await expect(page.getByLabel('Name of the environment')).toHaveValue('docent round')
  await expect(page.getByRole('gridcell', { name: 'foyer, east' })).toBeVisible()
  await expect(page.getByTestId('size')).toContainText('3 states, 1 of them endings')
})

for (const [name, contents, message] of [
  ['broken.json', '{"format":', 'This is not valid JSON.'],
  ['other.json', '{"format":"something"}', 'An environment has "format": "jaunty-pawn/environment".'],
  ['sum.csv', 'state,action,next_state,probability,reward\na,go,b,0.9,0\n', 'sum to 0.9'],
  ['nan.csv', 'state,action,next_state,probability,reward\na,go,b,NaN,0\n', 'line 2, column probability'],
  [
    'ragged.csv',
    'state,action,next_state,probability,reward\na,go\n',
    'It has 2 fields where the header has 5.',
  ],
  ['missing.csv', 'state,action,next_state,reward\na,go,b,0\n', 'The column "probability" is missing.'],
  ['empty.csv', '', 'It is empty.'],
  ['binary.csv', Buffer.from([1, 2, 0, 3, 255]), 'byte 3'],
  ['line.csv', 'x'.repeat(5_000_000), 'It is 5000000 characters long.'],
] as const)
  test(`${name} is refused with the place, and nothing is stored`, async ({ page }) => {
    await page.goto('/')
    const before = await (await page.request.get('/api/environments')).json()
    await importFile(page, name, contents)
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText(`“${name}” could not be read`)
    await expect(dialog).toContainText(message)
    await dialog.getByRole('button', { name: 'Close' }).click()
    await expect(dialog).toHaveCount(0)
    expect(await (await page.request.get('/api/environments')).json()).toEqual(before)
  })

test('an address that leads nowhere says so', async ({ page }) => {
  for (const address of ['/environment/nobody/plan', '/nowhere']) {
    const response = await page.goto(address)
    expect(response!.status()).toBe(404)
    await expect(page.getByRole('heading', { name: 'Nothing is here' })).toBeVisible()
  }
})

test('the interface for programs refuses nonsense with the place', async ({ request }) => {
  const post = await request.post('/api/environments', { data: 'nonsense' })
  expect(post.status()).toBe(400)
  const { problems } = await post.json()
  expect(problems[0]).toEqual({
    place: expect.any(String),
    cause: expect.any(String),
    remedy: expect.any(String),
  })
  expect((await request.get('/api/environments/nobody')).status()).toBe(404)
  expect((await request.delete('/api/environments/nobody')).status()).toBe(404)
  expect((await request.put('/api/environments/nobody', { data: '{"revision":1}' })).status()).toBe(400)
  expect((await request.patch('/api/environments/nobody', { data: '{"name":""}' })).status()).toBe(400)
})
