import { afterEach, describe, expect, it } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { checkScene } from '../../core/lesson/read-lesson'
import type { Stage } from '../../core/lesson/names'
import { constant } from '../../core/learn/schedule'
import { RandomStream } from '../../core/random/generator'
import { gridDocument } from '../../core/testing/models'
import { holds } from '../../hosts/testing/in-process'
import { studyInProcess } from '../testing/study-in-process'
import { showScene, turnedElsewhere } from './show-scene'
import { takeScene } from './take-scene'
import { cursorOf } from '../study/cursor'

const HALL: EnvironmentDocument = {
  ...gridDocument(['.....', '.#.#.', '.....'], {
    endings: [{ at: 'E3', reward: 10, name: 'door' }],
    starts: [{ at: 'A1', weight: 1 }],
    stepReward: -1,
    veer: 0.2,
  }),
  knobs: [{ name: 'veer', sets: 'veer', low: 0, high: 1, step: 0.05 }],
  discount: 0.9,
  cap: 60,
}

const stops: (() => void)[] = []
afterEach(() => stops.splice(0).forEach((stop) => stop()))

function open(stage: Stage, document = HALL) {
  const { study, stop } = studyInProcess(document, stage)
  stops.push(stop)
  return study
}

/** What is on one screen, put on another one through JSON. */
async function carried(from: ReturnType<typeof open>, document = HALL, stage: Stage = 'build') {
  const scene = checkScene(JSON.parse(JSON.stringify(takeScene(from))), document)
  const to = open(stage, document)
  const lost: string[] = []
  const { stop } = showScene(to, scene, (words) => lost.push(words))
  stops.push(stop)
  return { to, scene, lost }
}

const select = ({ study, model }: ReturnType<typeof open>, label: string) => {
  const { compiled } = model.store.getState()
  study.getState().select(cursorOf(compiled, compiled!.model.labels.indexOf(label)))
}

describe('a scene put on another screen is the same again', () => {
  it('of a plan, at any moment down to the single backup', async () => {
    const stream = new RandomStream(7, 'problem', 0)
    for (const method of ['value-iteration', 'value-iteration-in-place', 'policy-iteration'] as const) {
      const from = open('plan')
      from.plan.choose({ method, discount: 0.8 })
      await holds(from.plan.store, ({ frame }) => frame !== null)
      for (let i = stream.below(4); i >= 0; i--) from.drive.step('on', 'sweep')
      for (let i = stream.below(9); i > 0; i--) from.drive.step('on', 'backup')
      await holds(from.plan.store, ({ frame }) => frame!.sweep > 0)
      await new Promise((resolve) => setTimeout(resolve, 50))
      const before = from.plan.store.getState().frame!
      const { to } = await carried(from)
      const { frame } = await holds(
        to.plan.store,
        (state) => state.frame?.sweep === before.sweep && state.frame.done === before.done,
      )
      expect([...frame!.values]).toEqual([...before.values])
      expect(frame!.backups).toBe(before.backups)
    }
  })

  it('of a finished plan, on an environment that needs more sweeps now', async () => {
    const from = open('plan')
    await holds(from.plan.store, ({ frame }) => frame !== null)
    from.drive.finish()
    const { frame } = await holds(from.plan.store, ({ frame: each }) => each?.finished === true)
    const slower: EnvironmentDocument = { ...HALL, discount: 0.99 }
    const { to } = await carried(from, slower)
    to.plan.choose({ discount: 0.99 })
    const after = await holds(to.plan.store, ({ frame: each }) => each?.finished === true)
    expect(after.frame!.sweep).toBeGreaterThan(0)
    expect(frame!.finished).toBe(true)
  })

  it('of a run, at the very step, with what was played after it', async () => {
    const from = open('learn')
    from.learn.choose({ method: 'sarsa', episodes: 30, learningRate: constant(0.3), seed: 5 })
    await holds(from.learn.store, ({ frame }) => frame !== null)
    from.learn.reach(200, 137)
    const before = (
      await holds(from.learn.store, ({ frame }) => frame?.steps === 137 && frame.reached >= 200)
    ).frame!
    select(from, 'C1')
    const { to, scene } = await carried(from)
    expect(scene.learn).toMatchObject({ steps: 137, reached: before.reached })
    const { frame } = await holds(to.learn.store, (state) => state.frame?.steps === 137)
    expect([...frame!.rowValues!]).toEqual([...before.rowValues!])
    expect(takeScene(to)).toEqual(scene)
  })

  it('of what is looked at: stage, view, layers, selection, tabs', async () => {
    const from = open('build')
    const { study } = from
    study.getState().setPlanned(true)
    study.getState().setView('table')
    study.getState().toggleLayer('policy')
    study.getState().openTab('About the plan', 'Pseudo-code')
    study.getState().fold('Size', true)
    study.getState().fold('Settings', false)
    select(from, 'E1')
    const { to, scene } = await carried(from, HALL, 'learn')
    await holds(to.model.store, ({ compiled }) => compiled !== null)
    expect(scene).toMatchObject({ stage: 'build', view: 'table', planned: true, selected: 'E1' })
    expect(takeScene(to)).toMatchObject({
      stage: 'build',
      view: 'table',
      selected: 'E1',
      layers: scene.layers,
      tabs: { 'About the plan': 'Pseudo-code' },
      folds: { Size: true, Settings: false },
    })
  })

  it('of a finding of Check, at the step of its story', async () => {
    const trap: EnvironmentDocument = {
      ...gridDocument(['....', '####', '....'], {
        starts: [{ at: 'B1', weight: 1 }],
        endings: [{ at: 'A1', reward: 10, name: 'door' }],
        jumps: [{ at: 'C1', to: 'B3' }],
      }),
      name: 'Trap',
    }
    const from = open('check', trap)
    const { report } = await holds(from.check.store, (state) => state.report !== null)
    const place = report!.findings.findIndex(({ walk }) => walk && walk.outcomes.length > 0)
    from.check.choose(place)
    from.check.go(1)
    const { to, scene } = await carried(from, trap)
    expect(scene.check).toMatchObject({ at: 1 })
    const { at, chosen } = await holds(to.check.store, (state) => state.chosen !== null)
    expect({ at, chosen }).toEqual({ at: 1, chosen: place })
  })
})

describe('what no longer fits', () => {
  it('is told: a state that is gone, knobs that stand elsewhere', async () => {
    const from = open('plan')
    select(from, 'E1')
    const smaller: EnvironmentDocument = {
      ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }),
      knobs: HALL.knobs,
    }
    const { lost, scene } = await carried(from, smaller)
    expect(lost).toEqual(['The state E1, which was selected, is no longer there.'])
    expect(turnedElsewhere(HALL, { knobs: { veer: 0.4, gone: 1 } })).toEqual([
      'The link was made with veer at 0.4; it is turned to 0.2 now.',
    ])
    expect(turnedElsewhere(HALL, scene)).toEqual([])
  })

  it('of a run that began with a given table nothing is kept', async () => {
    const from = open('learn')
    const { frame } = await holds(from.learn.store, (state) => state.frame !== null)
    from.learn.restartWith({ title: 'a table', table: new Float64Array(frame!.cells) })
    expect(takeScene(from).learn).toBeNull()
  })
})
