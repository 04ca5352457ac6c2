import { expect, test } from '@playwright/test'
import type { GridEnvironment } from '../src/core/kinds/grid/kind'
import { alerts, clickCell, dragCells, named, openNew, savedDocument } from './study'

const EMPTY = ['......', '......', '......', '......']

test('drawing by dragging, undone as one stroke, saved by itself', async ({ page }) => {
  const id = await openNew(page, named('Draw', EMPTY))
  await dragCells(page, [1, 1], [4, 1])
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor[1]).toBe('.####.')
  await page.getByRole('button', { name: 'Undo' }).click()
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor).toEqual(EMPTY)
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByTestId('size')).toContainText('20 states')
  await expect
    .poll(async () => ((await savedDocument(page, id)) as GridEnvironment).grid.floor[1])
    .toBe('.####.')
  await page.reload()
  await expect(page.getByTestId('size')).toContainText('20 states')
})

test('strokes stay steps of their own when the board was left between them', async ({ page }) => {
  const id = await openNew(page, named('Left', EMPTY))
  const row = async () => ((await savedDocument(page, id)) as GridEnvironment).grid.floor[0]
  await clickCell(page, 0, 0)
  await page.getByRole('button', { name: 'Table', exact: true }).click()
  await page.getByRole('button', { name: 'Board', exact: true }).click()
  await expect(page.getByRole('application')).toBeVisible()
  await clickCell(page, 2, 0)
  expect(await row()).toBe('#.#...')
  await page.keyboard.press('Control+z')
  expect(await row()).toBe('#.....')
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
  await page.keyboard.press('d')
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
  await page.getByLabel('Reward of a step').fill('-0.25')
  await page.getByRole('radio', { name: 'carpet' }).click()
  await page.getByLabel('Cost of a step').fill('4')
  await page.getByText('Size: 6 x 4 cells').click()
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
  await page.keyboard.press('3')
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

test('boxes, lines, fills and marked parts; a box is one step of undo', async ({ page }) => {
  const id = await openNew(page, named('Shapes', EMPTY))
  const floor = async () => ((await savedDocument(page, id)) as GridEnvironment).grid.floor
  const board = page.getByRole('application')
  await board.focus()
  await page.keyboard.press('w')
  await page.keyboard.press('r')
  await dragCells(page, [1, 1], [3, 2])
  expect(await floor()).toEqual(['......', '.###..', '.###..', '......'])
  await page.keyboard.press('Control+z')
  expect(await floor()).toEqual(EMPTY)
  await page.keyboard.press('Control+Shift+z')
  await page.keyboard.press('i')
  await dragCells(page, [5, 0], [5, 3])
  await page.keyboard.press('u')
  await page.keyboard.press('g')
  await clickCell(page, 0, 0)
  expect(await floor()).toEqual([':::::#', ':###:#', ':###:#', ':::::#'])
  await page.keyboard.press('m')
  await dragCells(page, [1, 0], [2, 1])
  await page.keyboard.press('Control+c')
  await clickCell(page, 4, 2)
  await page.keyboard.press('Control+v')
  expect(await floor()).toEqual([':::::#', ':###:#', ':###::', '::::##'])
  await page.getByText('Size: 6 x 4 cells').click()
  await page.getByLabel('Edge').selectOption('left')
  await page.getByRole('button', { name: 'Add one' }).click()
  await page.getByRole('button', { name: 'Turn right' }).click()
  expect(await floor()).toHaveLength(7)
})

test('things of every kind, their numbers in place, and a board for what is held', async ({ page }) => {
  const id = await openNew(page, named('Things', EMPTY, { starts: [{ at: 'A1', weight: 1 }] }))
  const board = page.getByRole('application')
  await board.focus()
  await page.keyboard.press('k')
  await clickCell(page, 0, 3)
  await page.keyboard.press('l')
  await page.getByLabel('Opened by').selectOption('key')
  await clickCell(page, 4, 0)
  await page.keyboard.press('j')
  await dragCells(page, [2, 3], [5, 1])
  await page.keyboard.press('h')
  await clickCell(page, 3, 2)
  await dragCells(page, [5, 3], [0, 2])
  await page.keyboard.press('a')
  await page.getByLabel('Blows to the').selectOption('south')
  await page.getByLabel('Carries (cells)').fill('2')
  await clickCell(page, 1, 1)
  await page.keyboard.press('b')
  await page.getByLabel('once an episode').uncheck()
  await clickCell(page, 2, 1)
  const { grid } = (await savedDocument(page, id)) as GridEnvironment
  expect(grid).toMatchObject({
    tokens: [{ at: 'A4', name: 'key' }],
    gates: [{ at: 'E1', token: 'key' }],
    jumps: [{ at: 'C4', to: 'F2' }],
    sendBacks: [
      { at: 'D3', to: null, reward: -5 },
      { at: 'F4', to: 'A3' },
    ],
    draughts: [{ at: 'B2', toward: 'south', strength: 2, chance: 1 }],
    bonuses: [{ at: 'C2', once: false, reward: 5 }],
  })
  // The bonus is selected: its numbers stand beside the board.
  await page.getByLabel('Reward', { exact: true }).fill('8')
  await expect(page.getByTestId('readout')).toContainText('C2: bonus +8, every time')
  await page.getByLabel('What the agent holds').selectOption('with key')
  await expect(page.getByTestId('readout')).toContainText('C2 with key: bonus +8, every time')
  await page.getByLabel('Moves').selectOption('8')
  await page.getByLabel('may stay').check()
  await expect(page.getByTestId('size')).toContainText('9 actions')
})

test('a map is pasted in, and what is wrong with one is said', async ({ page }) => {
  const id = await openNew(page, named('Pasted', EMPTY))
  await page.getByText('As text').click()
  const text = page.getByLabel('Text map or CSV')
  await text.fill('S.?\n.#X\n\nS = start\nX = ending 10 door')
  await page.getByRole('button', { name: 'Draw it' }).click()
  await expect(page.getByRole('complementary')).toContainText('line 1, column 3')
  expect(((await savedDocument(page, id)) as GridEnvironment).grid.floor).toEqual(EMPTY)
  await text.fill('S.:\n.#X\n\nS = start\nX = ending 10 door')
  await page.getByRole('button', { name: 'Draw it' }).click()
  expect(((await savedDocument(page, id)) as GridEnvironment).grid).toMatchObject({
    floor: ['..:', '.#.'],
    endings: [{ at: 'C2', reward: 10, name: 'door' }],
  })
})

test('a number is given a knob, which then turns in every stage', async ({ page }) => {
  const id = await openNew(page, named('Knobbed', ['....'], { endings: [{ at: 'D1', reward: 4, name: '' }] }))
  await page.getByText('Make knobs').click()
  await page.getByLabel('Number to give a knob').selectOption({ label: 'Reward of the ending at D1' })
  await page.getByRole('button', { name: 'Knob', exact: true }).click()
  const name = page.getByRole('complementary').getByLabel('Name', { exact: true })
  await name.fill('9 lives')
  await expect(name).toHaveAttribute('aria-invalid', 'true')
  await name.fill('prize')
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await page.getByLabel('prize', { exact: true }).fill('7')
  expect(await savedDocument(page, id)).toMatchObject({
    knobs: [{ name: 'prize', sets: 'endings[D1].reward' }],
    grid: { endings: [{ reward: 7 }] },
  })
})
