import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { openNew, readout } from './study'

/**
 * Keeps what is on the board at the first look, and tells how it differs from that: in how many places three pixels by three,
 * and by how much at the most. Edges are drawn a shade lighter or darker where they are cut.
 */
async function look(page: Page): Promise<{ places: number; most: number }> {
  return page.evaluate(async () => {
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve))
    // What is to be drawn is drawn in the next frame of the screen.
    for (let i = 0; i < 10; i++) await frame()
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-roledescription=board]')!
    const { width, height } = canvas
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height)
    // What was kept first is what later looks are compared with.
    const kept = window as unknown as { before?: Uint8ClampedArray }
    const before = (kept.before ??= data)
    const differs = new Uint8Array(width * height)
    let most = 0
    for (let i = 0; i < differs.length; i++) {
      const by = Math.max(...[0, 1, 2, 3].map((k) => Math.abs(data[4 * i + k] - before[4 * i + k])))
      differs[i] = by > 0 ? 1 : 0
      most = Math.max(most, by)
    }
    let places = 0
    const around = [-1, 0, 1].flatMap((down) => [-1, 0, 1].map((right) => down * width + right))
    for (let i = width + 1; i < differs.length - width - 1; i++)
      if (around.every((step) => differs[i + step])) places++
    return { places, most }
  })
}

/** The board as it came to be by and by is the board as it is drawn at once, which another theme makes it be. */
async function expectAsDrawnAtOnce(page: Page): Promise<void> {
  await look(page)
  const theme = async (name: string) => {
    await page.getByRole('button', { name: `Switch to ${name}` }).click()
    await expect(page.getByRole('button', { name: `Switch to ${name}` })).toHaveCount(0)
  }
  await theme('night')
  expect((await look(page)).places).toBeGreaterThan(1000)
  await theme('day')
  const { places, most } = await look(page)
  expect(places).toBe(0)
  expect(most).toBeLessThan(64)
}

for (const file of ['night-rounds', 'vault-dial', 'which-poster', 'audio-guide-tip'])
  test(`a board that is drawn again in parts is the whole board: ${file}`, async ({ page }) => {
    const text = await readFile(new URL(`../demo/${file}.json`, import.meta.url), 'utf8')
    const document = JSON.parse(text) as EnvironmentDocument
    await openNew(page, { ...document, name: `Redrawn ${file}` }, 'learn')
    await expect(page.locator('[data-ready=true]')).toBeVisible()
    await page.evaluate(() => globalThis.document.fonts.ready)
    await page.getByRole('slider', { name: 'Speed' }).fill('3')
    await page.getByRole('button', { name: 'Play' }).click()
    await expect
      .poll(async () => Number((await readout(page, 'Steps')).replace(/\D/g, '')))
      .toBeGreaterThan(20)
    await page.getByRole('button', { name: 'Pause' }).click()
    await page.waitForTimeout(500)
    await expectAsDrawnAtOnce(page)
  })
