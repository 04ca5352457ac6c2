import { expect, test } from '@playwright/test'
import type { BanditEnvironment } from '../src/core/kinds/bandit/kind'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import type { TableEnvironment } from '../src/core/kinds/table/kind'
import { compileEnvironment } from '../src/core/environment/compile'
import { newTable } from '../src/core/kinds/table/blank'
import { layOutGraph } from '../src/ui/kinds/table/graph-layout'
import posters from '../demo/which-poster.json' with { type: 'json' }
import tips from '../demo/audio-guide-tip.json' with { type: 'json' }
import { exportText, newEnvironment, openNew, readout, savedDocument } from './study'

const copyOf = (document: unknown, name: string) => ({ ...(document as EnvironmentDocument), name })

test.describe('bandits', () => {
  test('a new one is made, its arms changed, planned and learned', async ({ page }) => {
    await page.goto('/')
    await newEnvironment(page, 'New bandit')
    await expect(page.getByTestId('size')).toContainText('2 states')
    await page.getByLabel('Name', { exact: true }).fill('brass')
    await page.getByRole('complementary').getByLabel('Pay-off', { exact: true }).selectOption('gaussian')
    await page.getByRole('textbox', { name: 'Mean' }).fill('3')
    await page.getByRole('textbox', { name: 'Deviation' }).fill('0')
    await page.getByRole('button', { name: 'Arm', exact: true }).click()
    // What is new is planned while it is built.
    await page.getByRole('button', { name: 'Plan', exact: true }).click()
    await expect.poll(() => readout(page, 'Value at the start')).toBe('3')
    await page.getByRole('button', { name: 'Learn', exact: true }).click()
    await page.getByRole('button', { name: 'To the end of the episode' }).click()
    await expect(page.getByTestId('last-step')).toContainText('to over, an ending')
  })

  test('the truth is hidden in every stage, and revealed', async ({ page }) => {
    const id = await openNew(page, copyOf(posters, 'Covered'))
    await page.getByRole('checkbox', { name: 'Hide the truth' }).check()
    await page.getByRole('button', { name: 'Plan', exact: true }).click()
    await expect(page.getByRole('complementary')).toContainText('The truth is hidden from the class')
    await page.getByRole('button', { name: 'To the end' }).click()
    await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
    expect(await readout(page, 'Value at the start')).toBe('–')
    await expect(page.getByText('night_owl')).toHaveCount(0)
    await page.getByRole('button', { name: 'Learn', exact: true }).click()
    await expect.poll(() => readout(page, 'Optimal value at the start')).toBe('hidden')
    expect(await page.getByRole('application').getAttribute('aria-label')).not.toContain('0.22')
    await page.getByRole('button', { name: 'Reveal the truth' }).click()
    await expect.poll(() => readout(page, 'Optimal value at the start')).toBe('0.22')
    expect(((await savedDocument(page, id)) as BanditEnvironment).bandit.hidden).toBe(false)
  })

  test('contexts and pulls are walked', async ({ page }) => {
    await openNew(page, copyOf(tips, 'Walked'))
    const board = page.getByRole('application')
    await expect(board).toHaveAttribute('aria-label', /anecdote: pays around 1.6/)
    await page.getByLabel('Context', { exact: true }).selectOption('with children')
    await expect(board).toHaveAttribute('aria-label', /anecdote: pays around 0.4/)
    await page.getByLabel('Pull', { exact: true }).fill('100')
    await expect(page.getByText('100 of 200')).toBeVisible()
    await expect(board).not.toHaveAttribute('aria-label', /anecdote: pays around 0.4,/)
  })
})

test.describe('tables', () => {
  const sheet = { name: 'Transitions, a row for each outcome' }

  test('are typed into; what does not fit is kept until it is mended', async ({ page }) => {
    const id = await openNew(page, { ...newTable('t'), name: 'Typed' })
    const grid = page.getByRole('grid', sheet)
    await grid.getByRole('gridcell', { name: '0.7' }).click()
    await page.keyboard.type('1.7')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('region', { name: 'Transitions' })).toContainText(
      '“1.7” is not a number from 0 to 1.',
    )
    await page.keyboard.press('Control+a')
    await page.keyboard.type('0.6')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('region', { name: 'Transitions' })).toContainText(
      'The probabilities sum to 0.9',
    )
    await expect(page.getByText('The board comes as soon as the table is right.')).toBeVisible()
    await page.keyboard.type('.4')
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('size')).toContainText('4 states, 1 of them endings')
    const { table } = (await savedDocument(page, id)) as TableEnvironment
    expect(table.transitions.slice(0, 2).map(([, , , probability]) => probability)).toEqual([0.6, 0.4])
    // A digit is text here, not the key of a stage.
    await expect(page.getByRole('button', { name: 'Build' })).toHaveAttribute('aria-current', 'page')
  })

  test('are pasted into from a spreadsheet, whole or in part', async ({ page, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write'])
    const id = await openNew(page, { ...newTable('t'), name: 'Pasted into' })
    const rows = async () => ((await savedDocument(page, id)) as TableEnvironment).table.transitions
    const paste = async (text: string) => {
      await page.evaluate((value) => navigator.clipboard.writeText(value), text)
      await page.getByRole('grid', sheet).focus()
      await page.keyboard.press('Control+v')
    }
    await paste('state\taction\tnext_state\tprobability\treward\nx\tgo\ty\t1\t5\ny\tgo\tz\t1\t-1\n')
    await expect(page.getByTestId('size')).toContainText('3 states')
    expect(await rows()).toEqual([
      ['x', 'go', 'y', 1, 5],
      ['y', 'go', 'z', 1, -1],
    ])
    await page.getByRole('gridcell', { name: 'y' }).first().click()
    await paste('z\nnow\tz\tmuch')
    await expect(page.getByRole('region', { name: 'Transitions' })).toContainText('row 2')
    expect(await rows()).toHaveLength(2)
    await page.keyboard.press('Control+z')
    await expect(page.getByTestId('size')).toContainText('4 states')
  })

  test('are drawn as a graph; what is dragged stays where it was put', async ({ page }) => {
    const id = await openNew(page, { ...newTable('t'), name: 'Drawn' })
    const board = page.getByRole('application')
    await expect(board).toHaveAttribute('aria-label', /a graph of 4 states/)
    await board.focus()
    await page.keyboard.press('ArrowRight')
    await expect(page.getByTestId('readout')).toContainText('flickers: start; 2 actions')
    await page.keyboard.press('ArrowRight')
    await expect(page.getByTestId('readout')).not.toContainText('flickers:')
    const box = (await board.boundingBox())!
    const [scale, left, top] = await Promise.all(
      ['scale', 'left', 'top'].map(async (name) => Number(await board.getAttribute(`data-${name}`))),
    )
    const { nodes } = layOutGraph(compileEnvironment(newTable('t')).model, {})
    const over = nodes.find(({ key }) => key === 'over')!
    await page.mouse.move(box.x + left + over.x * scale, box.y + top + over.y * scale)
    await expect(page.getByTestId('readout')).toContainText('over: ending')
    await page.mouse.down()
    await page.mouse.move(box.x + 60, box.y + 60, { steps: 4 })
    await page.mouse.up()
    const { table } = (await savedDocument(page, id)) as TableEnvironment
    expect(table.places.over[0]).toBeCloseTo((60 - left) / scale, -1)
    expect(table.places.over[1]).toBeCloseTo((60 - top) / scale, -1)
    await page.getByRole('button', { name: 'Lay the graph out automatically' }).click()
    expect(((await savedDocument(page, id)) as TableEnvironment).table.places).toEqual({})
  })

  test('of fifty thousand rows open, scroll and say why they are not drawn', async ({ page }) => {
    const lines = Array.from({ length: 50_000 }, (_, i) => `s${i},go,s${(i + 1) % 50_000},1,${i % 7}`)
    const text = ['state,action,next_state,probability,reward', ...lines].join('\n')
    await page.goto('/')
    await page
      .getByLabel('File to import')
      .setInputFiles({ name: 'large.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
    await expect(page.getByTestId('size')).toContainText(/50.000 states/, { timeout: 30_000 })
    await expect(page.getByText('are too many for a readable graph')).toBeVisible()
    await page.getByRole('grid', sheet).press('Control+End')
    await page.getByRole('button', { name: 'Show the table' }).click()
    await expect(page.getByRole('rowheader', { name: 's1', exact: true })).toBeVisible()
  })
})

test('every kind can be read as plain text and taken away', async ({ page }) => {
  await openNew(page, { ...newTable('t'), name: 'Read out' })
  await page.getByRole('button', { name: 'Text', exact: true }).click()
  await expect(page.getByLabel('Read out as plain text')).toContainText('flickers  mend, leave')
  const dot = await exportText(page, 'Graph (DOT)')
  expect(dot.name).toBe('read-out.dot')
  expect(dot.text).toContain('s0 [label="flickers", style=bold]')
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect(page.getByLabel('Read out as plain text')).toContainText('over      ending')
})
