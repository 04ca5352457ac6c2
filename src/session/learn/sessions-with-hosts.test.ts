import { createLearner } from '../../core/learn/methods/learners'
import { describe, expect, it } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { compileEnvironment } from '../../core/environment/compile'
import { World } from '../../core/learn/world'
import { randomPolicy } from '../../core/plan/evaluate'
import { solveOptimum } from '../../core/plan/solve'
import { settingsOf } from '../../core/settings/choice'
import { gridDocument } from '../../core/testing/models'
import { CompileHost } from '../../hosts/compile-host'
import { LearnHost } from '../../hosts/learn-host'
import { SeedsHost } from '../../hosts/seeds-host'
import { holds, inProcess } from '../../hosts/testing/in-process'
import { TrialsHost } from '../../hosts/trials-host'
import { createModelSession } from '../study/model-session'
import { createStudyStore } from '../study/study-store'
import { createCourse } from './course'
import type { KeptRuns } from './kept-run'
import { firstChoice } from '../../core/settings/first-choice'
import { createLearnSession } from './learn-session'
import { createSeedsSession } from './seeds-session'
import { createTrialsSession } from './trials-session'

const DOCUMENT: EnvironmentDocument = {
  ...gridDocument(['...', '.#.', '...'], {
    endings: [{ at: 'C3', reward: 5, name: '' }],
    starts: [{ at: 'A1', weight: 1 }],
    stepReward: -1,
  }),
  discount: 0.9,
  cap: 50,
  knobs: [{ name: 'prize', sets: 'endings[C3].reward', low: 0, high: 9, step: 1 }],
}
const { model: MODEL } = compileEnvironment(DOCUMENT)
const NOWHERE: KeptRuns = { read: async () => undefined, write: async () => {}, forget: async () => {} }
const learnSession = () => createLearnSession('e', DOCUMENT, null, NOWHERE, inProcess(LearnHost.create))
const NONE = () => null

describe('a run with its host', () => {
  it('learns the same bits as a learner of its settings, and is measured against the optimum', async () => {
    const session = learnSession()
    session.choose({ episodes: 40, seed: 7 })
    session.open(MODEL, NONE)
    session.setSpeed('flat out')
    session.run()
    const { frame, optimum, choice } = await holds(
      session.store,
      ({ frame, optimum }) => frame?.done === true && optimum !== null,
    )
    const alone = createLearner('q-learning', new World(MODEL), settingsOf(choice, NONE))
    while (alone.advance(1000) > 0);
    const { table, steps } = await session.take()
    expect([...table]).toEqual([...alone.table])
    expect(steps).toBe(alone.steps)
    expect(frame!.episodes).toBe(40)
    expect(optimum!.optimum).toBeCloseTo(solveOptimum(MODEL, 0.9)!.start, 9)
    session.close()
  })

  it('goes to any step, back and on, to the same numbers', async () => {
    const session = learnSession()
    session.open(MODEL, NONE)
    for (let i = 0; i < 30; i++) session.step('step')
    const thirtieth = await holds(session.store, ({ frame }) => frame?.steps === 30)
    const values = [...thirtieth.frame!.values]
    session.step('episode', 'back')
    await holds(session.store, ({ frame }) => frame !== null && frame.steps < 30)
    session.go('step', 30)
    const again = await holds(session.store, ({ frame }) => frame?.steps === 30)
    expect([...again.frame!.values]).toEqual(values)
    expect(again.frame!.reached).toBe(30)
    session.close()
  })
})

it('runs with many seeds are those that single learners make, whatever the number of cores', async () => {
  const choice = { ...firstChoice(DOCUMENT), episodes: 30 }
  const bySeed = async (cores: number) => {
    const session = createSeedsSession('e', NOWHERE, () => cores, inProcess(SeedsHost.create))
    session.start(MODEL, choice, 5, { policy: null, table: null, window: 10 })
    const { runs } = await holds(session.store, ({ runs, running }) => runs.length === 5 && !running)
    return runs.map(({ run, mean, steps, exact }) => [run, mean, steps, exact])
  }
  const one = await bySeed(1)
  expect(await bySeed(3)).toEqual(one)
  const alone = createLearner('q-learning', new World(MODEL), settingsOf({ ...choice, run: 3 }, NONE))
  while (alone.advance(1000) > 0);
  expect(one[3][2]).toBe(alone.steps)
})

it('policies play their episodes without learning, and any of them is watched', async () => {
  const session = createTrialsSession(inProcess(TrialsHost.create))
  session.start(
    MODEL,
    { episodes: 20, seed: 1, cap: 50, discount: 0.9 },
    [
      { title: 'random', policy: randomPolicy(MODEL) },
      { title: 'best', policy: null },
    ],
    [],
  )
  const { contestants } = await holds(session.store, ({ running }) => !running)
  expect(contestants.map(({ title }) => title)).toEqual(['random', 'best'])
  // Without chance the best policy always gets what it is worth.
  expect(contestants[1].trials.mean).toBeCloseTo(solveOptimum(MODEL, 0.9)!.start, 9)
  session.watch({ model: MODEL, title: 'best', number: 99 })
  const { watched } = session.store.getState()
  expect(watched).toMatchObject({ number: 19, at: 0 })
  session.go(1000)
  expect(session.store.getState().watched!.at).toBe(watched!.episode.rows.length)
  session.clear()
  expect(session.store.getState().contestants).toEqual([])
})

describe('a course', () => {
  const parts = () => {
    const model = createModelSession(inProcess(CompileHost.create))
    const study = createStudyStore(
      {
        id: 'e',
        document: DOCUMENT,
        revision: 1,
        base: null,
        createdAt: '',
        updatedAt: '',
      } as never,
      'learn',
      undefined,
      async () => ({ revision: 2, updatedAt: '' }) as never,
    )
    model.open(DOCUMENT)
    study.subscribe(({ document }) => model.open(document))
    return { study, model, learn: learnSession() }
  }

  it('turns its knob step by step, and carries the table over', async () => {
    const course = createCourse()
    const all = parts()
    course.set({
      knob: 'prize',
      steps: [
        { value: 2, episodes: 15 },
        { value: 7, episodes: 10 },
      ],
    })
    await course.run(all)
    const { done, failure, at } = course.store.getState()
    expect(failure).toBeNull()
    expect(at).toBeNull()
    expect(done).toHaveLength(2)
    expect(done[0]).toMatch(/^15 episodes/)
    expect(all.study.getState().document).toMatchObject({ grid: { endings: [{ reward: 7 }] } })
    expect(all.learn.store.getState().given?.title).toMatch(
      /course step before: every number found its place/,
    )
    all.learn.close()
  })

  it('stops at once when it is given up, and says when its knob is gone', async () => {
    const course = createCourse()
    const all = parts()
    course.set({ knob: 'prize', steps: [{ value: 3, episodes: 1_000_000 }] })
    const run = course.run(all)
    await holds(all.learn.store, ({ frame }) => frame?.running === true)
    course.stop()
    await run
    expect(course.store.getState().at).toBeNull()
    expect(course.store.getState().done).toEqual([])
    course.set({ knob: 'no such' })
    await course.run(all)
    expect(course.store.getState().failure).toMatch(/knob no such: It no longer exists/)
    all.learn.close()
  })
})
