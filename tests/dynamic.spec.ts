import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import { compileEnvironment } from '../src/core/environment/compile'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { actionValues, greedyPolicy } from '../src/core/plan/backup'
import { comparePlans } from '../src/core/plan/difference'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import { ValueIteration } from '../src/core/plan/value-iteration'
import eveningTickets from '../demo/evening-tickets.json' with { type: 'json' }
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import { clickCell, dragCells, named, openNew, readout, savedDocument } from './study'

const NIGHT = nightRounds as unknown as EnvironmentDocument
const CORRIDOR = named('Corridor', ['....'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'D1', reward: 10, name: 'door' }],
})
const working = (page: Page) => page.getByRole('region', { name: 'Working' })
const lit = (page: Page) => page.getByRole('list', { name: 'Pseudo-code' }).locator('[aria-current=step]')

async function toTheEnd(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
}

function planned(document: EnvironmentDocument, discount: number) {
  const { model } = compileEnvironment(document)
  const planner = new ValueIteration(model, { ...PLAN_DEFAULTS, discount })
  while (planner.status.outcome === 'running') planner.sweep()
  const policy = greedyPolicy(model.rowStart, actionValues(planner.form, planner.values))
  return { model, values: planner.values, policy }
}

test('one backup at a time: selection, arithmetic and pseudo-code go along, forward and back', async ({
  page,
}) => {
  await openNew(page, CORRIDOR, 'plan')
  await page.getByLabel('Method', { exact: true }).selectOption({ label: 'Value iteration in place' })
  await page.getByLabel('Step by').selectOption('backup')
  await page.getByRole('button', { name: 'One backup', exact: true }).click()
  // From the ending backwards, C1 is the first: -1 + 10.
  await expect(page.getByRole('heading', { name: 'C1, sweep 1' })).toBeVisible()
  await expect(working(page)).toContainText('1 × ( 9 + 0.9 × 0 ) = 9')
  await page.keyboard.press('>')
  await expect(page.getByRole('heading', { name: 'B1, sweep 1' })).toBeVisible()
  await expect(working(page)).toContainText('1 × ( −1 + 0.9 × 9 ) = 7.1')
  expect(await readout(page, 'Backed up')).toBe('2 of 3')
  await expect(page.getByTestId('readout')).toContainText('B1: parquet; value 7.1')
  await page.getByRole('tab', { name: 'Pseudo-code' }).click()
  await expect(lit(page)).toContainText('V(s) ← max over a')
  await page.keyboard.press('>')
  await expect(lit(page)).toContainText('until')
  await page.getByRole('tab', { name: 'Working' }).click()
  await page.keyboard.press('<')
  await page.keyboard.press('<')
  await expect(page.getByRole('heading', { name: 'C1, sweep 1' })).toBeVisible()
  await clickCell(page, 0, 0)
  await expect(working(page)).toContainText('Not backed up yet in this sweep: 1 state comes first.')
  // The rest of the sweep at once.
  await page.keyboard.press('.')
  await expect(working(page)).toContainText('1 × ( −1 + 0.9 × 7.1 ) = 5.39')
})

test('a policy is evaluated to the end, improved once, and what turned is marked', async ({ page }) => {
  await openNew(page, { ...NIGHT, name: 'Evaluate and improve' }, 'plan')
  await page.getByLabel('Method', { exact: true }).selectOption({ label: 'Policy iteration' })
  await page.getByLabel('Evaluation', { exact: true }).selectOption('solve')
  await page.getByRole('button', { name: 'Evaluate', exact: true }).click()
  await expect.poll(() => readout(page, 'Sweep')).toBe('1 of 1')
  await page.keyboard.press('i')
  await expect.poll(() => readout(page, 'Status')).toBe('improved')
  await expect.poll(() => readout(page, 'Sweep')).toBe('2 of 2')
  await clickCell(page, 2, 3)
  await expect(working(page)).toContainText('The values stay; from here on the policy takes what is marked.')
  await page.keyboard.press('e')
  await expect.poll(() => readout(page, 'Sweep')).toBe('3 of 3')
  await expect(working(page)).toContainText('All values were found at once')
  await toTheEnd(page)
  await expect.poll(() => readout(page, 'Value at the start')).toBe('4.5974')
})

test('what if: the plan follows the discount, and says how many states act differently than before', async ({
  page,
}) => {
  await openNew(page, { ...NIGHT, name: 'What if' }, 'plan')
  await toTheEnd(page)
  await page.getByLabel('Slide the discount').fill('0.7')
  const [before, after] = [planned(NIGHT, NIGHT.discount), planned(NIGHT, 0.7)]
  const { turnedCount, compared } = comparePlans(after.model, after.values, after.policy, before)
  expect(turnedCount).toBeGreaterThan(0)
  await page.getByRole('tab', { name: 'What if' }).click()
  await expect(page.getByTestId('difference')).toContainText(
    `${turnedCount} of ${compared} states act differently`,
  )
  await page.getByLabel('Show the difference on the board').check()
  await expect(page.getByText('value now minus value kept')).toBeVisible()
  await clickCell(page, 0, 3)
  const a4 = after.model.labels.indexOf('A4')
  const difference = (after.values[a4] - before.values[a4]).toFixed(3).replace('-', '−')
  await expect(page.getByTestId('readout')).toContainText(`value ${difference}`)
  // A knob is followed as well; back where it all began nothing differs.
  await page.getByLabel('Slide the discount').fill(String(NIGHT.discount))
  await expect(page.getByTestId('difference')).toContainText(`0 of ${compared} states act differently`)
  await page.getByRole('slider', { name: 'veer' }).fill('0.4')
  await expect(page.getByTestId('difference')).not.toContainText(`0 of ${compared} states`)
  await page.getByRole('button', { name: 'Stop comparing' }).click()
  await expect(page.getByText('value now minus value kept')).toHaveCount(0)
})

test('bonuses that bend the best policy are found out', async ({ page }) => {
  await openNew(
    page,
    named('Bonus', ['....', '#.#.', '#.#.'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D3', reward: 10, name: '' }],
      bonuses: [{ at: 'B3', reward: 6, once: false, name: 'bust' }],
    }),
    'plan',
  )
  await toTheEnd(page)
  await page.getByRole('tab', { name: 'What if' }).click()
  await page.getByRole('button', { name: 'Without bonuses' }).click()
  await expect(page.getByText('the same, bonuses paying nothing')).toBeVisible()
  await expect(page.getByTestId('difference')).not.toContainText('0 of 7 states')
  await page.getByRole('button', { name: 'Bonuses as a potential' }).click()
  await expect(page.getByText('the same, bonuses as a potential')).toBeVisible()
  await expect(page.getByTestId('difference')).toContainText('states act differently')
})

test('two methods side by side have made equally many backups', async ({ page }) => {
  await openNew(page, { ...NIGHT, name: 'Side by side' }, 'plan')
  await page.getByRole('tab', { name: 'Side by side' }).click()
  await page.getByLabel('Compare with another method').selectOption('value-iteration-in-place')
  await expect(page.locator('canvas[aria-roledescription=board]')).toHaveCount(2)
  const captions = page.getByText(/backups, sweep/)
  await page.getByRole('button', { name: 'One sweep', exact: true }).click()
  await page.getByRole('button', { name: 'One sweep', exact: true }).click()
  await expect(captions.nth(0)).toContainText('352 backups, sweep 2')
  await expect(captions.nth(1)).toContainText('352 backups, sweep 2')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect(captions.nth(0)).toContainText('done')
  await expect(captions.nth(1)).toContainText('done')
  const work = async (i: number) =>
    Number((await captions.nth(i).innerText()).split(' b')[0].replace(/\D/g, ''))
  expect(await work(1)).toBeLessThan(await work(0))
  await page.getByRole('slider', { name: 'Backups' }).fill('1000')
  await expect.poll(() => work(0)).toBeLessThanOrEqual(1000)
  await expect.poll(() => work(1)).toBeGreaterThan(990)
})

test('a policy drawn by hand is evaluated, kept with the environment and undone', async ({ page }) => {
  const id = await openNew(page, CORRIDOR, 'plan')
  await page.getByLabel('Method', { exact: true }).selectOption('linear-solve')
  await page.getByRole('combobox', { name: 'Policy' }).selectOption('drawn')
  await dragCells(page, [0, 0], [3, 0])
  await expect(page.getByText('3 of 3 states are drawn')).toBeVisible()
  await toTheEnd(page)
  // East, east, east: -1 - 0.9 + 0.81 x 9.
  await expect.poll(() => readout(page, 'Value at the start')).toBe('5.39')
  await clickCell(page, 1, 0)
  await page.getByRole('region', { name: 'Drawn policy' }).getByRole('button', { name: 'west' }).click()
  // A1 east, B1 west, for ever: -1 / (1 - 0.9).
  await expect.poll(() => readout(page, 'Value at the start')).toBe('−10')
  await page.keyboard.press('Control+z')
  await expect.poll(() => readout(page, 'Value at the start')).toBe('5.39')
  expect((await savedDocument(page, id)).policy).toEqual({ A1: 'east', B1: 'east', C1: 'east' })
})

test('a finite horizon has values and best actions for every stage', async ({ page }) => {
  await openNew(page, { ...CORRIDOR, name: 'Horizon', discount: 1 }, 'plan')
  await page.getByLabel('Method', { exact: true }).selectOption('backward-induction')
  await page.getByLabel('Horizon (steps)').fill('5')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('all steps done')
  expect(await readout(page, 'Steps to go')).toBe('5 of 5')
  expect(await readout(page, 'Value at the start')).toBe('7')
  await page.getByLabel('Steps to go', { exact: true }).fill('2')
  await expect.poll(() => readout(page, 'Value at the start')).toBe('−2')
  await page.getByRole('button', { name: 'Steps to go' }).click()
  const board = page.getByRole('application', { name: /Steps to go: values/ })
  await board.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('readout')).toHaveText('C1, 3 to go: value 9; policy east')
  await page.getByRole('button', { name: 'Curve', exact: true }).click()
  await expect(page.getByRole('img', { name: 'value over column' })).toBeVisible()
  await page.keyboard.press('1')
  await expect(page.getByRole('button', { name: 'Curve', exact: true })).toHaveCount(0)
})

test('pictures and arrays are taken away', async ({ page }) => {
  await openNew(page, { ...(eveningTickets as unknown as EnvironmentDocument), name: 'Tickets' }, 'plan')
  await toTheEnd(page)
  const take = async (entry: string) => {
    await page.getByRole('button', { name: 'Export' }).click()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: entry, exact: true }).click(),
    ])
    return { name: download.suggestedFilename(), bytes: await readFile((await download.path())!) }
  }
  const svg = await take('Picture of the board (SVG)')
  expect(svg.name).toBe('tickets-board.svg')
  for (const words of ['>Tickets<', '>evening →<', '>196.47<', '>midpoint 98.23<', '>price 18<'])
    expect(svg.bytes.toString()).toContain(words)
  expect((await take('Picture of the strip (SVG)')).bytes.toString()).toContain('largest change')
  const png = await take('Picture of the board (PNG)')
  expect(png.bytes.subarray(1, 4).toString()).toBe('PNG')
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(600)
  const array = await take('Values (.npy)')
  const { model } = compileEnvironment(eveningTickets as unknown as EnvironmentDocument)
  expect(array.bytes.toString('latin1')).toContain(`'shape': (${model.states},)`)
  expect(array.bytes.readDoubleLE(array.bytes.length - 8 * model.states)).toBeCloseTo(196.4688, 3)
})
