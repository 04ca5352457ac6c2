import { expect, test, type Page } from '@playwright/test'
import { clickCell, readout } from './study'

// Not a test: takes the pictures of the README from the demo shelf, by `npm run screenshots`.

async function open(page: Page, name: string, stage: string): Promise<void> {
  const shelf = (await (await page.request.get('/api/environments')).json()) as { id: string; name: string }[]
  await page.goto(`/environment/${shelf.find((each) => each.name === name)!.id}/${stage}`)
  await expect(page.locator('[data-ready=true]')).toBeVisible()
}

async function toTheEnd(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toMatch(/within tolerance|done/)
}

async function learn(page: Page, episodes?: number): Promise<void> {
  if (episodes) await page.getByLabel('Episodes', { exact: true }).fill(String(episodes))
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Status'), { timeout: 40_000 }).toBe('done')
}

const PICTURES: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  async shelf(page) {
    await page.goto('/')
    await expect(page.getByLabel('Environments').getByRole('listitem')).toHaveCount(16)
  },
  async build(page) {
    await open(page, 'The draughty hall', 'build')
    await page.getByRole('radio', { name: /^Draught/ }).click()
  },
  async plan(page) {
    await open(page, 'Night rounds', 'plan')
    await toTheEnd(page)
    await clickCell(page, 2, 3)
  },
  async stages(page) {
    await open(page, 'Evening tickets', 'plan')
    await page.getByLabel('Method', { exact: true }).selectOption('backward-induction')
    await page.getByRole('button', { name: 'To the end' }).click()
    await expect.poll(() => readout(page, 'Status')).toBe('all steps done')
    await page.getByRole('button', { name: 'Steps to go' }).click()
  },
  async 'rulebook-plan'(page) {
    await open(page, 'Evening tickets', 'plan')
    await toTheEnd(page)
  },
  async rulebook(page) {
    await open(page, 'Evening tickets', 'build')
    await expect(page.locator('.cm-content')).toBeVisible()
  },
  async table(page) {
    await open(page, 'A docent’s round', 'build')
  },
  async 'hand-out-night'(page) {
    await page.goto('/')
    await page.getByRole('link', { name: 'Q-learning step by step', exact: true }).click()
    const [handed] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Hand out' }).click(),
    ])
    const file = test.info().outputPath('page.html')
    await handed.saveAs(file)
    await page.emulateMedia({ colorScheme: 'dark' })
    await page.goto(`file://${file}`)
    for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'The next view' }).click()
    await expect(page.locator('[data-name=steps]')).toHaveText('2\u202f407')
  },
  async learn(page) {
    await open(page, 'The alarm beam', 'learn')
    await learn(page)
  },
  async findings(page) {
    await open(page, 'The trolley on the ramp', 'learn')
    await learn(page)
    await page.getByRole('tab', { name: 'Findings' }).click()
    await expect(page.getByTestId('diagnosis-line')).toBeVisible({ timeout: 60_000 })
    await page.getByLabel('Findings').getByRole('listitem').first().hover()
  },
  async lesson(page) {
    await page.goto('/')
    await page.getByRole('link', { name: 'Present Values and sweeps' }).click()
    await expect(page.locator('[data-name="knob veer"]')).toHaveText('0.2')
    for (let i = 0; i < 5; i++) await page.keyboard.press('PageDown')
    await expect(page.locator('[data-name=sweeps]')).toHaveText('62')
  },
  async episode(page) {
    await open(page, 'Night rounds', 'learn')
    await page.getByLabel('Method', { exact: true }).selectOption('actor-critic')
    await learn(page, 250)
    await page.getByRole('tab', { name: 'Episode' }).click()
    await page.getByRole('button', { name: /Measure over/ }).click()
    await expect(page.getByText(/exact values removes/)).toBeVisible()
    await page.getByRole('button', { name: 'Step before' }).click()
    await page.getByRole('tab', { name: 'Episode' }).scrollIntoViewIfNeeded()
  },
  async landscape(page) {
    await open(page, 'Same-looking doors', 'learn')
    await learn(page)
    await page.getByRole('button', { name: 'Landscape' }).click()
    await page.getByLabel('Across', { exact: true }).selectOption({ label: 'door 2' })
    await page.getByLabel('Across: probability of').selectOption({ label: 'open' })
    await page.getByLabel('Up', { exact: true }).selectOption({ label: 'door 4' })
    await expect(page.getByText('Click a point to begin a run with that policy.')).toBeVisible()
  },
  async agents(page) {
    await open(page, 'Loans of the season', 'learn')
    await page.getByRole('tab', { name: 'Agents' }).click()
    const run = page.getByRole('button', { name: 'Run', exact: true })
    await run.click()
    await expect(run).toBeDisabled({ timeout: 40_000 })
    await page.getByLabel('of', { exact: true }).selectOption('best')
    await page.getByRole('table').last().scrollIntoViewIfNeeded()
  },
  async compare(page) {
    await open(page, 'The alarm beam', 'compare')
    await expect(page.getByLabel('Which comparison')).toContainText('On-policy and off-policy')
    await page.getByLabel('Add a contestant').selectOption({ label: 'a random agent' })
    const run = page.getByRole('button', { name: 'Run', exact: true })
    await run.click()
    await expect(run).toBeDisabled({ timeout: 40_000 })
  },
  async seeds(page) {
    await open(page, 'The alarm beam', 'learn')
    await page.getByLabel('Method').selectOption('sarsa')
    await learn(page)
    await page.getByRole('tab', { name: 'Seeds' }).click()
    await page.getByRole('button', { name: 'Run', exact: true }).click()
    await expect(page.getByTestId('place')).toContainText(/of 30/, { timeout: 40_000 })
    await page.keyboard.press('c')
  },
  async check(page) {
    await open(page, 'Night rounds', 'check')
    for (const key of 'sss') await page.keyboard.press(key)
    await page.getByRole('button', { name: 'what can happen' }).nth(1).click()
    await expect(page.getByTestId('verdict')).toContainText('No error')
  },
}

for (const [name, show] of Object.entries(PICTURES))
  test(name, async ({ page }) => {
    await show(page)
    // Charts and boards are moved into place.
    await page.waitForTimeout(1500)
    await page.screenshot({ path: `docs/screenshots/${name}.png` })
  })

/** A class to which an exercise of the demo is handed out, with students. */
async function classWith(page: Page, students: number): Promise<{ id: string; cookies: string[] }> {
  const post = async (path: string, data: unknown) => (await page.request.post(path, { data })).json()
  const { id } = await post('/api/classes', { name: 'Museum school, autumn' })
  const exercises = (await (await page.request.get('/api/exercises')).json()) as {
    id: string
    name: string
  }[]
  const { id: exercise } = exercises.find(({ name }) => name === 'The way of the lamp robot')!
  await post(`/api/classes/${id}/assignments`, { exercise, tries: 5, closesAt: null, madeUpNames: true })
  const { code } = (await (await page.request.get(`/api/classes/${id}`)).json()) as { code: string }
  const cookies: string[] = []
  for (let i = 0; i < students; i++) {
    const entered = await page.request.post('/api/join', { data: { code, name: '' } })
    cookies.push(entered.headers()['set-cookie'].split(';')[0].split('=')[1])
  }
  return { id, cookies }
}

test('class-question', async ({ page, baseURL }) => {
  const { id, cookies } = await classWith(page, 42)
  const lessons = (await (await page.request.get('/api/lessons')).json()) as { id: string; name: string }[]
  const { id: lesson } = lessons.find(({ name }) => name === 'Values and sweeps')!
  await page.goto(`/lesson/${lesson}/present?at=6`)
  await page.getByRole('button', { name: 'Class', exact: true }).click()
  await page.getByRole('dialog').getByRole('button').first().click()
  const board = page.getByTestId('presentation').locator('canvas[aria-roledescription=board]')
  await expect(board).toHaveAttribute('data-side')
  const box = (await board.boundingBox())!
  await page.keyboard.press('h')
  // E4, in the middle of the corridor.
  await page.mouse.click(box.x + box.width * 0.45, box.y + box.height * 0.5)
  await page.getByRole('button', { name: 'Ask', exact: true }).click()
  const asked = page.waitForResponse(
    (each) => each.url().endsWith(`/api/classes/${id}/questions`) && each.request().method() === 'POST',
  )
  await page.getByRole('dialog').getByRole('button', { name: 'Ask', exact: true }).click()
  const { id: question } = (await (await asked).json()) as { id: string }
  for (const [i, cookie] of cookies.entries())
    await fetch(`${baseURL}/api/class/questions/${question}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', cookie: `pawn-student=${cookie}` },
      body: JSON.stringify({ value: 12 + ((i * i * 7) % 41) / 8 + (i % 9 === 0 ? 6 : 0) }),
    })
  await expect(page.getByText('42 answers so far')).toBeVisible()
  await page.waitForTimeout(500)
  await page.screenshot({ path: 'docs/screenshots/class-question.png' })
})

test('class-student', async ({ page, browser, baseURL }) => {
  const { cookies } = await classWith(page, 1)
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, baseURL })
  await context.addCookies([{ name: 'pawn-student', value: cookies[0], url: baseURL }])
  const phone = await context.newPage()
  await phone.goto('/class')
  await phone.getByRole('link', { name: /The way of the lamp robot/ }).click()
  await phone.getByRole('radio', { name: 'east' }).click()
  await phone.getByRole('button', { name: /Fill the rest/ }).click()
  await phone.waitForTimeout(800)
  await phone.screenshot({ path: 'docs/screenshots/class-student.png' })
  await context.close()
})
