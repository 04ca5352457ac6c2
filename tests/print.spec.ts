import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import { checkEnvironment } from '../src/core/environment/document'
import { newRulebook } from '../src/core/kinds/rulebook/blank'
import { alerts, openNew, putOnShelf, readout } from './study'

const ready = (page: Page) => expect(page.getByText('Ready to be printed')).toBeVisible({ timeout: 120_000 })

/** Prints a page. @returns its pages as text, where the program that reads them is there */
async function printed(page: Page, format: 'A4' | 'Letter'): Promise<string[] | null> {
  const path = test.info().outputPath(`${format}.pdf`)
  await page.pdf({ path, format, printBackground: true })
  // Poppler comes with Debian; without it the pages are only made.
  if (!existsSync('/usr/bin/pdftotext')) return null
  return execFileSync('/usr/bin/pdftotext', ['-layout', path, '-'], { encoding: 'utf8' })
    .split('\f')
    .slice(0, -1)
}

test('a report of an environment is printed, with values, policy, curve and checks', async ({ page }) => {
  test.setTimeout(150_000)
  const id = await openNew(page, { ...checkEnvironment(nightRounds), name: 'Printed rounds' }, 'plan')
  await page.getByRole('button', { name: 'Share this view' }).click()
  await page.getByRole('menuitem', { name: 'Report to print' }).click()
  await page.waitForURL(`**/environment/${id}/report`)
  await ready(page)
  const headings = page.getByRole('heading', { level: 2 })
  await expect(headings).toHaveText([
    'What it is',
    'What Check finds',
    'Solved exactly',
    'Learned: Q-learning',
  ])
  await expect(page.locator('[data-name="start value"]')).toHaveText('4.6')
  // Three boards, and the curve of the run.
  await expect(page.locator('.printed-picture')).toHaveCount(4)
  await expect(page.locator('.printed-numbers p').nth(1)).toContainText('A1')
  for (const format of ['A4', 'Letter'] as const) {
    const pages = await printed(page, format)
    if (!pages) continue
    const text = pages.join('\n')
    expect(text).toContain('Printed rounds')
    expect(text).toContain('No error and no warning')
    expect(text).toContain('Environment, revision 1')
    // What is clicked is not on paper.
    expect(text).not.toContain('Ready to be printed')
    expect(pages.length).toBeLessThan(9)
  }
  await expect(alerts(page)).toHaveCount(0)
})

test('a lesson and a stage are printed', async ({ page }) => {
  test.setTimeout(180_000)
  await page.goto('/')
  await page.getByRole('link', { name: 'Values and sweeps', exact: true }).click()
  await page.getByRole('link', { name: 'Print', exact: true }).click()
  await ready(page)
  await expect(page.getByRole('heading', { level: 2 })).toHaveCount(7)
  await expect(page.locator('.printed-picture svg').first()).toBeVisible()
  // Each view as it was prepared.
  await expect(page.locator('.printed-view [data-name="sweeps"]')).toHaveText(['1', '3', '26', '62'])
  await printed(page, 'A4')

  await openNew(page, { ...checkEnvironment(nightRounds), name: 'Printed stage' }, 'plan')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  const pages = await printed(page, 'A4')
  if (pages) {
    const text = pages.join('\n')
    expect(text).toContain('Value iteration')
    expect(text).toContain('within tolerance')
    expect(pages.length).toBeLessThan(5)
  }
})

test('the report of a rulebook has its rules as sentences, and what depends on what', async ({ page }) => {
  const id = await putOnShelf(page.request, newRulebook('Printed rules'))
  await page.goto(`/environment/${id}/report`)
  await ready(page)
  await expect(page.getByRole('heading', { level: 2 }).last()).toHaveText('What depends on what')
  await expect(page.getByText('In plain words:')).toBeVisible()
  const picture = page.getByRole('group', { name: 'What depends on what' })
  await expect(picture.locator('text')).toContainText(['lanterns', 'reward'])
  await expect(picture.getByRole('button')).toHaveCount(0)
  const pages = await printed(page, 'A4')
  if (pages) expect(pages.at(-1)).toContain('Knobs and tables are left out.')
})

test('a report of what has no model says so at once', async ({ page }) => {
  const broken = newRulebook('Broken rules')
  const rulebook = { ...broken.rulebook, text: 'state places in 0..' }
  const id = await putOnShelf(page.request, broken)
  // What is half made is saved, though not taken as new.
  const saved = await page.request.put(`/api/environments/${id}`, {
    data: { revision: 1, document: { ...broken, rulebook } },
  })
  expect(saved.status()).toBe(200)
  await page.goto(`/environment/${id}/report`)
  await ready(page)
  await expect(page.getByText('There is no model to compute with')).toHaveCount(2)
  await expect(page.locator('.printed-view').nth(1)).toContainText('error')
})
