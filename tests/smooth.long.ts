import { expect, test, type Page } from '@playwright/test'
import { newHead } from '../src/core/environment/head'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { endingsBenchDocument, rulebookBench } from '../bench/models'
import { openNew, readout } from './study'

// A page whose every step is recorded is slower.
test.use({ trace: 'off' })

/** A page that answers at once has no task longer than 100 ms; on a noisy machine so much is let pass. */
const BOUND = 250

/** The longest tasks of the page since the last look, in milliseconds. */
async function longTasks(page: Page): Promise<number[]> {
  return page.evaluate(() => {
    const kept = window as unknown as { longTasks: number[] }
    return kept.longTasks.splice(0).sort((a, b) => b - a)
  })
}

async function watchTasks(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const kept = Object.assign(window, { longTasks: [] as number[] })
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) kept.longTasks.push(Math.round(entry.duration))
    }).observe({ type: 'longtask', buffered: true })
  })
}

const GRID: EnvironmentDocument = {
  ...newHead('Many rooms', ''),
  kind: 'grid',
  grid: endingsBenchDocument(4096),
}
const RULEBOOK: EnvironmentDocument = {
  ...newHead('Many states', ''),
  kind: 'rulebook',
  rulebook: rulebookBench(200_000),
}

for (const [what, document] of [
  ['a grid of 64 × 64', GRID],
  ['a rulebook of 200,000 states', RULEBOOK],
] as const)
  test(`nothing holds the page up with ${what}`, async ({ page }) => {
    await watchTasks(page)
    const told: Record<string, number[]> = {}
    /** Waits until it has happened, and notes what that took of the page. */
    const note = async (doing: string, milliseconds: number) => {
      await page.waitForTimeout(milliseconds)
      told[doing] = await longTasks(page)
    }
    const id = await openNew(page, document, 'build')
    await note('opening', 5000)
    await page.goto(`/environment/${id}/plan`)
    await expect(page.locator('[data-ready=true]')).toBeVisible()
    await note('opening Plan', 8000)
    await page.getByRole('button', { name: 'Play' }).click()
    await note('planning', 4000)
    const box = (await page.getByRole('slider', { name: 'Sweep' }).boundingBox())!
    await page.mouse.move(box.x + 5, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width - 5, box.y + box.height / 2, { steps: 20 })
    await page.mouse.up()
    await note('scrubbing', 1000)
    await page.goto(`/environment/${id}/learn`)
    await expect(page.locator('[data-ready=true]')).toBeVisible()
    await note('opening Learn', 8000)
    await page.getByRole('slider', { name: 'Speed' }).fill('8')
    await page.getByRole('button', { name: 'Play' }).click()
    await note('learning flat out', 6000)
    expect(await readout(page, 'Steps')).not.toBe('0')
    console.log(
      `${what}: ${Object.entries(told)
        .map(([doing, tasks]) => `${doing} ${tasks.slice(0, 3).join(', ') || 'none'}`)
        .join('; ')} (ms, the longest tasks)`,
    )
    for (const [doing, tasks] of Object.entries(told))
      expect(Math.max(0, ...tasks), doing).toBeLessThan(BOUND)
  })
