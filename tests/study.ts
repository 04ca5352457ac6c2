import { readFile } from 'node:fs/promises'
import { expect, type APIRequestContext, type Locator, type Page } from '@playwright/test'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { gridDocument } from '../src/core/testing/models'
import type { Grid } from '../src/core/kinds/grid/document'

/** Puts an environment on the shelf through the interface programs use, and opens it. */
export async function openNew(page: Page, document: EnvironmentDocument, stage = 'build'): Promise<string> {
  const id = await putOnShelf(page.request, document)
  await page.goto(`/environment/${id}/${stage}`)
  await expect(page.getByLabel('Name of the environment')).toHaveValue(document.name)
  await expect(page.locator('[data-ready=true]')).toBeVisible()
  return id
}

export async function putOnShelf(request: APIRequestContext, document: EnvironmentDocument): Promise<string> {
  const response = await request.post('/api/environments', { data: JSON.stringify(document) })
  expect(response.status()).toBe(201)
  return (await response.json()).id
}

export function named(name: string, floor: string[], grid: Partial<Grid> = {}): EnvironmentDocument {
  return { ...gridDocument(floor, grid), name }
}

/** Where the middle of a cell is on the page. */
export async function cellPoint(page: Page, column: number, row: number): Promise<{ x: number; y: number }> {
  const board = page.locator('canvas[aria-roledescription=board]')
  // The board of a kind may still be on its way.
  await expect(page.locator('[data-ready=true]')).toBeVisible()
  await expect(board).toBeVisible()
  await expect(board).toHaveAttribute('data-side')
  const box = (await board.boundingBox())!
  const side = Number(await board.getAttribute('data-side'))
  const margin = Number(await board.getAttribute('data-margin'))
  return { x: box.x + margin + (column + 0.5) * side, y: box.y + margin + (row + 0.5) * side }
}

export async function clickCell(page: Page, column: number, row: number): Promise<void> {
  const { x, y } = await cellPoint(page, column, row)
  await page.mouse.click(x, y)
}

/** Drags over the board from one cell to another. */
export async function dragCells(
  page: Page,
  from: readonly [column: number, row: number],
  to: readonly [column: number, row: number],
): Promise<void> {
  const [begin, end] = [await cellPoint(page, ...from), await cellPoint(page, ...to)]
  await page.mouse.move(begin.x, begin.y)
  await page.mouse.down()
  await page.mouse.move(end.x, end.y, { steps: 4 })
  await page.mouse.up()
}

/** What is wrong, as the page says it; Next.js has an empty alert of its own for screen readers. */
export function alerts(page: Page): Locator {
  return page.locator('[role=alert]:not(#__next-route-announcer__)')
}

/** The number beside a name in the readout of a timeline. */
export async function readout(page: Page, name: string): Promise<string> {
  return page
    .locator('footer dl > div', { has: page.locator('dt', { hasText: new RegExp(`^${name}$`) }) })
    .locator('dd')
    .innerText()
}

/** Takes an entry of the export menu and gives the text of the file. */
export async function exportText(page: Page, entry: string): Promise<{ name: string; text: string }> {
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: entry, exact: true }).click(),
  ])
  return { name: download.suggestedFilename(), text: await readFile((await download.path())!, 'utf8') }
}

export async function savedDocument(page: Page, id: string): Promise<EnvironmentDocument> {
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()
  const response = await page.request.get(`/api/environments/${id}`)
  return (await response.json()).document
}

/** Takes an entry of the menu that begins new environments. */
export async function newEnvironment(page: Page, entry: string): Promise<void> {
  await page.getByRole('button', { name: 'New environment' }).click()
  await page.getByRole('menuitem', { name: entry }).click()
}
