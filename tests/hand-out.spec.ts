import { readFile, stat } from 'node:fs/promises'
import { expect, test, type Browser, type FrameLocator, type Page } from '@playwright/test'
import { compileEnvironment } from '../src/core/environment/compile'
import { startValue } from '../src/core/model/model'
import { significantNumber } from '../src/core/formats/number'
import { solveOptimum } from '../src/core/plan/solve'
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import { checkEnvironment } from '../src/core/environment/document'
import { turnKnob } from '../src/core/environment/knobs'
import { exportText, openNew, readout } from './study'

/** What a page that stands alone may weigh, in bytes. */
const MOST = 2_000_000

/** Opens a file in a browser that has no network, and notes what it asks for all the same. */
async function openFile(browser: Browser, file: string) {
  const context = await browser.newContext({ offline: true, acceptDownloads: true })
  const page = await context.newPage()
  const asked: string[] = []
  const wrong: string[] = []
  page.on('request', (request) => {
    if (!/^(file|blob|data):/.test(request.url())) asked.push(request.url())
  })
  page.on('pageerror', (error) => wrong.push(error.message))
  await page.goto(`file://${file}`)
  await expect(page.getByTestId('hand-out')).toBeVisible()
  return { page, asked, wrong }
}

async function download(page: Page, act: () => Promise<unknown>) {
  const [taken] = await Promise.all([page.waitForEvent('download'), act()])
  const path = test.info().outputPath(taken.suggestedFilename())
  await taken.saveAs(path)
  return { name: taken.suggestedFilename(), path }
}

const number = (page: Page | FrameLocator, name: string) => page.locator(`[data-name="${name}"]`)

/** What the start of night rounds is worth at a veer, as a text says it. */
function worth(veer: number): string {
  const { model } = compileEnvironment(turnKnob(checkEnvironment(nightRounds), 'veer', veer))
  return significantNumber(startValue(model, solveOptimum(model, 0.98)!.values), 3)
}

test('a lesson is handed out as a page that needs no server', async ({ page, browser }) => {
  test.setTimeout(120_000)
  await page.goto('/')
  await page.getByRole('link', { name: 'Values and sweeps', exact: true }).click()
  const { name, path } = await download(page, () => page.getByRole('button', { name: 'Hand out' }).click())
  expect(name).toBe('values-and-sweeps.html')
  expect((await stat(path)).size).toBeLessThan(MOST)
  // What is said to the speaker is not said to students.
  const text = await readFile(path, 'utf8')
  expect(text).toContain('A hall, a cupboard, three stairwells')
  expect(text).not.toMatch(/"notes":"[^"]/)

  const { page: alone, asked, wrong } = await openFile(browser, path)
  await expect(alone.getByRole('heading', { name: 'A hall, a cupboard, three stairwells' })).toBeVisible()
  for (let i = 1; i < 6; i++) await alone.getByRole('button', { name: 'The next view' }).click()
  await expect(alone.getByText('6 of 7')).toBeVisible()
  await expect(number(alone, 'start value')).toHaveText(worth(0.2))
  // A knob is turned, everything follows, and one click brings it back.
  await alone.getByRole('slider', { name: 'veer' }).fill('0.1')
  await expect(number(alone, 'start value')).toHaveText(worth(0.1))
  await alone.getByRole('button', { name: 'As handed out' }).click()
  await expect(number(alone, 'start value')).toHaveText(worth(0.2))
  // A learner runs, in a worker of its own.
  await alone.getByRole('button', { name: 'Learn', exact: true }).click()
  await alone.getByRole('slider', { name: 'Speed' }).fill('7')
  await alone.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => readout(alone, 'Status'), { timeout: 60_000 }).toBe('done')
  expect(await readout(alone, 'Episodes')).toMatch(/^5.000 of 5.000$/)
  const exported = await exportText(alone, 'Environment (JSON)')
  expect(checkEnvironment(JSON.parse(exported.text)).name).toBe('Night rounds')
  expect(asked).toEqual([])
  expect(wrong).toEqual([])
  await alone.context().close()
})

test('what is on the screen is handed out, and opens in the frame of another site', async ({
  page,
  browser,
}) => {
  await openNew(page, { ...checkEnvironment(nightRounds), name: 'Rounds </script> at night' }, 'plan')
  for (let i = 0; i < 3; i++) await page.keyboard.press('.')
  await expect.poll(() => readout(page, 'Sweep')).toBe('3 of 3')
  await page.getByRole('button', { name: 'Share this view' }).click()
  const { path } = await download(page, () =>
    page.getByRole('menuitem', { name: 'Hand it out as a page (.html)' }).click(),
  )
  const context = await browser.newContext()
  const course = await context.newPage()
  const file = await readFile(path, 'utf8')
  await course.route('http://course.test/**', (route) =>
    route.fulfill({
      contentType: 'text/html',
      body: route.request().url().endsWith('/page.html')
        ? file
        : '<iframe src="page.html" sandbox="allow-scripts allow-downloads" width="1200" height="700"></iframe>',
    }),
  )
  await course.goto('http://course.test/')
  const frame = course.frameLocator('iframe')
  await expect(frame.getByRole('heading', { name: 'Rounds </script> at night' })).toBeVisible()
  const sweep = frame
    .locator('footer dl > div', { has: course.locator('dt', { hasText: /^Sweep$/ }) })
    .locator('dd')
  await expect(sweep).toHaveText('3 of 3')
  await frame.getByRole('button', { name: 'To the end' }).click()
  await expect(sweep).toHaveText(/^62 of 62$/)
  await context.close()
})
