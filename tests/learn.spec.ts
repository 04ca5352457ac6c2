import { createLearner } from '../src/core/learn/methods/learners'
import { expect, test } from '@playwright/test'
import alarmBeam from '../demo/alarm-beam.json' with { type: 'json' }
import docentsRound from '../demo/docents-round.json' with { type: 'json' }
import escalatorCare from '../demo/escalator-care.json' with { type: 'json' }
import vaultDial from '../demo/vault-dial.json' with { type: 'json' }
import whichPoster from '../demo/which-poster.json' with { type: 'json' }
import { compileEnvironment } from '../src/core/environment/compile'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { writeActionValues } from '../src/core/formats/tables'
import { learnMethod } from '../src/core/learn/methods/methods'
import { LEARN_DEFAULTS } from '../src/core/settings/settings'
import { World } from '../src/core/learn/world'
import { alerts, clickCell, exportText, named, openNew, readout } from './study'

const beam = (name: string) => ({ ...(alarmBeam as unknown as EnvironmentDocument), name })

for (const method of [
  'q-learning',
  'sarsa',
  'q-lambda',
  'prioritised-sweeping',
  'reinforce',
  'actor-critic-lambda',
  'cross-entropy',
  'exact-ascent',
] as const)
  test(`${method} flat out in the page gives the same bits as in Node`, async ({ page }) => {
    const document = beam(`Bits of ${method}`)
    await openNew(page, document, 'learn')
    await page.getByLabel('Method').selectOption(method)
    await page.getByLabel('Episodes', { exact: true }).fill('400')
    await page.getByLabel('Seed', { exact: true }).fill('12')
    await page.getByRole('slider', { name: 'Speed' }).fill('8')
    await expect(page.getByText('Speed: flat out')).toBeVisible()
    await page.getByRole('button', { name: 'Play' }).click()
    await expect.poll(() => readout(page, 'Episodes')).toBe('400 of 400')
    const { text } = await exportText(page, 'Action values (CSV)')

    const { model } = compileEnvironment(document)
    const learner = createLearner(method, new World(model), {
      ...LEARN_DEFAULTS,
      discount: document.discount,
      learningRate: learnMethod(method).defaultLearningRate,
      episodes: 400,
      cap: document.cap,
      seed: 12,
    })
    while (learner.advance(999) > 0);
    expect(text).toBe(writeActionValues(model, learner.world.toModelRows(learner.table)))
    expect(await readout(page, 'Optimal value at the start')).toBe('12.37')
  })

test('one step, one episode, play, pause: the agent is followed and every update explained', async ({
  page,
}) => {
  await openNew(
    page,
    named('Small', ['...'], {
      starts: [{ at: 'B1', weight: 1 }],
      endings: [{ at: 'C1', reward: 10, name: '' }],
    }),
    'learn',
  )
  await clickCell(page, 1, 0)
  await expect(page.getByText('B1 has not been updated yet.')).toBeVisible()
  await page.getByRole('button', { name: 'One step', exact: true }).click()
  await expect(page.getByTestId('last-step')).toContainText(
    /Episode 1.*in B1 .*(north|east|south|west), reward/,
  )
  const working = page.getByRole('region', { name: 'Working' })
  await expect(working).toContainText('new value')
  await page.keyboard.press('n')
  await expect.poll(() => readout(page, 'Episodes')).toBe('1 of 2\u202f000')
  await page.getByRole('slider', { name: 'Speed' }).fill('3')
  await page.keyboard.press('p')
  await expect.poll(async () => Number((await readout(page, 'Episodes')).split(' ')[0])).toBeGreaterThan(3)
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('paused')
  const stopped = await readout(page, 'Steps')
  await page.waitForTimeout(300)
  expect(await readout(page, 'Steps')).toBe(stopped)
  // East from B1 always ends with 9: the update goes a tenth of the way from the old value.
  await expect(page.getByTestId('readout')).toContainText('policy east')
})

test('settings chosen in a run wait for the next one', async ({ page }) => {
  await openNew(page, beam('Settings'), 'learn')
  await page.getByRole('button', { name: 'To the end of the episode' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toMatch(/^1 of/)
  // Once the run has begun they are folded to one line.
  await expect(page.getByRole('textbox', { name: 'Learning rate' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Settings' }).click()
  await page.getByRole('textbox', { name: 'Learning rate' }).fill('0.7')
  await expect(page.getByText('Start over to use these.')).toBeVisible()
  await page.getByRole('button', { name: 'Start over' }).first().click()
  await expect(page.getByText('Start over to use these.')).toHaveCount(0)
  await expect.poll(() => readout(page, 'Steps')).toBe('0')
  await page.getByLabel('Method').selectOption('reinforce')
  await expect(page.getByRole('textbox', { name: 'Exploration' })).toHaveCount(0)
  await expect(page.getByRole('textbox', { name: 'Learning rate' })).toHaveValue('0.005')
})

test('the timeline goes to any update and back, and the table beside marks what changed', async ({
  page,
}) => {
  await openNew(page, beam('There and back'), 'learn')
  await page.getByRole('tab', { name: 'Table' }).click()
  const table = page.getByRole('table', { name: 'Table of the run' })
  for (let i = 0; i < 3; i++) await page.keyboard.press('.')
  await expect.poll(() => readout(page, 'Steps')).toBe('3')
  await expect(table.locator('[data-changed]')).toHaveCount(1)
  const third = await page.getByTestId('last-step').innerText()
  const changed = await table.locator('[data-changed]').innerText()
  const { text: numbers } = await exportText(page, 'Action values (CSV)')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  const total = await readout(page, 'Steps')
  // From the end, over an episode in the middle, to the third step again.
  await page.getByRole('slider', { name: 'Episode' }).fill('300')
  await expect.poll(() => readout(page, 'Episodes')).toMatch(/^300 of/)
  await expect.poll(() => readout(page, 'Status')).toBe('earlier moment')
  await page.getByLabel('Jump to').selectOption('the end so far')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  await page.getByLabel('Jump to').selectOption('the first ending')
  await expect.poll(async () => Number((await readout(page, 'Episodes')).split(' ')[0])).toBeLessThan(20)
  await expect(page.getByTestId('last-step')).toContainText('an ending')
  await page.getByRole('button', { name: 'To the start' }).click()
  await expect.poll(() => readout(page, 'Steps')).toBe(`0 of ${total}`)
  for (let i = 0; i < 4; i++) await page.keyboard.press('.')
  await page.keyboard.press(',')
  await expect.poll(() => readout(page, 'Steps')).toBe(`3 of ${total}`)
  expect(await page.getByTestId('last-step').innerText()).toBe(third)
  await expect(table.locator('[data-changed]')).toHaveText(changed)
  expect((await exportText(page, 'Action values (CSV)')).text).toBe(numbers)
  // Playing on from there takes the same steps to the same end.
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  expect(await readout(page, 'Steps')).toBe(total)
})

test('schedules are drawn and said, and a link carries all settings', async ({ page }) => {
  const id = await openNew(page, beam('Linked'), 'learn')
  await page.getByLabel('Method').selectOption('sarsa-lambda')
  await page.getByLabel('Episodes', { exact: true }).fill('15000')
  await page.getByLabel('λ').fill('0.65')
  await page.getByText('Schedules and more').click()
  await page.getByLabel('Exploration in the run').selectOption('linear')
  await page.getByLabel('Exploration, at first').fill('1')
  await page.getByLabel('Final value', { exact: true }).fill('0.05')
  await page.getByLabel('Final from episode').fill('10000')
  await expect(page.getByText(/reaches its final value in episode 10\u202f000 of 15\u202f000/)).toBeVisible()
  await expect(page.getByRole('img', { name: 'Exploration over the run, from 1 to 0.05' })).toBeVisible()
  await page.getByLabel('Initial values').selectOption('constant')
  await page.getByLabel('Number', { exact: true }).fill('12')
  await page.getByRole('button', { name: 'Copy link' }).click()
  const link = page.url()
  expect(link).toContain('?run=')
  await page.goto('/')
  await page.goto(link)
  await expect(page.getByLabel('Method')).toHaveValue('sarsa-lambda')
  await expect(page.getByLabel('λ')).toHaveValue('0.65')
  await expect(page.getByLabel('Episodes', { exact: true })).toHaveValue('15000')
  await page.getByText('Schedules and more').click()
  await expect(page.getByLabel('Final from episode')).toHaveValue('10000')
  await expect(page.getByLabel('Number', { exact: true })).toHaveValue('12')
  // A damaged one says so and learns all the same.
  await page.goto(`/environment/${id}/learn?run=${encodeURIComponent('{"lambda":7}')}`)
  await expect(alerts(page)).toContainText(/"lambda" must be less than or equal to 1.*usual ones were taken/)
  await page.getByRole('button', { name: 'One step', exact: true }).click()
  await expect.poll(() => readout(page, 'Steps')).toBe('1')
})

test('many seeds: a band, this run among them, and any of them on the board', async ({ page }) => {
  await openNew(page, beam('Crowd'), 'learn')
  await page.getByLabel('Episodes', { exact: true }).fill('300')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  const exact = await readout(page, 'Policy’s value at the start')
  await page.getByRole('tab', { name: 'Seeds' }).click()
  await page.getByLabel('Runs').fill('12')
  await page.getByRole('button', { name: 'Run', exact: true }).click()
  await expect(page.getByTestId('place')).toContainText(/run 0, the one on the board, is number \d+ of 12/)
  await expect(page.getByText(/\d+ of 12 runs came within 1 % of the optimum/)).toBeVisible()
  await expect(page.getByRole('img', { name: 'All runs by their mean return' })).toBeVisible()
  const drawn = page.getByLabel('Draw in the strip')
  await expect(drawn.getByRole('option')).toHaveCount(13)
  await drawn.selectOption('7')
  await page.getByRole('button', { name: 'Watch it on the board' }).click()
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  await expect(page.getByTestId('place')).toContainText('run 7')
  expect(exact).toMatch(/\d/)
})

test('trials without learning, and any of their episodes on the board', async ({ page }) => {
  await openNew(page, beam('Trials'), 'learn')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  await page.getByRole('tab', { name: 'Trials' }).click()
  await page.getByRole('button', { name: 'Evaluate' }).click()
  const rows = page.getByRole('table', { name: 'Trials' }).getByRole('row')
  await expect(rows).toHaveCount(5)
  await expect(rows.filter({ hasText: 'optimal policy' })).toContainText('100 %')
  await expect(rows.filter({ hasText: 'greedy policy' })).toContainText('12.37')
  await page.getByRole('button', { name: 'greedy policy' }).click()
  const trial = page.getByRole('region', { name: 'Trial on the board' })
  await expect(trial).toContainText('episode 1 of 500, step 0 of 6')
  for (let i = 0; i < 6; i++) await trial.getByRole('button', { name: 'Step on in the trial' }).click()
  await expect(trial).toContainText('an ending')
  await expect(trial).toContainText('return so far 12.37')
  await trial.getByRole('button', { name: 'Next episode' }).click()
  await expect(trial).toContainText('episode 2 of 500')
  await trial.getByRole('button', { name: 'Back to the run' }).click()
  await expect(trial).toHaveCount(0)
  await expect(page.getByText(/While learning: mean return of the first 50 episodes/)).toBeVisible()
})

test('a table is kept, outlives the page, and is gone on from; files go out and in', async ({ page }) => {
  const id = await openNew(page, beam('Kept'), 'learn')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'Status')).toBe('done')
  const { text: csv } = await exportText(page, 'Action values (CSV)')
  await page.getByRole('tab', { name: 'Keep' }).click()
  await page.getByLabel('Keep the table as it is now').fill('a good night')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByRole('list', { name: 'Kept tables' })).toContainText('a good night')
  await page.goto(`/environment/${id}/learn`)
  await page.getByRole('tab', { name: 'Keep' }).click()
  const item = page.getByRole('listitem').filter({ hasText: 'a good night' })
  await item.getByRole('button', { name: 'Continue from it' }).click()
  await expect(page.getByText('every number found its place by name')).toBeVisible()
  await expect.poll(() => readout(page, 'Policy’s value at the start')).toBe('12.37')
  expect((await exportText(page, 'Action values (CSV)')).text).toBe(csv)
  // From a file: the same numbers, and a word about what is not known here.
  const changed = csv.replaceAll(/^F7,/gm, 'Z9,')
  await page
    .getByLabel('Table from a file')
    .setInputFiles({ name: 'mine.csv', mimeType: 'text/csv', buffer: Buffer.from(changed) })
  await expect(page.getByText(/new here, with initial values: F7; not here any more: Z9/)).toBeVisible()
  await page
    .getByLabel('Table from a file')
    .setInputFiles({ name: 'bad.csv', mimeType: 'text/csv', buffer: Buffer.from('state,worth\nA1,1') })
  await expect(page.getByText(/There is no column value/)).toBeVisible()
  await page.getByRole('button', { name: 'Delete a good night' }).click()
  await expect(item).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(item).toHaveCount(1)
})

test('a course goes from easy to hard and carries what was learned', async ({ page }) => {
  await openNew(page, { ...(vaultDial as unknown as EnvironmentDocument), name: 'Course' }, 'learn')
  await expect.poll(() => readout(page, 'Steps')).toBe('0')
  await page.getByRole('tab', { name: 'Keep' }).click()
  await page.getByLabel('From easy to hard by the knob').selectOption('twists')
  const course = page.getByRole('region', { name: 'Course' })
  for (const place of [0, 1, 2]) await course.getByLabel('Episodes').nth(place).fill('400')
  await course.getByRole('button', { name: 'Run the course' }).click()
  await expect(page.getByTestId('step-done')).toHaveCount(3)
  await expect(page.getByText(/The run began with what was learned in the course step before/)).toBeVisible()
  await expect(page.getByLabel('twists', { exact: true })).toHaveValue('4')
  await expect.poll(() => readout(page, 'Episodes')).toBe('400 of 400')
})

test('a run is taken up where it stood, however soon the page was left, and goes back to its beginning', async ({
  page,
}) => {
  const id = await openNew(page, beam('Broken off'), 'learn')
  await page.getByLabel('Episodes', { exact: true }).fill('900')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'To the end of the episode' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('3 of 900')
  await page.getByRole('button', { name: 'One step back' }).click()
  await expect(page.getByText('earlier moment')).toBeVisible()
  const steps = await readout(page, 'Steps')
  const { text } = await exportText(page, 'Action values (CSV)')
  await page.reload()
  await expect(page.getByText(/Q-learning was interrupted when this page was left/)).toBeVisible()
  await page.getByRole('button', { name: 'Resume it' }).click()
  await expect.poll(() => readout(page, 'Steps')).toBe(steps)
  expect((await exportText(page, 'Action values (CSV)')).text).toBe(text)
  await expect(page.getByText('was interrupted')).toHaveCount(0)
  await page.getByRole('button', { name: 'To the start' }).click()
  await expect.poll(() => readout(page, 'Steps')).toMatch(/^0 of/)
  expect(id).toBeTruthy()
})

test('a finished run and its seeds are there again after a reload', async ({ page }) => {
  await openNew(page, beam('Finished'), 'learn')
  await page.getByLabel('Episodes', { exact: true }).fill('300')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('300 of 300')
  await page.getByRole('tab', { name: 'Seeds' }).click()
  await page.getByLabel('Runs', { exact: true }).fill('4')
  await page.getByRole('button', { name: 'Run', exact: true }).click()
  await expect(page.getByTestId('place')).toContainText(/run 0, the one on the board, is number \d of 4/)
  // The band names its method; a run of another one is none of them.
  await page.getByLabel('Method').selectOption('sarsa')
  await page.getByRole('button', { name: 'Start over' }).click()
  await expect(page.getByTestId('place')).toHaveCount(0)
  await expect(page.getByText(/These are runs of Q-learning/)).toBeVisible()
  await page.getByLabel('Method').selectOption('q-learning')
  await page.getByRole('button', { name: 'Start over' }).click()
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('300 of 300')
  const value = await readout(page, 'Policy’s value at the start')
  await page.reload()
  await expect(page.getByText(/Q-learning was finished when this page was left/)).toBeVisible()
  await page.getByRole('button', { name: 'Show it again' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('300 of 300')
  await expect.poll(() => readout(page, 'Policy’s value at the start')).toBe(value)
  await page.getByRole('tab', { name: 'Seeds' }).click()
  await expect(page.getByTestId('place')).toContainText(/number \d of 4/)
})

test('discount and cap follow Build, and stay where they were set apart', async ({ page }) => {
  await openNew(page, beam('Followed'), 'learn')
  await expect(page.getByLabel('Discount', { exact: true })).toHaveValue('0.98')
  await page.getByRole('button', { name: 'Build', exact: true }).click()
  await page.getByLabel('Discount', { exact: true }).fill('0.8')
  await page.getByLabel(/^Step limit/).fill('77')
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await expect(page.getByLabel('Discount', { exact: true })).toHaveValue('0.8')
  await page.getByLabel('Discount', { exact: true }).fill('0.5')
  await expect(page.getByText('The environment’s discount is 0.8.')).toBeVisible()
  await page.getByRole('button', { name: 'Learn', exact: true }).click()
  await expect(page.getByLabel('Discount', { exact: true })).toHaveValue('0.8')
  await expect(page.getByLabel('Step limit')).toHaveValue('77')
})

test('says when no ending can be reached, and when the cap is shorter than the shortest way', async ({
  page,
}) => {
  const corridor = {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'F1', reward: 10, name: '' }],
  }
  await openNew(page, { ...named('Walled off', ['..#...'], corridor), discount: 0.95 }, 'plan')
  const note = page.getByText(/No ending can be reached from the start/)
  await expect(note).toBeVisible()
  await page.getByRole('button', { name: 'Learn', exact: true }).click()
  await expect(note).toBeVisible()
  await openNew(page, { ...named('Cut short', ['......'], corridor), cap: 3 }, 'learn')
  await expect(
    page.getByText(/step limit of 3 is shorter than the shortest way to an ending, 5 steps/),
  ).toBeVisible()
})

for (const [name, document, method] of [
  ['a bandit', whichPoster, 'q-learning'],
  ['a rulebook', escalatorCare, 'td-lambda'],
  ['a table', docentsRound, 'monte-carlo-control'],
] as const)
  test(`learns on ${name}, forward and back`, async ({ page }) => {
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.message))
    await openNew(page, { ...(document as unknown as EnvironmentDocument), name: `On ${name}` }, 'learn')
    await expect.poll(() => readout(page, 'Steps')).toBe('0')
    await page.getByLabel('Method').selectOption(method)
    await page.getByRole('slider', { name: 'Speed' }).fill('8')
    for (let i = 0; i < 4; i++) await page.keyboard.press('n')
    await expect.poll(() => readout(page, 'Episodes')).toMatch(/^4 of/)
    await expect(page.getByRole('region', { name: 'Working' })).toContainText('new value')
    await page.keyboard.press('b')
    await expect.poll(() => readout(page, 'Episodes')).toMatch(/^3 of/)
    await page.getByRole('tab', { name: 'Pseudo-code' }).click()
    await expect(page.locator('[aria-current=step]')).toHaveCount(1)
    await page.getByRole('tab', { name: 'Table' }).click()
    await expect(page.getByRole('table', { name: 'Table of the run' })).not.toContainText('NaN')
    await expect(page.locator('body')).not.toContainText('NaN')
    expect(errors).toEqual([])
  })

test('flat out, the page still answers', async ({ page }) => {
  const floor = Array.from({ length: 40 }, () => '.'.repeat(60))
  await openNew(
    page,
    named('Large', floor, { endings: [{ at: 'BH40', reward: 5, name: '' }], veer: 0.2 }),
    'learn',
  )
  await page.getByLabel('Episodes', { exact: true }).fill('1000000')
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(async () => (await readout(page, 'Steps')).length).toBeGreaterThan(6)
  await page.getByRole('button', { name: 'Table' }).click()
  await page.getByLabel('Find a state').fill('BH3')
  await expect(page.getByText('11 of 2400 states')).toBeVisible()
  await page.getByRole('button', { name: 'Pause' }).click()
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()
})

test('findings say why a run does not learn, mark where, and try what mends it beside it', async ({
  page,
}) => {
  await openNew(
    page,
    {
      ...named('Stubborn', ['......', '......'], {
        starts: [{ at: 'A1', weight: 1 }],
        endings: [{ at: 'F2', reward: 10, name: '' }],
        stepReward: 0,
      }),
      learning: {
        episodes: 600,
        ties: 'first',
        exploration: { way: 'epsilon-greedy', level: { kind: 'constant', from: 0 } },
      },
    },
    'learn',
  )
  await page.getByRole('tab', { name: 'Findings' }).click()
  await expect(page.getByText('Let it learn for an episode at least.')).toBeVisible()
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('600 of 600')
  // It begins by itself when the run is over.
  const findings = page.getByLabel('Findings').getByRole('listitem')
  await expect(page.getByTestId('diagnosis-line')).toContainText('worth 0', { timeout: 60_000 })
  await expect(findings.first()).toContainText('always takes the first action')
  await expect(findings.first()).toContainText('Seen in 10 of 10 runs')
  await expect(findings).toHaveCount(3)

  // Both settings in Compare, with what was promised.
  await findings.first().getByRole('button', { name: 'Compare both' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Stubborn: Compare' })).toBeVisible()
  await expect(
    page.getByText(/tie-breaking random.* beats .*tie-breaking the first in 30 of 30 runs/),
  ).toBeVisible({
    timeout: 60_000,
  })

  // The same is found on a contestant of Compare, and what mends it is one more of them.
  const contestants = page.getByLabel('Contestants').locator(':scope > li')
  await contestants
    .first()
    .getByRole('button', { name: /^Change / })
    .click()
  await contestants
    .first()
    .getByRole('button', { name: /^Findings on / })
    .click()
  await page.getByRole('button', { name: 'Find out what is wrong' }).click()
  await expect(findings.first()).toContainText('always takes the first action', { timeout: 60_000 })
  await findings.first().getByRole('button', { name: 'Add with this change' }).click()
  await expect(contestants).toHaveCount(3)

  // Or taken for the run itself.
  await page.getByRole('button', { name: 'Learn', exact: true }).click()
  await page.getByRole('tab', { name: 'Findings' }).click()
  await findings.first().getByRole('button', { name: 'Start over with it' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('0 of 600')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect(page.getByTestId('diagnosis-line')).toContainText('100', { timeout: 60_000 })
  await expect(findings.first()).toContainText('Nothing is wrong')
  await expect(alerts(page)).toHaveCount(0)
})
