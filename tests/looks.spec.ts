import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { expect, test, type Page } from '@playwright/test'
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import tips from '../demo/audio-guide-tip.json' with { type: 'json' }
import docent from '../demo/docents-round.json' with { type: 'json' }
import vaultDial from '../demo/vault-dial.json' with { type: 'json' }
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { clickCell, openNew, putOnShelf, readout } from './study'

const axeSource = readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** Breaches of WCAG 2 A and AA on the page as it stands. */
async function breaches(page: Page): Promise<string[]> {
  // What is still being loaded is looked at when it is there.
  await expect(page.getByText('Loading …')).toHaveCount(0)
  // Under a dialog the page itself, and its heading with it, is out of reach.
  const headed = (await page.getByRole('dialog').count()) === 0
  await page.evaluate(await axeSource)
  return page.evaluate(async (heading) => {
    const { axe } = window as unknown as {
      axe: { run(options: object): Promise<{ violations: Violation[] }> }
    }
    const { violations } = await axe.run({
      runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21aa'] },
      rules: { 'page-has-heading-one': { enabled: heading } },
    })
    return violations.map(
      (each) => `${each.id}: ${each.nodes.map((node) => node.target.join(' ')).join(', ')}`,
    )
  }, headed)
}
interface Violation {
  id: string
  nodes: { target: string[] }[]
}

for (const theme of ['day', 'night'] as const)
  test(`every view is accessible by ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem('theme', name), theme)
    await page.goto('/')
    await expect(page.getByRole('button', { name: /Switch to/ })).toHaveAccessibleName(
      theme === 'day' ? 'Switch to night' : 'Switch to day',
    )
    expect(await breaches(page)).toEqual([])
    await page.getByRole('button', { name: 'New environment' }).click()
    expect(await breaches(page)).toEqual([])
    await openNew(page, { ...(nightRounds as unknown as EnvironmentDocument), name: `Seen by ${theme}` })
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('2')
    await page.keyboard.press('s')
    await page.getByRole('button', { name: 'what can happen' }).first().click()
    await expect(page.getByTestId('verdict')).toContainText('No error')
    expect(await breaches(page)).toEqual([])
    await page.getByRole('button', { name: 'Play them' }).click()
    await expect(page.getByRole('table', { name: 'How the episodes ended' })).toBeVisible()
    await page.getByRole('button', { name: /^Facts/ }).click()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('3')
    await page.getByRole('button', { name: 'To the end' }).click()
    await clickCell(page, 2, 3)
    await expect(page.getByRole('region', { name: 'Working' })).toBeVisible()
    expect(await breaches(page)).toEqual([])
    for (const tab of ['Pseudo-code', 'What if', 'Side by side']) {
      await page.getByRole('tab', { name: tab }).click()
      expect(await breaches(page)).toEqual([])
    }
    await page.getByLabel('Compare with another method').selectOption('policy-iteration')
    await expect(page.locator('canvas[aria-roledescription=board]')).toHaveCount(2)
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('t')
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('4')
    await page.keyboard.press('n')
    expect(await breaches(page)).toEqual([])
    for (const tab of ['Table', 'Seeds', 'Trials', 'Keep']) {
      await page.getByRole('tab', { name: tab }).click()
      expect(await breaches(page)).toEqual([])
    }
    await page.getByLabel('Method', { exact: true }).selectOption('actor-critic')
    await page.getByRole('button', { name: 'Start over' }).first().click()
    await page.getByRole('button', { name: 'To the end of the episode' }).click()
    await page.getByRole('tab', { name: 'Episode' }).click()
    await expect(page.getByRole('table', { name: 'Episode step by step' })).toBeVisible()
    await page.getByRole('button', { name: /Measure over/ }).click()
    await expect(page.getByText(/exact values removes/)).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await page.getByRole('button', { name: 'Landscape' }).click()
    await expect(page.getByRole('img', { name: /^Exact value at the start/ })).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('c')
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog')).toContainText('walk the board')
    expect(await breaches(page)).toEqual([])
  })

for (const theme of ['day', 'night'] as const)
  test(`a rulebook and its map are accessible by ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem('theme', name), theme)
    await openNew(page, {
      ...(vaultDial as unknown as unknown as EnvironmentDocument),
      name: `Read by ${theme}`,
    })
    await expect(page.getByTestId('worth')).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await page.getByRole('textbox', { name: 'Rulebook' }).click()
    await page.keyboard.press('Control+End')
    await page.keyboard.type('x')
    await expect(page.getByRole('alert', { name: 'What is wrong' })).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('Backspace')
    await page.getByRole('button', { name: 'Plan', exact: true }).click()
    await page.getByRole('button', { name: 'To the end' }).click()
    expect(await breaches(page)).toEqual([])
  })

for (const theme of ['day', 'night'] as const)
  test(`bandits, tables and versions are accessible by ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem('theme', name), theme)
    await openNew(page, { ...(tips as unknown as EnvironmentDocument), name: `Tips by ${theme}` })
    expect(await breaches(page)).toEqual([])
    await page.getByText('Make knobs').click()
    expect(await breaches(page)).toEqual([])
    await page.getByRole('button', { name: 'Text', exact: true }).click()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('4')
    await page.getByRole('button', { name: 'Board', exact: true }).click()
    await page.getByRole('checkbox', { name: 'Pull by hand' }).check()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('5')
    await page.getByRole('button', { name: 'Add the settings of Learn' }).click()
    await page.getByRole('button', { name: /^Change / }).click()
    await page.getByLabel('Runs each').fill('3')
    await page.getByRole('button', { name: 'Run', exact: true }).click()
    await expect(page.getByRole('img', { name: /Return while learning/ })).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await page.keyboard.press('4')
    await page.getByRole('tab', { name: 'Agents' }).click()
    await page.getByLabel('Runs each').fill('20')
    await page.getByRole('button', { name: 'Run', exact: true }).click()
    await expect(page.getByRole('img', { name: /Average reward/ })).toBeVisible()
    expect(await breaches(page)).toEqual([])
    await openNew(page, { ...(docent as unknown as EnvironmentDocument), name: `Docent by ${theme}` })
    expect(await breaches(page)).toEqual([])
    await page.getByRole('gridcell', { name: '-1', exact: true }).first().click()
    await page.keyboard.type('-1.5')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Plan', exact: true }).click()
    await page.getByRole('button', { name: 'To the end' }).click()
    expect(await breaches(page)).toEqual([])
    await page.getByRole('button', { name: 'Versions' }).click()
    await page.getByText('kept automatically').click()
    await expect(page.getByLabel('Differences')).toBeVisible()
    expect(await breaches(page)).toEqual([])
  })

test('at 1280 x 800 nothing scrolls but tables, and no view asks for the network', async ({ page }) => {
  const strangers: string[] = []
  page.on('request', (request) => {
    if (!/^(http:\/\/localhost:|blob:|data:)/.test(request.url())) strangers.push(request.url())
  })
  await page.goto('/')
  await openNew(page, { ...(nightRounds as unknown as EnvironmentDocument), name: 'Fits' }, 'plan')
  for (const key of ['2', '3']) {
    await page.keyboard.press(key)
    await expect(page.getByRole('group', { name: 'Timeline' })).toBeVisible()
    const overflow = await page.evaluate(() => {
      const root = document.documentElement
      return [root.scrollHeight - root.clientHeight, root.scrollWidth - root.clientWidth]
    })
    expect(overflow).toEqual([0, 0])
  }
  expect(strangers).toEqual([])
})

test('a lesson by keyboard alone: build, plan, learn, and never thrown out of the place', async ({
  page,
}) => {
  await page.goto('/')
  const focused = () => page.evaluate(() => document.activeElement?.tagName.toLowerCase())
  const onto = async (name: string) => {
    for (let i = 0; i < 80; i++) {
      const at = await page.evaluate(() => {
        const element = document.activeElement
        return element?.getAttribute('aria-label') ?? element?.textContent ?? ''
      })
      if (at.trim() === name) return
      await page.keyboard.press('Tab')
    }
    throw new Error(`Tab never comes to ${name}.`)
  }
  await onto('New environment')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').waitFor()
  // A name that was given up does not wait for the next grid.
  await page.keyboard.type('Given up')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
  await onto('New environment')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await expect(dialog.getByLabel('Name')).toHaveValue('')
  await page.keyboard.type('By keyboard')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Name of the environment')).toHaveValue('By keyboard')
  await expect(page.locator('[data-ready=true]')).toBeVisible()
  expect(await focused()).not.toBe('body')
  // The name is changed in its field, which keeps the focus.
  await onto('Name of the environment')
  await page.keyboard.press('Control+A')
  await page.keyboard.type('By keys')
  await page.keyboard.press('Enter')
  expect(await focused()).toBe('input')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('By keys: Build')
  await page.getByRole('textbox', { name: 'Name of the environment' }).blur()
  await page.locator('canvas[aria-roledescription=board]').focus()
  // An ending in the corner: the tool E, then a walk and a stroke.
  await page.keyboard.press('e')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await page.keyboard.press('3')
  await onto('To the end')
  await page.keyboard.press('Enter')
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  await expect(page.getByRole('button', { name: 'To the end' })).toBeFocused()
  await page.keyboard.press('t')
  expect(await focused()).not.toBe('body')
  await page.keyboard.press('4')
  await onto('Play')
  await page.getByRole('slider', { name: 'Speed' }).fill('7')
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status'), { timeout: 30_000 }).toBe('done')
  expect(await focused()).not.toBe('body')
})

test('pages load what they need and no more', async ({ page }) => {
  /** Bytes of JavaScript on the wire until a page is awake and quiet. */
  const weigh = async (load: () => Promise<unknown>) => {
    const client = await page.context().newCDPSession(page)
    await client.send('Network.enable')
    await client.send('Network.setCacheDisabled', { cacheDisabled: true })
    const scripts = new Set<string>()
    let bytes = 0
    client.on('Network.responseReceived', ({ requestId, type }) => {
      if (type === 'Script') scripts.add(requestId)
    })
    client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (scripts.has(requestId)) bytes += encodedDataLength
    })
    await load()
    await page.waitForLoadState('networkidle')
    await client.detach()
    return bytes / 1000
  }
  expect(await weigh(() => page.goto('/'))).toBeLessThan(200)
  const id = await putOnShelf(page.request, {
    ...(nightRounds as unknown as EnvironmentDocument),
    name: 'Weighed',
  })
  expect(await weigh(() => page.goto(`/environment/${id}/build`))).toBeLessThan(350)
})

test('a stage that is still on its way leaves the rest of the page as it is', async ({ page }) => {
  await openNew(page, { ...(nightRounds as unknown as EnvironmentDocument), name: 'Slow line' })
  let arrive = () => {}
  const held = new Promise<void>((resolve) => (arrive = resolve))
  await page.route(/\.js(\?|$)/, async (route) => {
    await held
    await route.continue()
  })
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await expect(page.getByRole('complementary', { name: 'Plan' }).getByText('Loading …')).toBeVisible()
  await expect(page.getByRole('heading', { level: 1, name: 'Slow line: Plan' })).toBeVisible()
  await expect(page.getByRole('application')).toBeVisible()
  arrive()
  await expect(page.getByLabel('Tolerance')).toBeVisible()
})

test('dark follows the system until a theme is chosen', async ({ page }) => {
  await page.goto('/')
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme)
  expect(await theme()).toBe('day')
  await page.emulateMedia({ colorScheme: 'dark' })
  await expect.poll(theme).toBe('night')
  await page.getByRole('button', { name: 'Switch to day' }).click()
  await page.emulateMedia({ colorScheme: 'light' })
  await page.emulateMedia({ colorScheme: 'dark' })
  expect(await theme()).toBe('day')
})

test('the theme is kept, and drawn on the board', async ({ page }) => {
  await openNew(page, { ...(nightRounds as unknown as EnvironmentDocument), name: 'Themed' })
  const corner = () =>
    page.locator('canvas[aria-roledescription=board]').evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(20, 20, 1, 1)
      return data[0] + data[1] + data[2]
    })
  await expect.poll(corner).toBeGreaterThan(600)
  await page.getByRole('button', { name: 'Switch to night' }).click()
  await expect.poll(corner).toBeLessThan(200)
  await page.reload()
  await expect.poll(corner).toBeLessThan(200)
})
