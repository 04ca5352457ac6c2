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
  async 'side-by-side'(page) {
    await open(page, 'Night rounds', 'plan')
    await page.getByRole('tab', { name: 'Side by side' }).click()
    await page.getByLabel('Compare with another method').selectOption('value-iteration-in-place')
    for (let i = 0; i < 8; i++) await page.getByRole('button', { name: 'One sweep', exact: true }).click()
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
  async bounds(page) {
    await open(page, 'Which poster draws visitors', 'learn')
    await page.getByLabel('Method', { exact: true }).selectOption('bandit-values')
    await page.getByRole('button', { name: 'Schedules and more' }).click()
    await page.getByLabel('Explores').selectOption('ucb1')
    await page.getByRole('textbox', { name: 'Confidence width' }).fill('0.3')
    await learn(page, 300)
    await page.getByRole('checkbox', { name: 'Pull by hand' }).check()
    for (const arm of ['marble hand', 'night owl', 'lantern walk', 'night owl'])
      await page.getByRole('region', { name: 'Pull by hand' }).getByRole('button', { name: arm }).click()
    await page.getByRole('region', { name: 'The next choice' }).scrollIntoViewIfNeeded()
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
