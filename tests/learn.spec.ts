import { expect, test } from '@playwright/test'
import alarmBeam from '../demo/alarm-beam.json' with { type: 'json' }
import { compileEnvironment, type EnvironmentDocument } from '../src/core/environment/document'
import { writeActionValues } from '../src/core/formats/tables'
import { learnMethod } from '../src/core/learn/methods'
import { LEARN_DEFAULTS } from '../src/core/learn/settings'
import { World } from '../src/core/learn/world'
import { clickCell, exportText, named, openNew, readout } from './study'

const beam = (name: string) => ({ ...(alarmBeam as unknown as EnvironmentDocument), name })

for (const method of ['q-learning', 'sarsa', 'q-lambda', 'prioritised-sweeping', 'reinforce'] as const)
  test(`${method} flat out in the page gives the same bits as in Node`, async ({ page }) => {
    const document = beam(`Bits of ${method}`)
    await openNew(page, document, 'learn')
    await page.getByLabel('Method').selectOption(method)
    await page.getByLabel('Episodes', { exact: true }).fill('400')
    await page.getByLabel('Seed').fill('12')
    await page.getByRole('slider', { name: 'Speed' }).fill('8')
    await expect(page.getByText('Speed: flat out')).toBeVisible()
    await page.getByRole('button', { name: 'Play' }).click()
    await expect.poll(() => readout(page, 'Episodes')).toBe('400 of 400')
    const { text } = await exportText(page, 'Action values (CSV)')

    const { model } = compileEnvironment(document)
    const learner = learnMethod(method).create(new World(model), {
      ...LEARN_DEFAULTS,
      discount: document.discount,
      learningRate: learnMethod(method).defaultLearningRate,
      episodes: 400,
      cap: document.cap,
      seed: 12,
    })
    while (learner.advance(999) > 0);
    expect(text).toBe(writeActionValues(model, learner.world.modelPolicy(learner.table)))
    expect(await readout(page, 'Optimum')).toBe('12.37')
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
  await page.getByRole('button', { name: 'One step' }).click()
  await expect(page.getByTestId('last-step')).toContainText(
    /Episode 1.*in B1 .*(north|east|south|west), reward/,
  )
  const working = page.getByRole('region', { name: 'Working' })
  await expect(working).toContainText('new value')
  await page.keyboard.press('n')
  await expect.poll(() => readout(page, 'Episodes')).toBe('1 of 2\u2009000')
  await page.getByRole('slider', { name: 'Speed' }).fill('3')
  await page.keyboard.press('p')
  await expect.poll(async () => Number((await readout(page, 'Episodes')).split(' ')[0])).toBeGreaterThan(3)
  await page.keyboard.press('p')
  await expect.poll(() => readout(page, 'State of the run')).toBe('paused')
  const stopped = await readout(page, 'Steps')
  await page.waitForTimeout(300)
  expect(await readout(page, 'Steps')).toBe(stopped)
  // East from B1 always ends with 9: the update goes a tenth of the way from the old value.
  await expect(page.getByTestId('readout')).toContainText('policy east')
})

test('settings chosen in a run wait for the next one', async ({ page }) => {
  await openNew(page, beam('Settings'), 'learn')
  await page.getByRole('button', { name: 'To the end of the episode' }).click()
  await expect.poll(() => readout(page, 'Episodes')).toBe('1 of 2\u2009000')
  await page.getByLabel('Learning rate').fill('0.7')
  await expect(page.getByText('Start over to use these.')).toBeVisible()
  await page.getByRole('button', { name: 'Start over' }).first().click()
  await expect(page.getByText('Start over to use these.')).toHaveCount(0)
  await expect.poll(() => readout(page, 'Steps')).toBe('0')
  await page.getByLabel('Method').selectOption('reinforce')
  await expect(page.getByLabel('Exploration')).toBeDisabled()
  await expect(page.getByLabel('Learning rate')).toHaveValue('0.005')
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
