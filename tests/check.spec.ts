import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import { checkEnvironment } from '../src/core/environment/document'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { clickCell, named, openNew, readout, savedDocument } from './study'

const LIFT = {
  starts: [{ at: 'A1', weight: 1 }],
  endings: [{ at: 'C1', reward: 10, name: 'lift' }],
}

const rules = (name: string, ...lines: string[]): EnvironmentDocument =>
  checkEnvironment({
    format: 'jaunty-pawn/environment',
    version: 2,
    kind: 'rulebook',
    name,
    rulebook: { text: lines.join('\n'), knobs: {} },
  })

const steps = (page: Page) => page.getByRole('table', { name: 'Step by step' }).locator('tbody tr')
const verdict = (page: Page) => page.getByTestId('verdict')

test('an episode is played by key, click and list, step by step and back', async ({ page }) => {
  await openNew(page, named('By hand', ['...', '...'], LIFT), 'check')
  await expect(verdict(page)).toContainText('No error and no warning.')
  await expect(verdict(page)).toContainText('6 states and 20 pairs of state and action were looked at')
  // The second possible action is east.
  await page.keyboard.press('s')
  await expect(steps(page)).toHaveText([/^1\s*A1\s*east\s*–\s*100 %\s*−1\s*−1.00\s*B1/])
  // By a click on where it leads; then a wall by the list.
  await clickCell(page, 1, 1)
  await expect(steps(page)).toHaveCount(2)
  await page.getByRole('list', { name: 'Actions' }).getByRole('button', { name: 'south' }).click()
  await expect(steps(page).nth(2)).toContainText('B2')
  expect(await readout(page, 'Return, discounted')).toBe('−2.71')
  expect(await readout(page, 'Return, undiscounted')).toBe('−3')
  // Two steps back, and another way: what came after is dropped.
  await page.keyboard.press(',')
  await page.keyboard.press(',')
  expect(await readout(page, 'State')).toBe('B1')
  await page.keyboard.press('s')
  await expect(steps(page)).toHaveCount(2)
  await expect(page.locator('aside')).toContainText('The episode has ended in C1.')
  expect(await readout(page, 'Reward of the step')).toBe('+9')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV', exact: true }).click(),
  ])
  expect((await readFile((await download.path())!, 'utf8')).split('\r\n')).toEqual([
    'step,state,action,carried_out,outcome,probability,reward,next_state,discounted_return,undiscounted_return',
    '1,A1,east,east,,1,-1,B1,-1,-1',
    '2,B1,east,east,,1,9,C1,7.1,8',
    '',
  ])
  // Again from another state.
  await clickCell(page, 2, 1)
  await page.getByRole('button', { name: 'Begin in C2' }).click()
  expect(await readout(page, 'State')).toBe('C2')
  await page.keyboard.press('b')
  await expect(steps(page)).toHaveCount(0)
})

test('what can happen is listed, and made to happen', async ({ page }) => {
  await openNew(page, named('What if', ['...', '...'], { ...LIFT, veer: 0.2 }), 'check')
  const row = page
    .getByRole('list', { name: 'Actions' })
    .getByRole('listitem')
    .filter({ hasText: 'east' })
    .first()
  await row.getByRole('button', { name: 'what can happen' }).click()
  const outcomes = page.getByRole('list', { name: 'What can happen' }).getByRole('listitem')
  await expect(outcomes).toHaveText([
    /80 %goes as meant: B1 −1/,
    /10 %veers (north: A1|south: A2) −1/,
    /10 %veers (north: A1|south: A2) −1/,
  ])
  await page.getByRole('button', { name: 'Force: A2' }).click()
  await expect(steps(page)).toHaveText([/A1\s*east → south\s*veers south\s*10 %/])
})

test('a variable that leaves its range is found with the way there, though there is no model', async ({
  page,
}) => {
  await openNew(
    page,
    rules(
      'Out of range',
      'state lamps from 0 to 2',
      'start lamps = 2',
      'action light',
      'action wait',
      'next lamps = if action = light then lamps - 1 else lamps',
    ),
  )
  // Told in the head while one is still writing.
  await expect(page.getByRole('img', { name: '1 error' })).toBeVisible()
  await page.getByRole('button', { name: 'Check', exact: false }).first().click()
  await expect(verdict(page)).toContainText('1 error.')
  const faults = page.getByRole('list', { name: 'Faults' })
  await expect(faults).toContainText('lamps can reach -1, and its range is 0 to 2')
  await expect(faults.locator('mark')).toHaveText('if action = light then lamps - 1 else lamps')
  await expect(faults.getByRole('list', { name: 'The shortest way there' }).getByRole('listitem')).toHaveText(
    ['1. lamps 2: light', '2. lamps 1: light', '3. lamps 0: light'],
  )
})

test('a trap is found, walked on the board, and gone when it is opened', async ({ page }) => {
  await openNew(
    page,
    // East of the start a jump leads behind the wall, from where nothing leads back.
    named('Trap', ['..#..', '..#..'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'A2', reward: 10, name: 'lift' }],
      jumps: [{ at: 'B1', to: 'D1' }],
    }),
    'check',
  )
  await expect(verdict(page)).toContainText('1 error')
  const trap = page.locator('[data-rule=trap]')
  await expect(trap).toContainText('No ending can be reached from 4 states: D1, E1, D2, E2.')
  await trap.getByRole('button').click()
  await expect(page.getByText('The shortest way to it:')).toBeVisible()
  await expect(steps(page).last()).toHaveAttribute('aria-selected', 'true')
  await page.getByRole('button', { name: 'To the start' }).click()
  expect(await readout(page, 'State')).toBe('A1')
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => readout(page, 'Step'), { timeout: 10_000 }).toMatch(/^(\d+) of \1$/)
  await page.getByRole('button', { name: 'Back to my episode' }).click()
  await expect(page.getByText('Take an action')).toBeVisible()
  await expect(page.getByRole('img', { name: '1 error' })).toBeVisible()
  // The wall is opened in Build.
  await page.keyboard.press('1')
  await page.getByRole('radio', { name: 'Erase' }).click()
  await clickCell(page, 2, 1)
  await expect(page.getByRole('img', { name: '1 error' })).toHaveCount(0)
})

test('what the author expects is kept with the environment, and told when it breaks', async ({ page }) => {
  const id = await openNew(page, named('Expected', ['...', '...'], LIFT), 'check')
  await page.keyboard.press('s')
  await page.keyboard.press('s')
  await page.getByLabel('New expectation').selectOption('this episode, with its return')
  await page.getByRole('button', { name: 'Expect it' }).click()
  await page.getByLabel('New expectation').selectOption('the best value')
  await page.getByRole('button', { name: 'Expect it' }).click()
  const list = page.getByRole('list', { name: 'Expectations' })
  await expect(list.getByRole('img', { name: 'holds', exact: true })).toHaveCount(2)
  await expect(list).toContainText('The best value of the start is 7.1 within 0.01.')
  const { checks } = await savedDocument(page, id)
  expect(checks).toEqual([
    {
      kind: 'episode',
      start: 'A1',
      steps: [
        { action: 'east', to: 'B1', reward: -1 },
        { action: 'east', to: 'C1', reward: 9 },
      ],
      return: 7.1,
      within: 1e-6,
    },
    { kind: 'value', is: 7.1, within: 0.01 },
  ])
  // Another discount in Build: both are off, and the head says so.
  await page.keyboard.press('1')
  await page.getByLabel('Discount').fill('0.5')
  await expect(page.getByRole('img', { name: '2 errors' })).toBeVisible()
  await page.getByRole('navigation', { name: 'Stages' }).getByText('Check').click()
  await expect(list.getByRole('img', { name: 'does not hold' })).toHaveCount(2)
  await expect(list).toContainText('Their return is 3.5.')
  await page.getByRole('button', { name: 'Remove expectation 1' }).click()
  await expect(list.getByRole('listitem')).toHaveCount(1)
})

test('what learners draw is compared with what is declared', async ({ page }) => {
  await openNew(page, named('Sampled', ['...', '...'], { ...LIFT, veer: 0.2 }), 'check')
  await expect(verdict(page)).toContainText('No error')
  await page.getByRole('button', { name: 'Draw a million times' }).click()
  const sampled = page.getByTestId('sampled')
  await expect(sampled).toContainText('Observed frequencies agree with the declared probabilities.', {
    timeout: 30_000,
  })
  await expect(sampled).toContainText(
    // (z(0.01 / 40) + z(0.01)) sqrt(0.25 / 50,000)
    'A chance that is off by 0.013 would have been seen with 99 %.',
  )
  await expect(sampled).toContainText('10\u202f000 episodes of the uniform random policy')
})

test('a policy is held for a thousand episodes, and any of them is walked', async ({ page }) => {
  await openNew(page, named('Held', ['...', '...'], { ...LIFT, veer: 0.2 }), 'check')
  await page.getByLabel('Policy', { exact: true }).selectOption('always east')
  await page.getByRole('button', { name: 'Play them' }).click()
  const ended = page.getByRole('table', { name: 'How the episodes ended' })
  await expect(ended).toContainText(/ended in C1\s*1\u202f000 \(100 %\)/)
  await expect(
    page.getByRole('img', { name: 'Histogram of the return of 1\u202f000 episodes' }),
  ).toBeVisible()
  await page.getByLabel('Episode on the board').fill('7')
  await expect(page.getByText('episode 7 of the always east')).toBeVisible()
  await page.getByRole('button', { name: 'Next one' }).click()
  await expect(page.getByText('episode 8 of the always east')).toBeVisible()
})
