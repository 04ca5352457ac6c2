import { readdirSync, readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { contestantNames } from '../src/core/compare/contestant'
import { compileEnvironment } from '../src/core/environment/compile'
import type { Compiled } from '../src/core/kinds/kinds'
import { documentOfView } from '../src/core/lesson/lesson'
import type { Lesson, LessonView } from '../src/core/lesson/lesson-document'
import { createLearner } from '../src/core/learn/methods/learners'
import { World } from '../src/core/learn/world'
import type { Model, RowPolicy } from '../src/core/model/model'
import { evaluatePolicy, randomPolicy } from '../src/core/plan/evaluate'
import { planMethod } from '../src/core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../src/core/plan/plan-settings'
import { solveOptimum } from '../src/core/plan/solve'
import { PlanRecording } from '../src/core/recording/plan-recording'
import { settingsOf } from '../src/core/settings/choice'
import { alerts } from './study'

/** What a view should show, worked out here from the model alone. */
interface Expected {
  readonly values?: Float64Array
  readonly rowValues?: Float64Array
  /** [rows] above 0 for actions that may be named as the best. */
  readonly best?: ArrayLike<number>
  /** [rows] the chances with which the policy takes each action. */
  readonly chances?: Float64Array
  readonly numbers: Readonly<Record<string, number>>
}

const row = (model: Model, state: string, action: string) => {
  const s = model.labels.indexOf(state)
  for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
    if (model.actions[model.rowAction[r]] === action) return r
  throw new Error(`${action} in ${state}`)
}

/** What every action is worth by some values: one step ahead. */
function ahead(model: Model, values: Float64Array, discount: number): Float64Array {
  return Float64Array.from({ length: model.rows }, (_, r) => {
    let sum = 0
    for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
      sum += model.outcomeProbability[o] * (model.outcomeReward[o] + discount * values[model.outcomeState[o]])
    return sum
  })
}

function greedy(model: Model, rowValues: Float64Array): { values: Float64Array; best: Float64Array } {
  const values = new Float64Array(model.states)
  const best = new Float64Array(model.rows)
  for (let s = 0; s < model.states; s++) {
    const rows = rowValues.subarray(model.rowStart[s], model.rowStart[s + 1])
    if (!rows.length) continue
    values[s] = Math.max(...rows)
    rows.forEach((value, i) => (best[model.rowStart[s] + i] = value > values[s] - 1e-9 ? 1 : 0))
  }
  return { values, best }
}

/** A policy that takes all best actions equally often. */
function share(model: Model, best: Float64Array): RowPolicy {
  const policy = best.slice()
  for (let s = 0; s < model.states; s++) {
    const rows = policy.subarray(model.rowStart[s], model.rowStart[s + 1])
    const sum = rows.reduce((all, each) => all + each, 0)
    rows.forEach((each, i) => (rows[i] = sum ? each / sum : 0))
  }
  return policy
}

function expectedPlan(
  { model, policies }: Compiled,
  plan: NonNullable<LessonView['scene']['plan']>,
): Expected {
  const { method, discount, finished, sweep } = plan
  const numbers = { discount, ...(finished ? countsOf(model, plan) : { sweeps: sweep }) }
  const random = () => evaluatePolicy(model, randomPolicy(model), discount).values
  if (planMethod(method).purpose === 'prediction') {
    const written = policies.find(({ title }) => plan.source === `written:${title}`)
    return {
      values: written ? evaluatePolicy(model, written.policy, discount).values : random(),
      numbers,
    }
  }
  if (finished) {
    const { values, ties } = solveOptimum(model, discount)!
    return { values, best: ties, numbers }
  }
  if (method === 'policy-iteration') {
    // Evaluate, improve, evaluate, each of them one step of the plan.
    let values = random()
    for (let done = 1; done + 2 <= sweep; done += 2) {
      const { best } = greedy(model, ahead(model, values, discount))
      values = evaluatePolicy(model, share(model, best), discount).values
    }
    return { values, numbers }
  }
  let before: Float64Array = new Float64Array(model.states)
  let values = before
  let best: Float64Array | undefined
  for (let k = 0; k < sweep; k++) {
    before = values
    values = greedy(model, ahead(model, before, discount)).values
  }
  if (sweep > 0) best = greedy(model, ahead(model, values, discount)).best
  const change = values.reduce((most, value, s) => Math.max(most, Math.abs(value - before[s])), 0)
  return { values, best, numbers: { ...numbers, ...(sweep ? { change } : {}) } }
}

/** How long a plan takes to its end. */
function countsOf(model: Model, plan: NonNullable<LessonView['scene']['plan']>) {
  const { tolerance, evaluation, evaluations, order, horizon, discount, method } = plan
  const settings = { ...PLAN_DEFAULTS, tolerance, evaluation, evaluations, order, horizon, discount }
  const recording = new PlanRecording(model, settings, method)
  while (recording.forward());
  return { sweeps: recording.iteration.sweeps, backups: recording.iteration.backups }
}

function expectedRun(model: Model, { choice, steps }: NonNullable<LessonView['scene']['learn']>): Expected {
  const world = new World(model)
  const learner = createLearner(
    choice.method,
    world,
    settingsOf(choice, () => null),
  )
  learner.advance(steps)
  const rowValues = world.toModelRows(learner.table)
  const { values, best } = greedy(model, rowValues)
  const exact = evaluatePolicy(model, world.toModelRows(learner.policy()), choice.discount)
  const { count, returns } = learner.log
  const mean = returns.subarray(0, count).reduce((sum, each) => sum + each, 0) / count
  return {
    values,
    rowValues,
    best,
    chances: world.toModelRows(learner.policy()),
    numbers: {
      steps,
      episodes: count,
      'mean return': mean,
      'policy value': startOf(model, exact.values),
      'optimal value': startOf(model, solveOptimum(model, choice.discount)!.values),
    },
  }
}

/** What contestants that learn reach in the mean of all their episodes and runs. */
function expectedScores(model: Model, comparison: NonNullable<LessonView['scene']['compare']>): Expected {
  const world = new World(model)
  const names = contestantNames(comparison.contestants)
  const numbers = comparison.contestants.map(({ choice }, i): [string, number] => {
    let sum = 0
    for (let run = 0; run < comparison.runs; run++) {
      const learner = createLearner(
        choice.method,
        world,
        settingsOf({ ...choice, run }, () => null),
      )
      while (learner.advance(1_000_000) > 0);
      const { count, returns } = learner.log
      sum += returns.subarray(0, count).reduce((all, each) => all + each, 0) / count
    }
    return [`score of ${names[i]}`, sum / comparison.runs]
  })
  return { numbers: Object.fromEntries(numbers) }
}

function startOf(model: Model, values: Float64Array): number {
  return model.startState.reduce((sum, s, i) => sum + model.startProbability[i] * values[s], 0)
}

/** The number that a name should stand for. */
function expectedNumber(
  name: string,
  model: Model,
  { scene }: LessonView,
  expected: Expected,
): number | null {
  const { values, rowValues, numbers } = expected
  if (name in numbers) return numbers[name]
  const [, state] = /^value of (.+)$/.exec(name) ?? []
  if (state) return values![model.labels.indexOf(state)]
  if (name === 'value') return values![model.labels.indexOf(scene.selected!)]
  if (name === 'states') return model.states
  if (name === 'start value') return startOf(model, values!)
  const [, action, at] = /^action value of (.+) in (.+)$/.exec(name) ?? []
  if (action) return rowValues![row(model, at, action)]
  const [, taken, where] = /^chance of (.+) in (.+)$/.exec(name) ?? []
  if (taken) return expected.chances![row(model, where, taken)]
  const [, knob] = /^knob (.+)$/.exec(name) ?? []
  if (knob) return scene.knobs[knob]
  return null
}

/** What a page says, as a number. */
const asNumber = (text: string) => Number(text.replace('−', '-').replace(/[\u202f\s]/g, ''))

for (const file of readdirSync('demo/lessons')) {
  const { name } = JSON.parse(readFileSync(`demo/lessons/${file}`, 'utf8')) as { name: string }
  test(`every view of the lesson “${name}” opens, and says what the core says`, async ({ page }) => {
    test.setTimeout(180_000)
    const lessons = (await (await page.request.get('/api/lessons')).json()) as { id: string; name: string }[]
    const { id } = lessons.find((each) => each.name === name)!
    const { lesson } = (await (await page.request.get(`/api/lessons/${id}`)).json()) as { lesson: Lesson }
    expect(lesson.views.length).toBeGreaterThanOrEqual(5)
    expect(lesson.views.length).toBeLessThanOrEqual(9)
    await page.goto(`/lesson/${id}/present`)
    for (const [i, view] of lesson.views.entries()) {
      if (i > 0) await page.keyboard.press('PageDown')
      await expect(page.getByRole('heading', { name: view.title }).last()).toBeVisible()
      const { document } = documentOfView(view.scene, lesson.environments[view.environment].document)
      const compiled = compileEnvironment(document)
      const { model } = compiled
      const { plan, learn, compare } = view.scene
      const expected = plan
        ? expectedPlan(compiled, plan)
        : learn
          ? expectedRun(model, learn)
          : compare
            ? expectedScores(model, compare)
            : { numbers: { discount: document.discount } }
      const names = page.locator('.lesson-text [data-name]')
      for (const place of await names.all()) {
        const called = (await place.getAttribute('data-name'))!
        const [, state] = /^action in (.+)$/.exec(called) ?? []
        if (state) {
          await expect(place).not.toHaveText('…')
          // The plan may still be on its way.
          await expect
            .poll(async () => expected.best![row(model, state, await place.innerText())], {
              message: called,
              timeout: 60_000,
            })
            .toBeGreaterThan(0)
          continue
        }
        const number = expectedNumber(called, model, view, expected)
        expect(number, `${view.title}: ${called}`).not.toBeNull()
        await expect
          .poll(async () => Math.abs(asNumber(await place.innerText()) - number!), {
            message: `${view.title}: ${called} is ${number}`,
            timeout: 60_000,
          })
          .toBeLessThan(0.00501)
      }
      await expect(page.locator('.lesson-text .text-alert')).toHaveCount(0)
      await expect(page.locator('.lesson-text table')).toHaveCount(view.text.includes('| --- |') ? 1 : 0)
      // Nothing of it is missing, and nothing is on the way for ever.
      await expect(page.locator('.lesson-text')).not.toContainText('…')
      await expect(alerts(page)).toHaveCount(0)
    }
  })
}
