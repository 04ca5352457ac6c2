import { expect, test } from '@playwright/test'
import { compileEnvironment } from '../src/core/environment/compile'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import { ValueIteration } from '../src/core/plan/value-iteration'
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import { alerts, clickCell, exportText, named, openNew, readout } from './study'

const CORRIDOR = named('Corridor', ['....'], {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'D1', reward: 10, name: 'door' }],
})

test('a sweep at a time, with the arithmetic of each backup, forward and back', async ({ page }) => {
  await openNew(page, CORRIDOR, 'plan')
  await clickCell(page, 2, 0)
  await expect(page.getByRole('heading', { name: 'C1, before the first sweep' })).toBeVisible()
  await page.getByRole('button', { name: 'One sweep', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'C1, sweep 1' })).toBeVisible()
  const working = page.getByRole('region', { name: 'Working' })
  await expect(working).toContainText('1 × ( 9 + 0.9 × 0 ) = 9')
  await page.keyboard.press('.')
  await clickCell(page, 1, 0)
  // After two sweeps B1 knows of C1's 9: -1 + 0.9 x 9.
  await expect(working).toContainText('1 × ( −1 + 0.9 × 9 ) = 7.1')
  await expect(page.getByTestId('readout')).toHaveText('B1: parquet; value 7.1; policy east')
  await page.keyboard.press(',')
  await expect(page.getByRole('heading', { name: 'B1, sweep 1' })).toBeVisible()
  await expect(working).toContainText('1 × ( −1 + 0.9 × 0 ) = −1')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  // A1: -1 - 0.9 + 0.81 x 9
  expect(await readout(page, 'Value at the start')).toBe('5.39')
  // A new name is no new model: the plan stays.
  await page.getByLabel('Name of the environment').fill('Corridor, renamed')
  await page.getByLabel('Name of the environment').press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()
  expect(await readout(page, 'Value at the start')).toBe('5.39')
  await page.getByLabel('Sweep', { exact: true }).fill('1')
  await expect(page.getByRole('heading', { name: 'B1, sweep 1' })).toBeVisible()
})

test('plays at its speed, pauses, and goes on', async ({ page }) => {
  // Without an ending and with this discount it takes a minute and more at full speed of the slider.
  await openNew(page, { ...named('Play', ['....']), discount: 0.995 }, 'plan')
  await page.getByRole('slider', { name: 'Speed' }).fill('4')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
  await expect.poll(async () => Number((await readout(page, 'Sweep')).split(' ')[0])).toBeGreaterThan(3)
  await page.getByRole('button', { name: 'Pause' }).click()
  await expect(page.getByRole('button', { name: 'Play' })).toBeFocused()
  const stopped = await readout(page, 'Sweep')
  await page.waitForTimeout(300)
  expect(await readout(page, 'Sweep')).toBe(stopped)
})

test('what the page exports is what the core computes, to the bit', async ({ page }) => {
  const document = { ...(nightRounds as unknown as EnvironmentDocument), name: 'Quillhaven at night' }
  await openNew(page, document, 'plan')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  const { name, text } = await exportText(page, 'Values (CSV)')
  expect(name).toBe('quillhaven-at-night-values.csv')
  const { model } = compileEnvironment(document)
  const iteration = new ValueIteration(model, { ...PLAN_DEFAULTS, discount: document.discount })
  while (iteration.status.outcome === 'running') iteration.sweep()
  const lines = text.trimEnd().split('\r\n')
  expect(lines[0]).toBe('state,value')
  expect(lines.slice(1)).toEqual(model.labels.map((label, s) => `${label},${iteration.values[s]}`))
  const actions = await exportText(page, 'Action values (CSV)')
  expect(actions.text.split('\r\n')[0]).toBe('state,action,value')
  expect(actions.text.trimEnd().split('\r\n')).toHaveLength(1 + model.rows)
  const exported = JSON.parse((await exportText(page, 'Environment (JSON)')).text)
  expect(exported).toEqual(document)
})

test('a grid without a way out at discount 1 is reported, not looped on', async ({ page }) => {
  await openNew(
    page,
    named('Locked', ['..#.'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: '' }],
    }),
    'plan',
  )
  await page.getByLabel('Discount', { exact: true }).fill('1')
  await expect(alerts(page)).toContainText('no action leads from A1, B1 to an ending')
  await expect(page.getByRole('button', { name: 'Play' })).toBeDisabled()
  await page.getByLabel('Discount', { exact: true }).fill('0.9')
  await expect(alerts(page)).toHaveCount(0)
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Value at the start')).toBe('−10')
})

test('the same numbers stand in the table, sorted and searched', async ({ page }) => {
  await openNew(page, CORRIDOR, 'plan')
  await page.getByRole('button', { name: 'To the end' }).click()
  await page.getByRole('button', { name: 'Table' }).click()
  const rows = page.getByRole('table').getByRole('row')
  await expect(rows.filter({ hasText: 'B1' })).toContainText('7.100')
  await page.getByRole('columnheader', { name: 'Value' }).click()
  await expect(rows.nth(1)).toContainText('C1')
  await page.getByLabel('Find a state').fill('d1')
  await expect(page.getByText('1 of 4 states')).toBeVisible()
  await expect(rows.nth(1)).toContainText('D1 · ending')
})

test('every method comes to the same values, with its own work and its own working', async ({ page }) => {
  await openNew(page, { ...(nightRounds as unknown as EnvironmentDocument), name: 'By every method' }, 'plan')
  await clickCell(page, 2, 3)
  const working = page.getByRole('region', { name: 'Working' })
  const backups: Record<string, number> = {}
  for (const method of [
    'Value iteration',
    'Value iteration in place',
    'Modified policy iteration',
    'Policy iteration',
  ]) {
    await page.getByLabel('Method', { exact: true }).selectOption({ label: method })
    await page.getByRole('button', { name: 'To the end' }).click()
    await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
    await expect.poll(() => readout(page, 'Value at the start')).toBe('4.5974')
    backups[method] = Number((await readout(page, 'Backups')).replace(/\D/g, ''))
  }
  expect(backups['Value iteration in place']).toBeLessThan(backups['Value iteration'])
  // The last one was policy iteration: its last sweep improved, the one before evaluated.
  await expect(working).toContainText('The values stay; from here on the policy takes what is marked.')
  await page.getByRole('button', { name: 'One sweep back' }).click()
  await expect(working).toContainText('taken with 1')
  await page.getByLabel('Sweep', { exact: true }).fill('1')
  await expect(page.getByTestId('readout')).toContainText(
    'policy north 0.25, east 0.25, south 0.25, west 0.25',
  )
  await page.getByLabel('Method', { exact: true }).selectOption({ label: 'Value iteration in place' })
  await page.getByLabel('Order of a sweep').selectOption('forward')
  await page.getByRole('button', { name: 'One sweep', exact: true }).click()
  await expect(working).toContainText('in place')
})
