import { expect, test, type Page } from '@playwright/test'
import { STAGE_NAMES } from '../src/core/lesson/names'
import { STAGE_HELP } from '../src/ui/stages/stage-help'
import { alerts, cellPoint, named, openNew, readout } from './study'

const steps = (page: Page) => page.getByRole('region', { name: 'First steps' })

/** What the board says of a cell that is pointed at. */
async function said(page: Page, column: number, row: number) {
  const { x, y } = await cellPoint(page, column, row)
  await page.mouse.move(x, y)
  return page.getByText(/value/).filter({ hasText: 'J6' })
}

test('the first value table of a grid of one’s own takes at most five actions', async ({ page }) => {
  let actions = 0
  const act = async (run: () => Promise<unknown>) => {
    actions++
    await run()
  }
  await page.goto('/')
  await act(() => page.getByRole('button', { name: 'New environment' }).click())
  await act(() => page.getByRole('menuitem', { name: 'New grid' }).click())
  await act(() => page.getByRole('button', { name: 'Create' }).click())
  await page.waitForURL(/build/)
  // One step before the studio, which pays 20; the step costs 1.
  await expect(await said(page, 9, 5)).toContainText('value 19')
  // And sweep by sweep, where the plan is finished already.
  await act(() => page.getByRole('button', { name: 'Plan', exact: true }).click())
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  await expect(await said(page, 9, 5)).toContainText('value 19')
  expect(actions).toBeLessThanOrEqual(5)
  await expect(alerts(page)).toHaveCount(0)
})

test('a newcomer is told what to do first, and can put that away', async ({ page }) => {
  await page.goto('/')
  await steps(page).getByRole('button', { name: 'Draw a grid of your own' }).click()
  await page.waitForURL(/build/)
  await expect(await said(page, 9, 5)).toContainText('value 19')
  await page.goto('/')
  await expect(steps(page).getByRole('link', { name: 'Solve “New gallery”' })).toBeVisible()
  await steps(page).getByRole('link', { name: 'Take the tour' }).click()
  await expect(page.getByRole('heading', { name: 'A small world' }).last()).toBeVisible()
  await expect(page.getByText('1 of 5')).toBeVisible()
  await page.goto('/')
  await steps(page).getByRole('button', { name: 'Put the first steps away' }).click()
  await expect(steps(page)).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible()
  await expect(steps(page)).toHaveCount(0)
})

/** Where something was, and where it is. */
interface Source {
  readonly node: Node | null
  readonly previousRect: DOMRectReadOnly
  readonly currentRect: DOMRectReadOnly
}

/** Letters that come later move a little, in pixels. */
const LITTLE = 20

test('nothing moves on the shelf while it is loaded, so that a click meets what it is aimed at', async ({
  page,
}) => {
  /** What was moved up or down since it was first painted, and how far, in pixels. */
  const moved = () =>
    page.evaluate(
      (little) =>
        new Promise<string[]>((resolve) => {
          const observer = new PerformanceObserver((list) => {
            observer.disconnect()
            const sources = (list.getEntries() as unknown as { sources: Source[] }[]).flatMap(
              (each) => each.sources,
            )
            // What lies outside the window is told as nothing at all: it went over the nearest edge.
            const edge = ({ y, height }: DOMRectReadOnly, from: number) =>
              height > 0 ? y : from < innerHeight / 2 ? 0 : innerHeight
            resolve(
              sources.flatMap(({ node, previousRect: before, currentRect: after }) => {
                const by = edge(after, before.y) - edge(before, after.y)
                return Math.abs(by) < little ? [] : [`${by} px: ${node?.textContent?.slice(0, 80)}`]
              }),
            )
          })
          observer.observe({ type: 'layout-shift', buffered: true })
          setTimeout(() => resolve([]), 1000)
        }),
      LITTLE,
    )
  const load = async () => {
    await page.goto('/')
    await expect(page.getByRole('button', { name: 'New environment' })).toBeEnabled()
    await page.waitForLoadState('networkidle')
  }
  await load()
  await expect(steps(page)).toBeVisible()
  expect(await moved()).toEqual([])
  await steps(page).getByRole('button', { name: 'Put the first steps away' }).click()
  await load()
  await expect(steps(page)).toHaveCount(0)
  expect(await moved()).toEqual([])
})

test('every stage says under ? what is on its screen', async ({ page }) => {
  await openNew(page, named('Explained', ['..:']))
  for (const [i, stage] of STAGE_NAMES.entries()) {
    await page.keyboard.press(String(i + 1))
    await page.keyboard.press('?')
    const sheet = page.getByRole('dialog', { name: 'On this screen' })
    for (const [what, sentence] of STAGE_HELP[stage])
      await expect(sheet.locator('div', { has: page.getByText(what, { exact: true }) }).last()).toContainText(
        sentence,
      )
    await page.keyboard.press('Escape')
    await expect(sheet).toHaveCount(0)
  }
})
