import { expect, test } from '@playwright/test'
import type { GridEnvironment } from '../src/core/environment/document'
import { alerts, cellPoint, clickCell, named, openNew, savedDocument } from './study'

const EMPTY = ['......', '......', '......', '......']

test('drawing by dragging, undone as one stroke, saved by itself', async ({ page }) => {
  const id = await openNew(page, named('Draw', EMPTY))
  const from = await cellPoint(page, 1, 1)
  const to = await cellPoint(page, 4, 1)
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 3 })
  await page.mouse.up()
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor[1]).toBe('.####.')
  await page.getByRole('button', { name: 'Undo' }).click()
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor).toEqual(EMPTY)
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByTestId('size')).toContainText('20 states')
  await page.reload()
  await expect(page.getByTestId('size')).toContainText('20 states')
})

test('every tool by keyboard alone', async ({ page }) => {
  const id = await openNew(page, named('Keys', EMPTY))
  const board = page.getByRole('application')
  await board.focus()
  await page.keyboard.press('ArrowDown') // selects A1
  await page.keyboard.press('s')
  await page.keyboard.press('Space')
  await page.keyboard.press('w')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('g')
  await page.keyboard.press('Shift+ArrowRight')
  await page.getByLabel('Reward of the next ending').fill('-7.5')
  await board.focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('e')
  await page.keyboard.press('Space')
  const { grid } = (await savedDocument(page, id)) as GridEnvironment
  expect(grid.floor.slice(0, 2)).toEqual(['.#....', '..:...'])
  expect(grid.starts).toEqual([{ at: 'A1', weight: 1 }])
  expect(grid.endings).toEqual([{ at: 'D2', reward: -7.5, name: '' }])
  await expect(page.getByTestId('readout')).toHaveText(/^B2: parquet/)
})

test('numbers of the grid: veer, step reward, cost, size; nonsense is refused and nothing lost', async ({
  page,
}) => {
  const id = await openNew(page, named('Numbers', EMPTY))
  await page.getByLabel('Veer chance').fill('2')
  await expect(page.getByText('Write from 0 to 1.')).toBeVisible()
  await page.getByLabel('Veer chance').fill('0.3')
  await expect(page.getByText('to its left or right with 0.15 each')).toBeVisible()
  await page.getByLabel('Reward of every step').fill('-0.25')
  await page.getByLabel('Cost of a step').fill('4')
  await page.getByLabel('Columns').fill('3')
  await page.getByLabel('Name of the environment').fill('Renamed here')
  await page.getByLabel('Name of the environment').press('Enter')
  const document = (await savedDocument(page, id)) as GridEnvironment
  expect(document.name).toBe('Renamed here')
  expect(document.grid).toMatchObject({ veer: 0.3, stepReward: -0.25, floor: ['...', '...', '...', '...'] })
  expect(document.grid.grounds[1].cost).toBe(4)
})

test('a grid with no open cell says so, keeps the drawing and recovers', async ({ page }) => {
  const id = await openNew(page, named('Closed', ['..']))
  await clickCell(page, 0, 0)
  await clickCell(page, 1, 0)
  await expect(page.getByTestId('readout')).toContainText('No cell is open to start in.')
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor).toEqual(['##'])
  await page.keyboard.press('2')
  await expect(page.getByRole('complementary')).toContainText('No cell is open to start in.')
  await page.keyboard.press('1')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('size')).toContainText('1 state')
})

test('two tabs on one environment: the later one is told, and keeps its work as a copy', async ({
  page,
  context,
}) => {
  const id = await openNew(page, named('Shared', EMPTY))
  const other = await context.newPage()
  await other.goto(`/environment/${id}/build`)
  await expect(other.getByTestId('size')).toBeVisible()
  await clickCell(page, 0, 0)
  await savedDocument(page, id)
  await clickCell(other, 5, 3)
  await expect(alerts(other)).toContainText('It was changed elsewhere in the meantime')
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor[3]).toBe('......')
  await other.getByRole('button', { name: 'Keep mine as a copy' }).click()
  await expect(other.getByLabel('Name of the environment')).toHaveValue('Shared (mine)')
  await expect(other.getByTestId('size')).toContainText('23 states')
})
