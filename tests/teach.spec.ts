import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import { readNpy } from '../src/core/formats/npy'
import { compileEnvironment } from '../src/core/environment/compile'
import { solveOptimum } from '../src/core/plan/solve'
import { startValue } from '../src/core/model/model'
import { gridDocument } from '../src/core/testing/models'
import { alerts, clickCell, openNew, putOnShelf, readout } from './study'

/** Adds what is on the screen to a lesson, by its menu. */
async function addToLesson(page: Page, lesson: string | null, title: string, text: string) {
  await page.getByRole('button', { name: 'Share this view' }).click()
  await page.getByRole('menuitem', { name: 'Add to a lesson …' }).click()
  if (lesson !== null) {
    await page.getByLabel('Lesson', { exact: true }).selectOption('A new lesson …')
    await page.getByLabel('Its name').fill(lesson)
  }
  await page.getByLabel('Title of the view').fill(title)
  await page.getByLabel('Text, which can be written later').fill(text)
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText(/^It is view \d+ of/)).toBeVisible()
}

async function planToTheEnd(page: Page) {
  await page.getByRole('button', { name: 'To the end' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('within tolerance')
}

const number = (page: Page, name: string) => page.locator(`[data-name="${name}"]`)
const shown = (page: Page) => page.getByTestId('presentation')

const HALL = () => ({
  ...gridDocument(['....', '.#..', '....'], {
    endings: [{ at: 'D3', reward: 10, name: 'door' }],
    starts: [{ at: 'A1', weight: 1 }],
    stepReward: -1,
  }),
  name: 'Lesson hall',
  discount: 0.9,
})

test('a lesson is made of two environments, presented, played with and brought back', async ({ page }) => {
  const hall = HALL()
  await openNew(page, hall, 'plan')
  for (let i = 0; i < 2; i++) await page.keyboard.press('.')
  await expect.poll(() => readout(page, 'Sweep')).toBe('2 of 2')
  await clickCell(page, 2, 2)
  await addToLesson(
    page,
    'Two halls',
    'After two sweeps',
    'After [[sweeps]] sweeps [[value of C3]] and $V=[[value]]$; **not** <b onclick="x">html</b>.',
  )
  await page.getByRole('button', { name: 'Go on here' }).click()
  await page.getByRole('button', { name: 'Learn', exact: true }).click()
  await page.keyboard.press('.')
  await page.keyboard.press('.')
  await page.keyboard.press('.')
  await expect.poll(() => readout(page, 'Steps')).toBe('3')
  await addToLesson(page, null, 'Three steps', 'After [[steps]] steps.')
  await openNew(page, { ...hall, name: 'Second hall' }, 'plan')
  await planToTheEnd(page)
  await addToLesson(page, null, 'At the end', 'The start is worth [[start value]].')
  await page.getByRole('link', { name: 'Open the lesson' }).click()

  // The page to prepare it shows each view as it was left.
  const views = page.getByLabel('Views of the lesson').getByRole('listitem')
  await expect(views).toHaveCount(3)
  // 10 for the last step from C3, which costs 1.
  await expect(number(page, 'value of C3')).toHaveText('9')
  await expect(number(page, 'sweeps')).toHaveText('2')
  await expect(page.locator('.katex').first()).toContainText('9')
  await expect(page.locator('b[onclick]')).toHaveCount(0)
  await views.nth(2).getByRole('button').first().click()
  const optimum = solveOptimum(compileEnvironment(hall).model, 0.9)!
  const worth = startValue(compileEnvironment(hall).model, optimum.values)
  await expect(number(page, 'start value')).toHaveText(worth.toFixed(2).replace('-', '−'))
  await page.getByRole('button', { name: 'Move up' }).click()
  await expect(views.nth(1)).toContainText('At the end')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(views.nth(2)).toContainText('At the end')
  await views.nth(0).getByRole('button').first().click()
  await page.getByLabel('Notes for the speaker').fill('Ask what comes after [[sweeps]] sweeps.')
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()

  // Presenting: keys turn, what is played with comes back, the pen is gone with the next view.
  await page.getByRole('link', { name: 'Present' }).click()
  await expect(shown(page).getByRole('heading', { name: 'After two sweeps' }).last()).toBeVisible()
  await expect(number(page, 'sweeps')).toHaveText('2')
  await page.keyboard.press('.')
  await expect(number(page, 'sweeps')).toHaveText('3')
  await page.keyboard.press('r')
  await expect(number(page, 'sweeps')).toHaveText('2')
  await page.keyboard.press('d')
  await page.mouse.move(700, 200)
  await page.mouse.down()
  await page.mouse.move(800, 300, { steps: 3 })
  await page.mouse.up()
  await expect(page.getByRole('img', { name: 'Drawn by hand: 1 line' })).toBeVisible()
  await page.keyboard.press('PageDown')
  await expect(number(page, 'steps')).toHaveText('3')
  await expect(page.getByRole('img', { name: /Drawn by hand/ })).toHaveCount(0)
  const [speaker] = await Promise.all([page.waitForEvent('popup'), page.keyboard.press('w')])
  await expect(speaker.getByRole('heading', { name: 'Three steps' })).toBeVisible()
  await speaker.getByRole('button', { name: 'Back' }).click()
  await expect(number(page, 'sweeps')).toHaveText('2')
  await expect(speaker.getByText('Ask what comes after 2 sweeps.')).toBeVisible()
  await expect(speaker.getByText('Three steps')).toBeVisible()
  // A reload stays at the view.
  await page.keyboard.press('PageDown')
  await expect(page).toHaveURL(/at=2$/)
  await page.reload()
  await expect(number(page, 'steps')).toHaveText('3')
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('Name of the lesson')).toHaveValue('Two halls')
  await expect(alerts(page)).toHaveCount(0)
})

test('a view whose environment has changed says so, and is shown as it was', async ({ page }) => {
  const hall = { ...HALL(), name: 'Changing hall' }
  const id = await openNew(page, hall, 'plan')
  await planToTheEnd(page)
  await addToLesson(page, 'Changes', 'Then', 'Worth [[start value]].')
  await page.getByRole('button', { name: 'Go on here' }).click()
  const { revision } = await (await page.request.get(`/api/environments/${id}`)).json()
  const dear = { ...hall, grid: { ...hall.grid, stepReward: -2 } }
  await page.request.put(`/api/environments/${id}`, { data: { revision, document: dear } })
  await page.goto('/')
  await page.getByRole('link', { name: 'Changes', exact: true }).click()
  await expect(page.getByText('has changed on the shelf since the view was made')).toBeVisible()
  const optimum = (document: typeof dear) => {
    const { model } = compileEnvironment(document)
    return startValue(model, solveOptimum(model, 0.9)!.values)
  }
  const text = (value: number) => String(Number(value.toFixed(2))).replace('-', '−')
  await expect(number(page, 'start value')).toHaveText(text(optimum(dear)))
  await page.getByRole('button', { name: 'Show it as it was' }).click()
  await expect(number(page, 'start value')).toHaveText(text(optimum(hall)))
  expect(text(optimum(hall))).not.toBe(text(optimum(dear)))
})

test('a link to a view is short, and opens it: stage, moment, layers, selection', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await openNew(page, { ...HALL(), name: 'Linked hall' }, 'learn')
  for (let i = 0; i < 4; i++) await page.keyboard.press('.')
  await expect.poll(() => readout(page, 'Steps')).toBe('4')
  await clickCell(page, 2, 0)
  await page.getByLabel('Visits').check()
  await page.getByRole('tab', { name: 'Pseudo-code' }).click()
  await page.getByRole('button', { name: 'Share this view' }).click()
  await page.getByRole('menuitem', { name: 'Copy a link to this view' }).click()
  await expect(page.getByText('The link to this view is copied.')).toBeVisible()
  const link = await page.evaluate(() => navigator.clipboard.readText())
  expect(new URL(link).search).toMatch(/^\?view=[a-z0-9]{10}$/)
  const other = await context.newPage()
  await other.goto(link)
  await expect.poll(() => readout(other, 'Steps')).toBe('4')
  await expect(other.getByLabel('Visits')).toBeChecked()
  await expect(other.getByRole('tab', { name: 'Pseudo-code' })).toHaveAttribute('aria-selected', 'true')
  await expect(other.getByTestId('readout')).toContainText('C1')
  await other.goto(link.replace(/view=.*/, 'view=0000000000'))
  await expect(other.getByText('The link names a view that is not known here')).toBeVisible()
})

test('a link to a view of Compare opens its comparison, with the view', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await openNew(page, { ...HALL(), name: 'Compared hall' }, 'compare')
  await page.getByLabel('Add a contestant').selectOption({ label: 'Q-learning, SARSA and Expected SARSA' })
  const contestants = (of: Page) => of.getByRole('list', { name: 'Contestants' }).getByRole('listitem')
  await expect(contestants(page)).toHaveCount(3)
  await page.getByRole('button', { name: 'Share this view' }).click()
  await page.getByRole('menuitem', { name: 'Copy a link to this view' }).click()
  await expect(page.getByText('The link to this view is copied.')).toBeVisible()
  const link = await page.evaluate(() => navigator.clipboard.readText())
  // Another comparison is open by now.
  await page.getByRole('button', { name: 'New', exact: true }).click()
  await expect(contestants(page)).toHaveCount(0)
  const other = await context.newPage()
  await other.goto(link)
  await expect(contestants(other)).toHaveCount(3)
  await expect(alerts(other)).toHaveCount(0)
})

test('a lesson like “Values and sweeps” takes at most twelve actions a view', async ({ page }) => {
  let taken = 0
  const act = async (action: Promise<unknown>) => {
    await action
    taken++
  }
  const share = async (title: string, lesson: string | null) => {
    await act(page.getByRole('button', { name: 'Share this view' }).click())
    await act(page.getByRole('menuitem', { name: 'Add to a lesson …' }).click())
    if (lesson) {
      await act(page.getByLabel('Lesson', { exact: true }).selectOption('A new lesson …'))
      await act(page.getByLabel('Its name').fill(lesson))
    }
    await act(page.getByLabel('Title of the view').fill(title))
    await act(page.getByLabel('Text, which can be written later').fill(`After [[sweeps]] sweeps.`))
    await act(page.getByRole('button', { name: 'Add it' }).click())
    await act(page.getByRole('button', { name: 'Go on here' }).click())
    expect(taken, title).toBeLessThanOrEqual(12)
    taken = 0
  }
  await page.goto('/?show=1000')
  await act(page.getByRole('link', { name: 'Night rounds', exact: true }).click())
  await act(page.getByRole('button', { name: 'Plan', exact: true }).click())
  await expect(page.locator('[data-ready=true]')).toBeVisible()
  await act(page.keyboard.press('.'))
  await expect.poll(() => readout(page, 'Sweep')).toBe('1 of 1')
  await share('The first sweep', 'Counted')
  for (let i = 0; i < 2; i++) await act(page.keyboard.press('.'))
  await expect.poll(() => readout(page, 'Sweep')).toBe('3 of 3')
  await act(clickCell(page, 0, 3))
  await share('News travels one cell a sweep', null)
  await act(page.getByRole('button', { name: 'To the end' }).click())
  await expect.poll(() => readout(page, 'Sweep')).toBe('62 of 62')
  await act(page.getByRole('slider', { name: 'Sweep' }).fill('26'))
  await share('The needles rest', null)
  await act(page.getByRole('button', { name: 'To the end' }).click())
  await share('At rest', null)
  // A run of another environment.
  await act(page.getByRole('link', { name: 'Back to the shelf' }).click())
  // After other tests the shelf is long, and shown in parts.
  await act(page.getByLabel('Find an environment by its name').fill('The alarm beam'))
  await act(page.getByRole('link', { name: 'The alarm beam', exact: true }).click())
  await act(page.getByRole('button', { name: 'Learn', exact: true }).click())
  await act(page.getByLabel('Method').selectOption({ label: 'SARSA' }))
  await act(page.getByRole('button', { name: 'To the end' }).click())
  await share('SARSA', null)
  // What is beside the board is said on the page of the lesson.
  const lessons = (await (await page.request.get('/api/lessons')).json()) as { id: string; name: string }[]
  await page.goto(`/lesson/${lessons.find(({ name }) => name === 'Counted')!.id}`)
  const views = page.getByLabel('Views of the lesson').getByRole('listitem')
  await expect(views).toHaveCount(5)
  for (const [i, sweeps] of ['1', '3', '26', '62'].entries()) {
    await views.nth(i).getByRole('button').first().click()
    await expect(number(page, 'sweeps')).toHaveText(sweeps)
  }
})

test('the runs of the view that comes next are played while the one before is shown', async ({ page }) => {
  const lessons = (await (await page.request.get('/api/lessons')).json()) as { id: string; name: string }[]
  const { id } = lessons.find(({ name }) => name === 'On-policy and off-policy')!
  await page.goto(`/lesson/${id}/present?at=4`)
  /** Runs of comparisons that this browser keeps for the lesson. */
  const kept = () =>
    page.evaluate(
      (lesson) =>
        new Promise<number>((resolve) => {
          const opening = indexedDB.open('jaunty-pawn')
          // Nothing is there yet: it is not made here.
          opening.onupgradeneeded = () => opening.transaction!.abort()
          opening.onerror = () => resolve(0)
          opening.onsuccess = () => {
            const database = opening.result
            const asked = database
              .transaction('runs')
              .objectStore('runs')
              .getAll(IDBKeyRange.bound(`lesson ${lesson}`, `lesson ${lesson}~`))
            asked.onsuccess = () => {
              database.close()
              const lists = asked.result.flatMap((each) => Object.values(each.results ?? {})) as unknown[][]
              resolve(lists.reduce((sum, list) => sum + list.length, 0))
            }
          }
        }),
      id,
    )
  await expect.poll(kept, { timeout: 60_000 }).toBe(60)
  await page.keyboard.press('PageDown')
  await expect(page.getByRole('img', { name: /Return while learning/ })).toBeVisible()
  await expect(alerts(page)).toHaveCount(0)
})

test('a lesson is exported, deleted, brought back and imported', async ({ page }) => {
  const id = await putOnShelf(page.request, { ...HALL(), name: 'Packed hall' })
  await page.goto(`/environment/${id}/plan`)
  await expect(page.locator('[data-ready=true]')).toBeVisible()
  await addToLesson(page, 'Packed', 'One', 'The discount is [[discount]].')
  await page.getByRole('link', { name: 'Open the lesson' }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export the lesson' }).click(),
  ])
  const text = await readFile((await download.path())!, 'utf8')
  await page.getByRole('link', { name: 'Back to the shelf' }).click()
  const lessons = page.getByRole('region', { name: 'Lessons' }).getByRole('listitem')
  const packed = lessons.filter({ has: page.getByRole('link', { name: 'Packed', exact: true }) })
  await packed.getByRole('button', { name: 'Delete Packed' }).click()
  await expect(packed).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(packed).toHaveCount(1)
  await packed.getByRole('button', { name: 'Delete Packed' }).click()
  await expect(packed).toHaveCount(0)
  await page.request.delete(`/api/environments/${id}`)
  await page.getByLabel('File to import').setInputFiles({
    name: 'packed.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  })
  await expect(page.getByLabel('Name of the lesson')).toHaveValue('Packed')
  await expect(page.getByText('“Packed hall” is not on this shelf')).toBeVisible()
  await expect(number(page, 'discount')).toHaveText('0.9')
  await page.goto('/')
  await page.getByLabel('File to import').setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('"stage": "plan"', '"stage": "cellar"')),
  })
  await expect(page.getByText('views.0.scene.stage', { exact: false })).toBeVisible()
})

test('a version of a lesson is kept and restored', async ({ page }) => {
  await openNew(page, { ...HALL(), name: 'Kept hall' }, 'plan')
  await addToLesson(page, 'Kept', 'As it was', '')
  await page.getByRole('link', { name: 'Open the lesson' }).click()
  const versions = page.getByRole('button', { name: 'Versions' })
  await versions.click()
  await page.getByLabel('Name of the version').fill('before class')
  await page.getByRole('button', { name: 'Keep this version' }).click()
  await page.getByRole('button', { name: /^before class/ }).click()
  await page.keyboard.press('Escape')
  const title = page.getByLabel('Title', { exact: true })
  await title.fill('As it is')
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()
  await versions.click()
  await page.getByRole('button', { name: /^before class/ }).click()
  await page.getByRole('button', { name: 'Restore before class' }).click()
  await expect(title).toHaveValue('As it was')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(title).toHaveValue('As it is')
})

test('a view takes over what its board shows after it was played with', async ({ page }) => {
  await openNew(page, { ...HALL(), name: 'Played hall' }, 'plan')
  await addToLesson(page, 'Played', 'Begun', 'After [[sweeps]] sweeps [[value of C3]].')
  await page.getByRole('link', { name: 'Open the lesson' }).click()
  await expect(number(page, 'sweeps')).toHaveText('0')
  await page.keyboard.press('.')
  await expect(number(page, 'sweeps')).toHaveText('1')
  await page.getByRole('button', { name: 'Keep what the board shows now' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible()
  await page.reload()
  await expect(number(page, 'sweeps')).toHaveText('1')
  await expect(number(page, 'value of C3')).toHaveText('9')
})

test('numbers and a notebook that reads them are taken away', async ({ page }) => {
  await openNew(page, { ...HALL(), name: 'Counted hall' }, 'plan')
  // That of the plan, which need not be that of the environment.
  await page.getByLabel('Discount', { exact: true }).fill('0.5')
  await page.getByLabel('Discount', { exact: true }).press('Enter')
  await planToTheEnd(page)
  const take = async (entry: string) => {
    await page.getByRole('button', { name: 'Export', exact: true }).click()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: entry }).click(),
    ])
    return { name: download.suggestedFilename(), bytes: await readFile((await download.path())!) }
  }
  const numbers = await take('Numbers for a notebook (.npz)')
  expect(numbers.name).toBe('counted-hall-numbers.npz')
  const files = unzipSync(numbers.bytes)
  expect(readNpy(files['discount.npy'], 'discount.npy').values[0]).toBe(0.5)
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining(['states.npy', 'outcome_probability.npy', 'values.npy', 'policy.npy']),
  )
  const notebook = await take('Notebook that reads the numbers (.ipynb)')
  expect(notebook.name).toBe('counted-hall.ipynb')
  expect(notebook.bytes.toString()).toContain('np.load(\\"counted-hall-numbers.npz\\")')
})

test('numbers are covered for a class to guess, and shown', async ({ page }) => {
  await openNew(page, { ...HALL(), name: 'Covered hall' }, 'plan')
  await addToLesson(page, 'Covered', 'What comes next?', 'Guess.')
  await page.getByRole('link', { name: 'Open the lesson' }).click()
  await page.getByRole('link', { name: 'Present' }).click()
  await expect(shown(page).getByRole('heading', { name: 'What comes next?' }).last()).toBeVisible()
  const board = shown(page).locator('canvas[aria-roledescription=board]')
  await expect(board).toHaveAttribute('data-side')
  const covers = page.getByRole('button', { name: 'Covered: show it' })
  /** Whether the cover lies on the cell C3, wherever the board is now. */
  const liesOnCell = async () => {
    const [canvas, cover] = [(await board.boundingBox())!, (await covers.first().boundingBox())!]
    const margin = Number(await board.getAttribute('data-margin'))
    const scale = canvas.width / (4 * Number(await board.getAttribute('data-side')) + 2 * margin)
    const side = Number(await board.getAttribute('data-side')) * scale
    return (
      Math.abs(cover.x - (canvas.x + margin * scale + 2 * side)) < 2 &&
      Math.abs(cover.y - (canvas.y + margin * scale + 2 * side)) < 2 &&
      Math.abs(cover.width - side) < 2
    )
  }
  await page.keyboard.press('h')
  const box = (await board.boundingBox())!
  await page.mouse.click(box.x + box.width * 0.62, box.y + box.height * 0.82)
  await expect(covers).toHaveCount(1)
  expect(await liesOnCell()).toBe(true)
  // What changes the size of the board leaves the number covered.
  await page.keyboard.press('s')
  await expect.poll(liesOnCell).toBe(true)
  await page.keyboard.press('s')
  // A drag covers anything, such as a part of the text.
  await page.mouse.move(30, 60)
  await page.mouse.down()
  await page.mouse.move(200, 120, { steps: 4 })
  await page.mouse.up()
  await expect(covers).toHaveCount(2)
  // A click shows it, also when nothing more is covered.
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('covering')).toHaveCount(0)
  await covers.first().click()
  await expect(covers).toHaveCount(1)
  await page.keyboard.press('u')
  await expect(covers).toHaveCount(0)
  // In a table a row by its head, a number by itself.
  await page.getByRole('button', { name: 'Table', exact: true }).click()
  const row = page.getByRole('row').filter({ hasText: /^B1/ })
  await expect(row).toBeVisible()
  await page.keyboard.press('h')
  const at = (await row.boundingBox())!
  await page.mouse.click(at.x + 10, at.y + at.height / 2)
  await expect(covers).toHaveCount(1)
  const covered = (await covers.first().boundingBox())!
  expect(Math.abs(covered.width - at.width)).toBeLessThan(3)
  // The button is not under the sheet that takes the clicks.
  await page.getByRole('button', { name: 'Uncover' }).click()
  await expect(covers).toHaveCount(0)
})
