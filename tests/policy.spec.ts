import { expect, test, type Page } from '@playwright/test'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import nightRounds from '../demo/night-rounds.json' with { type: 'json' }
import sameLookingDoors from '../demo/same-looking-doors.json' with { type: 'json' }
import whichPoster from '../demo/which-poster.json' with { type: 'json' }
import { openNew, readout } from './study'

const called = (document: unknown, name: string) => ({ ...(document as EnvironmentDocument), name })

async function learnBy(page: Page, method: string, episodes: number): Promise<void> {
  await page.getByLabel('Method', { exact: true }).selectOption({ label: method })
  await page.getByLabel('Episodes', { exact: true }).fill(String(episodes))
}

async function toTheEnd(page: Page): Promise<void> {
  await page.getByRole('slider', { name: 'Speed' }).fill('8')
  await page.getByRole('button', { name: 'Play' }).click()
  await expect.poll(() => readout(page, 'Status')).toBe('done')
}

test('an episode is explained step by step, and its gradient held against the exact one', async ({
  page,
}) => {
  await openNew(page, called(nightRounds, 'One episode'), 'learn')
  await learnBy(page, 'REINFORCE', 60)
  await page.getByLabel('Baseline').selectOption('learned')
  await toTheEnd(page)
  await page.getByRole('tab', { name: 'Episode' }).click()
  const steps = page.getByRole('table', { name: 'Episode step by step' }).getByRole('row')
  await expect(page.getByText(/Episode 60, \d+ steps, /)).toBeVisible()
  const count = (await steps.count()) - 1
  // The last return is the last reward; every other one its reward and 0.98 times the next.
  const cell = async (row: number, column: number) =>
    Number((await steps.nth(row).getByRole('cell').nth(column).innerText()).replace('−', '-'))
  expect(await cell(count, 4)).toBeCloseTo(await cell(count, 3), 2)
  expect(await cell(count - 1, 4)).toBeCloseTo((await cell(count - 1, 3)) + 0.98 * (await cell(count, 4)), 1)
  await page.getByRole('button', { name: 'First step of the episode' }).click()
  await expect(page.getByRole('heading', { name: /^Step 1: \w+ in A4$/ })).toBeVisible()
  const full = page.getByRole('region', { name: 'Step in full' })
  await expect(full).toContainText(
    /The return from here is .* the baseline, .*: that makes \w+ (more|less) likely/,
  )
  await page.getByRole('button', { name: 'Step after' }).click()
  await expect(page.getByText(`Step 2 of ${count}`)).toBeVisible()
  const truth = page.getByRole('region', { name: 'The exact gradient' })
  await expect(truth).toContainText(/This episode points \d+° away from it/)
  await truth.getByRole('button', { name: 'Measure over 1 000 episodes' }).click()
  await expect(truth).toContainText(/A baseline of the exact values removes \d+ % of the variance/)
  await expect(truth.getByRole('row')).toHaveCount(4)
  // Another moment has another episode.
  await page.getByRole('slider', { name: 'Episode' }).fill('1')
  await expect(page.getByText(/Episode 1, \d+ steps, /)).toBeVisible()
})

test('an actor-critic has two tables: its values stand on the board, its errors in the episode', async ({
  page,
}) => {
  await openNew(page, called(nightRounds, 'Two tables'), 'learn')
  await learnBy(page, 'Actor-critic (one step)', 40)
  await expect(page.getByLabel('Critic’s learning rate', { exact: true })).toHaveValue('0.1')
  await toTheEnd(page)
  await expect(page.getByText('value by the critic')).toBeVisible()
  await page.getByRole('tab', { name: 'Episode' }).click()
  await expect(page.getByRole('region', { name: 'Step in full' })).toContainText('The critic judges')
})

test('the landscape is climbed from where one clicks', async ({ page }) => {
  await openNew(page, called(sameLookingDoors, 'Landscape'), 'learn')
  await page.getByLabel('Episodes', { exact: true }).fill('300')
  await toTheEnd(page)
  await page.getByRole('button', { name: 'Landscape' }).click()
  const chart = page.getByRole('img', { name: /^Exact value at the start over/ })
  await expect(chart).toBeVisible()
  await page.getByLabel('Across', { exact: true }).selectOption({ label: 'door 2' })
  await page.getByLabel('Across: probability of').selectOption({ label: 'open' })
  await expect(
    page.getByRole('img', { name: 'Exact value at the start over probability of open in door 2' }),
  ).toBeVisible()
  await page.getByLabel('Up', { exact: true }).selectOption({ label: 'door 4' })
  await expect(page.getByText('Click a point to begin a run with that policy.')).toBeVisible()
  await page.getByLabel('by', { exact: true }).selectOption({ label: 'preferences' })
  await expect(
    page.getByRole('img', { name: /over preference \(log-odds\) of open in door 2 and preference/ }),
  ).toBeVisible()
  await expect(page.getByText('Click a point to begin a run with that policy.')).toBeVisible()
  const box = (await chart.boundingBox())!
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
  await expect(
    page.getByText(/The run began with a policy of the landscape: probability of open in door 2 0\.\d+/),
  ).toBeVisible()
  expect(await readout(page, 'Steps')).toBe('0')
  // A method that learns values has no landscape.
  await page.getByLabel('Method', { exact: true }).selectOption({ label: 'Q-learning' })
  await page.getByRole('button', { name: 'Start over' }).click()
  await expect(page.getByRole('button', { name: 'Landscape' })).toHaveCount(0)
})

test('a softmax policy is run by sampling and by its most likely action', async ({ page }) => {
  await openNew(page, called(sameLookingDoors, 'Two ways'), 'learn')
  await page.getByLabel('Episodes', { exact: true }).fill('400')
  await toTheEnd(page)
  await page.getByRole('tab', { name: 'Trials' }).click()
  await page.getByLabel('Trial episodes').fill('60')
  await page.getByRole('button', { name: 'Evaluate' }).click()
  await expect(page.getByText(/most likely action instead of sampling changes the return by/)).toContainText(
    'over the same 60 episodes',
  )
})

test('a bandit that is drawn anew is another one for every seed', async ({ page }) => {
  const document = called(whichPoster, 'Anew')
  if (document.kind !== 'bandit') throw new Error('It is a bandit.')
  await openNew(page, { ...document, bandit: { ...document.bandit, anew: 0.2 } }, 'learn')
  await expect.poll(() => readout(page, 'Optimal value at the start')).not.toBe('–')
  const best = async () => Number(await readout(page, 'Optimal value at the start'))
  const one = await best()
  await page.getByLabel('Seed', { exact: true }).fill('5')
  await expect.poll(best).not.toBe(one)
  await page.getByLabel('Seed', { exact: true }).fill('1')
  await expect.poll(best).toBe(one)
  await page.getByRole('button', { name: 'Build', exact: true }).click()
  await expect(page.getByLabel('Redrawn for each run (±)')).toHaveValue('0.2')
})

test('a bandit’s agent shows how good each arm may still be, and why it pulls the next one', async ({
  page,
}) => {
  await openNew(page, called(whichPoster, 'Bounds'), 'learn')
  await learnBy(page, 'Bandit action values', 50)
  await page.getByRole('button', { name: 'Schedules and more' }).click()
  await page.getByLabel('Explores').selectOption({ label: 'upper confidence bound (UCB1)' })
  await toTheEnd(page)
  await expect(page.getByText('bracket: upper bound')).toBeVisible()
  const choice = page.getByRole('region', { name: 'The next choice' })
  await expect(choice).toContainText('√(2 ln 50 /')
  // The class against the agent.
  await page.getByRole('checkbox', { name: 'Pull by hand' }).check()
  const hand = page.getByRole('region', { name: 'Pull by hand' })
  for (let i = 0; i < 3; i++) await hand.getByRole('button', { name: 'night owl' }).click()
  await expect(hand.getByRole('status')).toHaveText(/paid (0|\+1)/)
  await expect(hand.getByRole('row', { name: /by hand/ })).toContainText('3')
  await expect(hand.getByRole('row', { name: /the agent/ })).toContainText('50')
  await hand.getByRole('button', { name: 'Start again' }).click()
  await expect(hand.getByRole('row', { name: /by hand/ })).toContainText('–')
  await page.getByRole('button', { name: /Settings/ }).click()
  // What was unfolded is so still.
  await page.getByLabel('Explores').selectOption({ label: 'posterior sampling (Bernoulli)' })
  await page.getByRole('button', { name: 'Start over' }).click()
  await toTheEnd(page)
  await expect(choice).toContainText('beta(')
  await expect(choice).toContainText('drew')
})

test('many agents meet in one picture, and a study tells what a setting does', async ({ page }) => {
  await page.goto('/?show=1000')
  await page.getByRole('link', { name: /Loans of the season/ }).click()
  await page.getByRole('button', { name: 'Learn', exact: true }).click()
  await page.getByRole('tab', { name: 'Agents' }).click()
  await page.getByLabel('Runs each').fill('200')
  const run = page.getByRole('button', { name: 'Run', exact: true })
  await run.click()
  await expect(run).toBeDisabled({ timeout: 30_000 })
  const rewards = page.getByRole('img', { name: /Average reward over 1.000 pulls/ })
  await expect(rewards).toBeVisible()
  await page.getByLabel('of', { exact: true }).selectOption({ label: 'regret' })
  await expect(page.getByRole('img', { name: /Regret over/ })).toBeVisible()
  // Sampling from the posterior explores where it may pay, and beats a tenth of random pulls.
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) })
  const regret = async (name: string) =>
    Number((await row(name).getByRole('cell').last().innerText()).split(' ')[0])
  expect(await regret('posterior sampling')).toBeLessThan(await regret('ε-greedy 0.1'))
  // Hidden ones are not drawn; the agent of the fields comes in.
  await page.getByRole('checkbox', { name: 'ε-greedy 0.01' }).uncheck()
  await expect(page.getByRole('img', { name: /Regret over/ })).not.toHaveAccessibleName(/0\.01/)
  await page.getByRole('button', { name: 'Use the settings of UCB1, width 1' }).click()
  await page.getByRole('button', { name: 'Add the settings above' }).click()
  await expect(page.getByRole('list', { name: 'Agents' })).toContainText('UCB1, width 1 (2)')
  await page.getByRole('button', { name: 'Remove UCB1, width 1 (2)' }).click()
  await page.getByLabel('Picture').selectOption({ label: 'study of a setting' })
  await page.getByLabel('Values from').fill('0.25')
  await run.click()
  await expect(run).toBeDisabled({ timeout: 30_000 })
  await expect(page.getByRole('img', { name: /confidence width/ })).toBeVisible()
  // What was run is there after a reload.
  await page.reload()
  await page.getByRole('tab', { name: 'Agents' }).click()
  await expect(row('posterior sampling')).toBeVisible()
})
