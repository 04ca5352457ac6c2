import { expect, test } from '@playwright/test'

test('methods are compared on many runs, and whether it was luck is said in words', async ({ page }) => {
  await page.goto('/?show=1000')
  await page.getByRole('link', { name: /The alarm beam/ }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  // The one of the demo stays as it is.
  await expect(page.getByLabel('Which comparison')).toContainText('On-policy and off-policy')
  await page.getByRole('button', { name: 'New', exact: true }).click()
  await expect(page.getByText('Add contestants at the right.')).toBeVisible()
  await page.getByLabel('Add a contestant').selectOption({ label: 'Q-learning, SARSA and Expected SARSA' })
  const contestants = page.getByRole('list', { name: 'Contestants' })
  await expect(contestants.getByRole('listitem')).toHaveCount(3)
  await page.getByLabel('Runs each').fill('12')
  const run = page.getByRole('button', { name: 'Run', exact: true })
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  await expect(
    page.getByRole('img', { name: /Return while learning over the episodes: Q-learning; SARSA/ }),
  ).toBeVisible()
  // Q-learning goes where the alarm is while it explores.
  await expect(page.getByTestId('verdict').filter({ hasText: 'Q-learning' })).toContainText(
    /beats Q-learning in (9|10|11|12) of 12 runs, by \d/,
  )
  // One thing is changed, for that contestant only; its runs alone are new.
  await contestants.getByRole('button', { name: 'Change SARSA', exact: true }).click()
  await page
    .getByRole('group', { name: /Settings of SARSA/ })
    .getByLabel('Knob veer')
    .fill('0.1')
  await expect(contestants).toContainText('SARSA, veer 0.1')
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  await page.getByLabel('of', { exact: true }).selectOption({ label: 'length of episodes' })
  await page.getByLabel('shown as').selectOption({ label: 'mean and 95 % interval' })
  await expect(
    page.getByRole('img', { name: /Length of episodes over the episodes: .*veer 0.1/ }),
  ).toBeVisible()
  await contestants.getByRole('checkbox', { name: 'Q-learning', exact: true }).uncheck()
  await expect(page.getByRole('img', { name: /Length of episodes/ })).not.toHaveAccessibleName(/Q-learning/)
  await page.getByLabel('Picture').selectOption({ label: 'spread of the runs' })
  await page
    .getByLabel('By the', { exact: true })
    .selectOption({ label: 'exact value of the learned policy' })
  await expect(
    page.getByRole('img', { name: /^Runs by the exact value of the learned policy: SARSA/ }),
  ).toBeVisible()
  await page.getByLabel('Picture').selectOption({ label: 'sweep' })
  await page.getByLabel('Values of learning rate').fill('1/8..1*2')
  await page.getByLabel('Runs each').fill('6')
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  await expect(
    page.getByRole('img', { name: /^The exact value of the learned policy over the learning rate: SARSA/ }),
  ).toBeVisible()
  await expect(page.getByTestId('verdict').first()).toContainText(/is best with learning rate (1\/)?\d: /)
  await page.getByLabel('Picture').selectOption({ label: 'curves' })
  // It is kept by itself, and there after a reload.
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(contestants.getByRole('listitem')).toHaveCount(3)
  await expect(page.getByTestId('verdict').first()).toBeVisible()
})

test('contestants of every kind, other measures, and a run that is opened in Learn', async ({ page }) => {
  await page.goto('/?show=1000')
  await page.getByRole('link', { name: /The draughty hall/ }).click()
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  const add = page.getByLabel('Add a contestant')
  for (const label of ['SARSA', 'a random agent', 'the optimal policy', 'always north'])
    await add.selectOption({ label })
  const contestants = page.getByRole('list', { name: 'Contestants' })
  await expect(contestants.getByRole('listitem')).toHaveCount(4)
  // One acts elsewhere, where it has no such action.
  await contestants.getByRole('button', { name: 'Change always north', exact: true }).click()
  await page.getByLabel('Environment', { exact: true }).selectOption({ label: 'Cloakroom queue' })
  await expect(contestants.getByRole('alert')).toContainText('no action "north"')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(contestants.getByRole('alert')).toHaveCount(0)
  await page.getByLabel('Runs each').fill('4')
  const run = page.getByRole('button', { name: 'Run', exact: true })
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  await page.getByLabel('of', { exact: true }).selectOption({ label: 'success' })
  await page.getByLabel('over', { exact: true }).selectOption({ label: 'steps' })
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  await expect(page.getByRole('img', { name: /^Success over the steps: SARSA; random agent/ })).toBeVisible()
  await page.getByLabel('Picture').selectOption({ label: 'after training' })
  await page.getByLabel('Episodes after each').fill('20')
  await run.click()
  await expect(run).toBeDisabled({ timeout: 40_000 })
  const table = page.getByRole('table', { name: 'Episodes after training' })
  await expect(table.getByRole('row').nth(1)).toContainText('optimal policy')
  await table.getByRole('button', { name: 'mean return' }).click()
  await expect(table.getByRole('row').nth(1)).not.toContainText('optimal policy')
  await expect(table.getByRole('columnheader', { name: /success/ })).toBeVisible()
  // The dots of the boxes are runs.
  await page.getByLabel('Picture').selectOption({ label: 'spread of the runs' })
  await contestants.getByRole('checkbox', { name: 'random agent' }).uncheck()
  await contestants.getByRole('checkbox', { name: 'always north' }).uncheck()
  await contestants.getByRole('checkbox', { name: 'optimal policy' }).uncheck()
  const picture = page.getByRole('img', { name: /^Runs by the mean return of the whole run: SARSA$/ })
  await expect(picture).toBeVisible()
  const { x, y, width, height } = (await picture.boundingBox())!
  for (let across = 200; across < width && !page.url().endsWith('learn'); across += 6)
    for (let down = 0.38; down < 0.55 && !page.url().endsWith('learn'); down += 0.012)
      await page.mouse.click(x + across, y + height * down)
  await expect(page).toHaveURL(/learn$/)
  await expect(page.getByLabel('Method')).toHaveValue('sarsa')
})
