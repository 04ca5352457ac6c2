import { expect, test, type Locator, type Page } from '@playwright/test'
import eveningTickets from '../demo/evening-tickets.json' with { type: 'json' }
import vaultDial from '../demo/vault-dial.json' with { type: 'json' }
import { rulebookEnvironment } from '../src/core/kinds/rulebook/blank'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { exportText, openNew, readout, savedDocument, newEnvironment } from './study'

const STORE = `knob shelf = 4 from 1 to 6
state left from 0 to shelf
start left = 2
action order from 0 to 2 when left + order <= shelf
chance sold ~ coin(0.5)
let out = if sold and left > 0 then 1 else 0
reward 5 * out - order
next left = left - out + order
check "never more than four": next left <= 4
policy "fill it up": order shelf - left
`

const rules = (name: string, text: string): EnvironmentDocument => rulebookEnvironment(name, text)
const editor = (page: Page): Locator => page.getByRole('textbox', { name: 'Rulebook' })
const wrong = (page: Page): Locator => page.getByRole('alert', { name: 'What is wrong' })
const knob = (page: Page, name: string): Locator => page.getByRole('slider', { name, exact: true })

/** Puts the cursor at the end of the text and types. */
async function append(page: Page, text: string): Promise<void> {
  await editor(page).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(text)
}

/** Takes the first completion, once it is there: the editor does not hear Enter in the first moments. */
async function takeCompletion(page: Page, offered: string): Promise<void> {
  await expect(page.locator('.cm-tooltip-autocomplete')).toContainText(offered)
  await page.waitForTimeout(150)
  await page.keyboard.press('Enter')
}

/** The middle of a cell of a map, counted from the top left. */
async function mapPoint(page: Page, column: number, row: number): Promise<{ x: number; y: number }> {
  const board = page.locator('canvas[aria-roledescription=board]')
  const box = (await board.boundingBox())!
  const at = async (name: string) => Number(await board.getAttribute(`data-${name}`))
  return {
    x: box.x + (await at('left')) + (column + 0.5) * (await at('cell-width')),
    y: box.y + (await at('top')) + (row + 0.5) * (await at('cell-height')),
  }
}

test('a new rulebook counts its states as it is written, and keeps what was right while it is wrong', async ({
  page,
}) => {
  await page.goto('/')
  await newEnvironment(page, 'New rulebook')
  await page.getByRole('button', { name: 'Create' }).click()
  await expect(page.getByTestId('size')).toContainText('7 states')
  await expect(page.getByTestId('worth')).toContainText('fill it up')
  await append(page, 'state door yes or no\n')
  await expect(wrong(page)).toContainText('The start does not say what door is.')
  await expect(page.getByTestId('size')).toContainText('7 states')
  await expect(page.getByText('the board keeps the last model that was right')).toBeVisible()
  await wrong(page).getByRole('button', { name: 'line 6, column 1' }).click()
  await page.keyboard.press('End')
  await page.keyboard.type(', door = no')
  await expect(wrong(page)).toBeHidden()
  await append(page, 'next door = not door\n')
  await expect(page.getByTestId('size')).toContainText('14 states')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('size')).toContainText('7 states')
  await page.getByRole('button', { name: 'Redo' }).click()
  await page.reload()
  await expect(page.getByTestId('size')).toContainText('14 states')
})

test('the editor completes, explains and tells several faults in place', async ({ page }) => {
  await openNew(page, rules('Told', STORE))
  await append(page, 'mea')
  await takeCompletion(page, 'turned_away')
  await page.keyboard.type(' lost = ou')
  await takeCompletion(page, 'let out = if sold')
  await page.keyboard.type('\nreward minn(left, 3)\nnext lef = 2')
  await expect(wrong(page)).toContainText(
    'line 12, column 8: There is no function “minn”. Did you mean “min”?',
  )
  await expect(wrong(page)).toContainText(
    'line 13, column 6: There is no state variable “lef”. Did you mean “left”?',
  )
  await expect(page.locator('.cm-lintRange-error')).toHaveCount(2)
  await page.locator('.rb-call', { hasText: 'coin' }).hover()
  await expect(page.locator('.rb-hover')).toContainText('yes with this chance, otherwise no')
  // Faults that only some states have are told with the state.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await page.keyboard.insertText(STORE.replace('left - out', '(left - 1)'))
  await expect(wrong(page)).toContainText(
    'left can reach -1, and its range is 0 to 4, when left 0, action order 0',
  )
  // Shortcuts of the study are letters here.
  await expect(page.getByRole('button', { name: 'Build' })).toHaveAttribute('aria-current', 'page')
})

test('a knob turned in Plan is followed by the board; one that breaks the rulebook keeps the last model', async ({
  page,
}) => {
  const id = await openNew(
    page,
    { ...(eveningTickets as unknown as unknown as EnvironmentDocument), name: 'Turned' },
    'plan',
  )
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  const before = Number(await readout(page, 'Value at the start'))
  await knob(page, 'places').fill('20')
  await expect
    .poll(async () => Number(await readout(page, 'Value at the start')))
    .toBeGreaterThan(before + 20)
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  expect(((await savedDocument(page, id)) as { rulebook: { knobs: object } }).rulebook.knobs).toEqual({
    places: 20,
  })
  await page.getByRole('button', { name: 'Put places back to 12' }).click()
  await expect.poll(async () => Number(await readout(page, 'Value at the start'))).toBe(before)

  await openNew(page, rules('Broken knob', STORE.replace('from 0 to shelf\n', 'from 0 to 4\n')), 'plan')
  await expect(page.getByRole('button', { name: 'One sweep', exact: true })).toBeEnabled()
  await knob(page, 'shelf').fill('6')
  await expect(page.getByText('left can reach 5, and its range is 0 to 4')).toBeVisible()
  await expect(page.getByText('The board keeps the last model that was right.')).toBeVisible()
  await expect(page.locator('canvas[aria-roledescription=board]')).toBeVisible()
  await knob(page, 'shelf').fill('3')
  await expect(page.getByText('left can reach 5')).toBeHidden()
})

test('the map shows any two variables, the others set or summed up, and remembers which', async ({
  page,
}) => {
  await openNew(page, { ...(vaultDial as unknown as unknown as EnvironmentDocument), name: 'Mapped' }, 'plan')
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
  const hover = async (column: number, row: number) => {
    const { x, y } = await mapPoint(page, column, row)
    await page.mouse.move(x, y)
  }
  // ring[1] = 1 across, ring[2] = 2 up: six states share the cell, and their mean is shown.
  await hover(0, 3)
  await expect(page.getByTestId('readout')).toContainText('6 states, from ring 1 2')
  await expect(page.getByText('value, mean of a cell’s states')).toBeVisible()
  for (const [name, at] of [
    ['ring[3]', 2],
    ['ring[4]', 3],
    ['ring[5]', 4],
  ] as const)
    await page.getByRole('slider', { name }).fill(String(at))
  await hover(0, 3)
  await expect(page.getByTestId('readout')).toContainText('ring 1 2 3 4 5: ending')
  await hover(1, 4)
  await expect(page.getByTestId('readout')).toContainText('ring 2 1 3 4 5: start; value −1.111; policy press')
  await hover(0, 0)
  await expect(page.getByTestId('readout')).toContainText('No state is here')
  await page.getByLabel('Across').selectOption('ring[2]')
  await expect(page.getByLabel('Up', { exact: true })).toHaveValue('ring[1]')
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Across')).toHaveValue('ring[2]')
  await expect(page.getByRole('slider', { name: 'ring[3]' })).toHaveValue('2')
  // A click selects, arrow keys walk on over gaps.
  const { x, y } = await mapPoint(page, 0, 3)
  await page.mouse.click(x, y)
  await expect(page.getByTestId('readout')).toContainText('ring 2 1 3 4 5')
  for (const name of ['ring[4]', 'ring[5]']) await page.getByRole('slider', { name }).fill('-1')
  await page.mouse.move(5, 300)
  await page.locator('canvas[aria-roledescription=board]').focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('readout')).toContainText('ring 2 4 3')
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByTestId('readout')).toContainText('ring 2 1 3')
})

test('impossible actions are treated in three ways by one switch', async ({ page }) => {
  const id = await openNew(page, rules('Switched', STORE))
  await expect(page.getByTestId('size')).toContainText('table of 12 values')
  await page.getByRole('radio', { name: 'Clamp' }).click()
  await expect(page.getByTestId('size')).toContainText('table of 15 values')
  await expect(editor(page)).toContainText('impossible actions are clamped')
  await page.getByRole('radio', { name: 'Penalise' }).click()
  await expect(editor(page)).toContainText('impossible actions are penalised by 1')
  const { rulebook } = (await savedDocument(page, id)) as { rulebook: { text: string } }
  expect(rulebook.text.match(/impossible/g)).toHaveLength(1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('radio', { name: 'Clamp' })).toHaveAttribute('aria-checked', 'true')
})

test('a broken check shows the shortest way to the breach', async ({ page }) => {
  await openNew(page, rules('Checked', STORE.replace('next left <= 4', 'next left <= 3')))
  const checks = page.locator('aside')
  await expect(checks).toContainText('never more than four is broken.')
  await expect(checks.getByRole('row')).toContainText([/left 2\s*order 2/])
  await expect(wrong(page)).toContainText(
    'The check “never more than four” is broken in left 2, action order 2, sold = no.',
  )
})

test('an agent learns a rulebook and is seen on its map', async ({ page }) => {
  await openNew(
    page,
    { ...(eveningTickets as unknown as unknown as EnvironmentDocument), name: 'Learned' },
    'learn',
  )
  await page.getByRole('button', { name: 'One step', exact: true }).click()
  await expect(page.getByTestId('last-step')).toContainText('in evening 1, left 12')
  await page.getByRole('slider', { name: /Speed/ }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Episodes'), { timeout: 30_000 }).toBe('20\u202f000 of 20\u202f000')
  // The settings suggested for it come within two parts in a hundred.
  expect(Number(await readout(page, 'Policy’s value at the start'))).toBeGreaterThan(192.5)
  expect(await readout(page, 'Optimal value at the start')).toBe('196.47')
})

test('a large rulebook shows how far it is, and can be stopped', async ({ page }) => {
  const text = `state a from 0 to 299
state b from 0 to 299
state c from 0 to 19
start a = 0, b = 0, c = 0
action go in 1, 2, 3
chance d ~ binomial(6, 0.4)
next a = (a + d) mod 300
next b = (b + go) mod 300
next c = (c + d + go) mod 20
`
  await openNew(page, rules('Endless', text))
  await expect(page.getByText(/Counting: [1-9]/)).toBeVisible()
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByText('Counting was stopped')).toBeVisible()
  await editor(page).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(STORE)
  await expect(page.getByTestId('size')).toContainText('5 states')
})

test('rulebooks go out and come in as text; faults are told before anything is stored', async ({ page }) => {
  await openNew(page, rules('Carried', STORE))
  const { name, text } = await exportText(page, 'Rulebook (text)')
  expect([name, text]).toEqual(['carried.rules', STORE])
  await page.goto('/')
  const take = (file: string, contents: string) =>
    page
      .getByLabel('File to import')
      .setInputFiles({ name: file, mimeType: 'text/plain', buffer: Buffer.from(contents) })
  await take('bad.rules', STORE.replace('coin(0.5)', 'coyn(0.5)'))
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('line 5, column 15')
  await expect(dialog).toContainText('There is no distribution “coyn”. Did you mean “coin”?')
  await dialog.getByRole('button', { name: 'Close' }).click()
  await take('Night shop.rules', text)
  await page.waitForURL(/build/)
  await expect(page.getByLabel('Name of the environment')).toHaveValue('Night shop')
  await expect(page.getByTestId('size')).toContainText('5 states')
})

test('a comment and a policy leave what was learned as it is; a reward begins anew', async ({ page }) => {
  await openNew(page, rules('Kept', STORE))
  const stage = (name: string) => page.getByRole('button', { name, exact: true }).click()
  const learned = async () => {
    await stage('Learn')
    return readout(page, 'Steps')
  }
  await stage('Learn')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'One step', exact: true }).click()
  await expect.poll(() => readout(page, 'Steps')).toBe('3')
  await stage('Build')
  await append(page, '# nobody orders twice\npolicy "never": order 0\n')
  await expect(page.getByTestId('worth')).toContainText('never')
  expect(await learned()).toBe('3')
  await stage('Build')
  await append(page, 'reward 1\n')
  await expect.poll(learned).toBe('0')
})

test('actions of several parts are shown by the part that is chosen', async ({ page }) => {
  const id = await openNew(
    page,
    rules(
      'Two vans',
      `state at_1 in cellar, attic
state at_2 in cellar, attic
start at_1 = cellar, at_2 = cellar
action send with van from 1 to 2, to in cellar, attic
action wait
reward 1 when at_1 != at_2
next at_1 = to when action = send and van = 1
next at_2 = to when action = send and van = 2
`,
    ),
    'plan',
  )
  await page.getByRole('button', { name: 'To the end' }).click()
  const legend = page.getByRole('list', { name: 'Legend: policy' })
  await expect(legend.getByRole('listitem')).toHaveText(['van 1', 'van 2', 'wait'])
  await page.getByLabel('Needles show').selectOption('to')
  await expect(legend.getByRole('listitem')).toHaveText(['to cellar', 'to attic', 'wait'])
  await expect
    .poll(async () => {
      const document = await savedDocument(page, id)
      return document.kind === 'rulebook' && document.rulebook.view.dial
    })
    .toBe('to')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(legend.getByRole('listitem')).toHaveText(['van 1', 'van 2', 'wait'])
})

test('a rulebook begins with a pattern, and says what to change first', async ({ page }) => {
  await page.goto('/')
  await newEnvironment(page, 'New rulebook')
  const dialog = page.getByRole('dialog', { name: 'A new rulebook' })
  await expect(dialog.getByRole('radio')).toHaveCount(9)
  await dialog.getByRole('radio', { name: 'Two lines, one helper' }).check()
  await expect(dialog.getByLabel('Its rules')).toContainText('action help with counter from 1 to 2')
  await expect(dialog).toContainText('To change first: Make the first line busier')
  await page.getByRole('button', { name: 'Create' }).click()
  await expect(page.getByTestId('size')).toContainText('50 states')
  await expect(page.getByTestId('worth')).toContainText('the longer line')
  await expect(editor(page)).toContainText('# To change first: Make the first line busier')
})

test('rules are read as sentences and as a picture, and a click leads back to the rule', async ({ page }) => {
  await openNew(page, rules('Read', STORE))
  const shownAs = (name: string) =>
    page.getByRole('group', { name: 'Shown as' }).getByRole('button', { name }).click()
  await shownAs('Sentences')
  const sentences = page.getByRole('list', { name: 'The rules as sentences' })
  await expect(sentences.getByRole('listitem')).toHaveCount(10)
  await sentences.getByRole('button', { name: 'The step pays 5 times out minus order.' }).click()
  await expect(editor(page)).toBeVisible()
  await expect(page.locator('.cm-activeLine')).toHaveText('reward 5 * out - order')
  await shownAs('What depends on what')
  const picture = page.getByRole('group', { name: 'What depends on what' })
  await expect(picture.getByRole('button', { name: 'reward reward' })).toBeVisible()
  await picture.getByRole('button', { name: 'let out: go to the rule' }).press('Enter')
  await expect(page.locator('.cm-activeLine')).toHaveText('let out = if sold and left > 0 then 1 else 0')
  const { name, text } = await exportText(page, 'Python module')
  expect(name).toBe('read.py')
  expect(text).toContain('def outcomes(state, choice):')
})
