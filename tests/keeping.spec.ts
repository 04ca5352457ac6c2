import { expect, test, type Page } from '@playwright/test'
import type { GridEnvironment } from '../src/core/kinds/grid/kind'
import { newBandit } from '../src/core/kinds/bandit/blank'
import { PAY_OFFS } from '../src/core/kinds/bandit/pay-off'
import { alerts, clickCell, named, openNew, savedDocument } from './study'

const FLOOR = ['....', '....']

async function importText(page: Page, name: string, text: string) {
  await page.goto('/')
  await page
    .getByLabel('File to import')
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
}

test('versions: kept automatically and by name, compared, restored, undone', async ({ page }) => {
  const id = await openNew(page, named('Kept', FLOOR))
  const floor = async () => ((await savedDocument(page, id)) as GridEnvironment).grid.floor
  await clickCell(page, 1, 0)
  await savedDocument(page, id)
  await page.getByRole('button', { name: 'Versions' }).click()
  const dialog = page.getByRole('dialog', { name: 'Versions' })
  await expect(dialog.getByText('kept automatically')).toHaveCount(1)
  await dialog.getByLabel('Name of the version').fill('one wall')
  await dialog.getByRole('button', { name: 'Keep this version' }).click()
  await expect(dialog.getByText('Nothing differs.')).toBeVisible()
  await dialog.getByText('kept automatically').click()
  await expect(dialog.getByLabel('Differences')).toHaveText('Cell B1: parquet → wall')
  await dialog.getByRole('button', { name: 'Restore this version' }).click()
  await expect(dialog).toHaveCount(0)
  expect(await floor()).toEqual(FLOOR)
  await page.keyboard.press('Control+z')
  expect(await floor()).toEqual(['.#..', '....'])
  await page.reload()
  await page.getByRole('button', { name: 'Versions' }).click()
  await expect(dialog.getByLabel('Versions').getByRole('button')).toHaveCount(3)
  await dialog.getByRole('button', { name: 'before restoring' }).click()
  await dialog.getByRole('button', { name: 'Open as a copy' }).click()
  await expect(page.getByLabel('Name of the environment')).toHaveValue('Kept (earlier)')
})

test('a variant follows its base, shows what it says otherwise, and takes it back', async ({ page }) => {
  const base = await openNew(page, named('Trunk', FLOOR))
  await page.goto('/')
  await page.getByRole('button', { name: 'More for Trunk' }).click()
  await page.getByRole('menuitem', { name: 'New variant' }).click()
  await expect(page.getByLabel('Name of the environment')).toHaveValue('Trunk, variant')
  const panel = page.getByRole('complementary')
  await expect(panel).toContainText('Nothing differs.')
  await panel.getByLabel('Veer chance').fill('0.4')
  await clickCell(page, 0, 0)
  await expect(panel.getByLabel('Differences').getByRole('listitem')).toHaveText([
    'Cell A1: parquet → wall',
    'Veer chance: 0 → 0.4',
  ])
  const variant = page.url().split('/').at(-2)!
  await savedDocument(page, variant)

  await page.goto(`/environment/${base}/build`)
  await clickCell(page, 3, 1)
  await page.getByLabel('Reward of a step').fill('-5')
  await savedDocument(page, base)
  await page.goto(`/environment/${variant}/build`)
  expect((await savedDocument(page, variant)) as GridEnvironment).toMatchObject({
    name: 'Trunk, variant',
    grid: { floor: ['#...', '...#'], veer: 0.4, stepReward: -5 },
  })
  await panel.getByRole('button', { name: 'Undo: Cell A1' }).click()
  await expect(panel.getByLabel('Differences').getByRole('listitem')).toHaveText(['Veer chance: 0 → 0.4'])
  await page.goto('/')
  await expect(page.getByRole('listitem').filter({ hasText: 'variant of Trunk' })).toHaveCount(1)
})

test('a variant that is open carries its changes over when its base has changed elsewhere', async ({
  page,
  context,
}) => {
  const base = await openNew(page, named('Root', FLOOR))
  const response = await page.request.post(`/api/environments/${base}/variant`, { data: { name: 'Twig' } })
  const { id } = await response.json()
  const twig = await context.newPage()
  await twig.goto(`/environment/${id}/build`)
  await expect(twig.getByTestId('size')).toBeVisible()
  await clickCell(page, 2, 1)
  await savedDocument(page, base)
  await clickCell(twig, 0, 0)
  const floor = async () => ((await savedDocument(twig, id)) as GridEnvironment).grid.floor
  await expect.poll(floor).toEqual(['#...', '..#.'])
  await expect(alerts(twig)).toHaveCount(0)
  // What is undone is the change that was made here; the base's stays.
  await twig.keyboard.press('Control+z')
  await expect.poll(floor).toEqual(['....', '..#.'])
})

test('what was deleted while it was open is brought back, or kept as a copy', async ({ page }) => {
  const id = await openNew(page, named('Lost and found', FLOOR))
  expect((await page.request.delete(`/api/environments/${id}`)).status()).toBe(204)
  await clickCell(page, 1, 0)
  await expect(alerts(page)).toContainText('It was deleted elsewhere, and lies in the bin.')
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(alerts(page)).toHaveCount(0)
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor).toEqual(['.#..', '....'])
  expect((await page.request.delete(`/api/environments/${id}`)).status()).toBe(204)
  await clickCell(page, 2, 0)
  await page.getByRole('button', { name: 'Keep mine as a copy' }).click()
  await expect(page.getByLabel('Name of the environment')).toHaveValue('Lost and found (mine)')
  await expect(page.getByTestId('size')).toContainText('6 states')
})

test('maps and rulebooks are known by the ending of their file', async ({ page }) => {
  await importText(page, 'hall.txt', 'S..#\n..~X\n\n~ = ground mud, cost 2\nS = start\nX = ending 5 door')
  await expect(page.getByTestId('size')).toContainText('7 states, 1 of them endings')
  await importText(page, 'typo.rules', 'stat x from 0 to 3\n')
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('“typo.rules” could not be read')
  await expect(dialog).toContainText('line 1')
  await expect(dialog).toContainText('stat')
})

for (const [name, text, message] of [
  ['future.json', JSON.stringify({ ...named('f', FLOOR), version: 99 }), 'The document is of version 99'],
  [
    'long.json',
    JSON.stringify(named('x'.repeat(10_000), FLOOR)),
    'Its length must be less than or equal to 120',
  ],
  [
    'arms.json',
    JSON.stringify({
      ...newBandit('b'),
      bandit: {
        arms: Array.from({ length: 300 }, (_, i) => ({ name: `a${i}`, pays: [PAY_OFFS.bernoulli.plain] })),
      },
    }),
    'It has 300 arms; a bandit may have 100',
  ],
  [
    'field.json',
    JSON.stringify(
      named(
        'field',
        Array.from({ length: 4000 }, () => '.'.repeat(4000)),
      ),
    ),
    'The grid has 4000 x 4000 = 16000000 cells.',
  ],
] as const)
  test(`${name} is refused with its reason`, async ({ page }) => {
    await importText(page, name, text)
    await expect(page.getByRole('dialog')).toContainText(message, { timeout: 30_000 })
  })

test('a document of version 1 is read as it always was', async ({ page }) => {
  const old = {
    format: 'jaunty-pawn/environment',
    version: 1,
    kind: 'grid',
    name: '<b>Old & bold</b>',
    grid: { floor: ['..', '.#'], endings: [{ at: 'B1', reward: 2 }], veer: 0.1 },
  }
  await importText(page, 'old.json', JSON.stringify(old))
  await expect(page.getByLabel('Name of the environment')).toHaveValue('<b>Old & bold</b>')
  await expect(page.getByTestId('size')).toContainText('3 states, 1 of them endings')
  const id = page.url().split('/').at(-2)!
  expect(await savedDocument(page, id)).toMatchObject({
    version: 2,
    knobs: [],
    grid: { moves: 4, tokens: [] },
  })
})
