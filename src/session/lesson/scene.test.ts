import { afterEach, describe, expect, it } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { checkScene } from '../../core/lesson/read-lesson'
import type { Stage } from '../../core/lesson/names'
import { constant } from '../../core/learn/schedule'
import { comparePlans } from '../../core/plan/difference'
import { RandomStream } from '../../core/random/generator'
import { gridDocument } from '../../core/testing/models'
import { holds } from '../../hosts/testing/in-process'
import { studyInProcess } from '../testing/study-in-process'
import { showScene, turnedElsewhere } from './show-scene'
import { startSeeds } from '../learn/start-seeds'
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

  it('of a plan that is held, and what is different since', async () => {
    const from = open('plan')
    await holds(from.plan.store, ({ frame }) => frame !== null)
    from.drive.finish()
    const before = await holds(from.plan.store, ({ frame }) => frame?.finished === true)
    from.plan.hold()
    from.plan.choose({ discount: 0.5 })
    const { frame, held } = await holds(
      from.plan.store,
      (state) => state.frame !== before.frame && state.frame?.finished === true,
    )
    const { model } = from.model.store.getState().compiled!
    const { to, scene } = await carried(from)
    const after = await holds(to.plan.store, (state) => state.frame?.finished === true)
    expect(after.held!.title).toBe('Value iteration, discount 0.9')
    const compared = (kept: typeof held) => comparePlans(model, frame!.values, frame!.policy, kept!)
    expect(compared(after.held)).toEqual(compared(held))
    expect(compared(held).largest).toBeLessThan(-1)
    expect(takeScene(to).plan!.held).toEqual(scene.plan!.held)
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

  it('of an episode by hand, drawn or forced, wherever its head stands', async () => {
    const stream = new RandomStream(5, 'problem', 0)
    for (let each = 0; each < 20; each++) {
      const from = open('check')
      const { check } = from
      await holds(check.store, ({ played }) => played !== null)
      const { model } = from.model.store.getState().compiled!
      check.deal({ seed: stream.below(9) })
      check.begin(each % 2 ? model.labels.indexOf('C1') : null)
      for (let i = 0; i < 6; i++) {
        const { at, over } = check.store.getState().played!
        if (over) break
        const row = model.rowStart[at] + stream.below(model.rowStart[at + 1] - model.rowStart[at])
        const places = model.outcomeStart[row + 1] - model.outcomeStart[row]
        const forced = stream.below(2) ? model.outcomeStart[row] + stream.below(places) : null
        check.act(model.rowAction[row], forced)
      }
      check.go(stream.below(4))
      const before = check.store.getState()
      const { to, scene, lost } = await carried(from)
      const after = await holds(to.check.store, ({ hand }) => hand.moves.length > 0)
      expect(after.hand).toEqual(before.hand)
      expect(after.played!.walk).toEqual(before.played!.walk)
      expect(after.at).toBe(before.at)
      expect(lost).toEqual([])
      expect(takeScene(to)).toEqual(scene)
    }
  })

  it('of runs with other seeds laid beside a run', async () => {
    const from = open('learn')
    from.learn.choose({ method: 'sarsa', episodes: 10 })
    await holds(from.learn.store, ({ frame }) => frame !== null)
    startSeeds(from, 4)
    const before = await holds(from.seeds.store, ({ running, runs }) => !running && runs.length === 4)
    const { to } = await carried(from)
    const after = await holds(to.seeds.store, ({ running, runs }) => !running && runs.length === 4)
    const means = ({ runs }: typeof before) => runs.map(({ run, mean }) => [run, mean]).sort()
    expect(means(after)).toEqual(means(before))
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

  it('is told of an episode by hand, up to where it is possible', async () => {
    const from = open('check')
    await holds(from.check.store, ({ played }) => played !== null)
    const { model } = from.model.store.getState().compiled!
    const act = (name: string) => from.check.act(model.actions.indexOf(name))
    from.check.begin(model.labels.indexOf('D3'))
    act('east')
    const { lost, to } = await carried(
      from,
      gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }),
    )
    await holds(to.check.store, ({ played }) => played !== null)
    expect(lost).toContain('The episode by hand began in D3, which is no longer there.')

    from.check.begin(model.labels.indexOf('A1'))
    for (let i = 0; i < 3; i++) act('west')
    const short = { ...HALL, cap: 2 }
    const cut = await carried(from, short)
    await holds(cut.to.check.store, ({ hand }) => hand.moves.length === 2)
    expect(cut.lost).toEqual(['Step 3 of the episode by hand, west, is no longer possible.'])
    const without = checkScene({ ...takeScene(from), check: { hand: { moves: [{ action: 'fly' }] } } }, HALL)
    const to2 = open('check')
    const told: string[] = []
    stops.push(showScene(to2, without, (words) => told.push(words)).stop)
    await holds(to2.check.store, ({ played }) => played !== null)
    expect(told).toEqual(['Step 1 of the episode by hand, fly, is no longer possible.'])
  })

  it('of a run that began with a given table nothing is kept', async () => {
    const from = open('learn')
    const { frame } = await holds(from.learn.store, (state) => state.frame !== null)
    from.learn.restartWith({ title: 'a table', table: new Float64Array(frame!.cells) })
    expect(takeScene(from).learn).toBeNull()
  })
})
