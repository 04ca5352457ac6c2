import { afterEach, describe, expect, it, vi } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { Stage } from '../../core/lesson/names'
import type { Scene } from '../../core/lesson/scene'
import { ProblemError } from '../../core/problem'
import { RandomStream } from '../../core/random/generator'
import { gridDocument } from '../../core/testing/models'
import { holds } from '../../hosts/testing/in-process'
import { StaleError, UnavailableError } from '../api/send'
import { cursorOf } from '../study/cursor'
import { studyInProcess } from '../testing/study-in-process'
import { followScene, isNear } from './follow-scene'
import { tellScreen, type FollowServer } from './shown-screen'
import { takeScene } from './take-scene'

const HALL: EnvironmentDocument = {
  ...gridDocument(['.....', '.#.#.', '.....'], {
    endings: [{ at: 'E3', reward: 10, name: 'door' }],
    starts: [{ at: 'A1', weight: 1 }],
    veer: 0.2,
  }),
  discount: 0.9,
  cap: 60,
}

const stops: (() => void)[] = []
afterEach(() => stops.splice(0).forEach((stop) => stop()))

function open(stage: Stage) {
  const { study, stop } = studyInProcess(HALL, stage)
  stops.push(stop)
  return study
}

type Opened = ReturnType<typeof open>
const select = ({ study, model }: Opened, label: string) => {
  const { compiled } = model.store.getState()
  study.getState().select(cursorOf(compiled, compiled!.model.labels.indexOf(label)))
}
/** The numbers on a screen. */
const valuesOf = ({ plan }: Opened) => [...(plan.store.getState().frame?.values ?? [])]

describe('a page that follows', () => {
  it('comes to the same moment of a plan, back and forth, with the same selected', async () => {
    const [from, to] = [open('plan'), open('plan')]
    await holds(from.plan.store, ({ frame }) => frame !== null)
    await holds(to.plan.store, ({ frame }) => frame !== null)
    await holds(to.model.store, ({ compiled }) => compiled !== null)
    const stream = new RandomStream(11, 'problem', 0)
    let before = takeScene(from)
    for (let i = 0; i < 12; i++) {
      const frame = from.plan.store.getState().frame!
      if (stream.below(3) === 0 && frame.sweep > 0) from.drive.step('back', 'sweep')
      else from.drive.step('on', 'sweep')
      select(from, ['A1', 'C1', 'E1', 'A3'][stream.below(4)])
      await holds(from.plan.store, ({ frame: now }) => now !== frame)
      const after = takeScene(from)
      expect(isNear(before, after)).toBe(true)
      followScene(to, before, after)
      await holds(to.plan.store, ({ frame: now }) => now?.sweep === after.plan!.sweep)
      expect(valuesOf(to)).toEqual(valuesOf(from))
      expect(takeScene(to).selected).toBe(after.selected)
      before = after
    }
  })

  it('comes to the same step of a run', async () => {
    const [from, to] = [open('learn'), open('learn')]
    await holds(from.learn.store, ({ frame }) => frame !== null)
    await holds(to.learn.store, ({ frame }) => frame !== null)
    let before = takeScene(from)
    for (const steps of [40, 200, 120]) {
      from.learn.reach(Math.max(200, steps), steps)
      await holds(from.learn.store, ({ frame }) => frame?.steps === steps)
      const after = takeScene(from)
      expect(isNear(before, after)).toBe(true)
      followScene(to, before, after)
      await holds(to.learn.store, ({ frame }) => frame?.steps === steps)
      expect([...to.learn.store.getState().frame!.values]).toEqual([
        ...from.learn.store.getState().frame!.values,
      ])
      before = after
    }
  })

  it('opens anew what is another stage, method or knob', async () => {
    const from = open('plan')
    await holds(from.plan.store, ({ frame }) => frame !== null)
    const before = takeScene(from)
    const others: Scene[] = [
      { ...before, stage: 'build' },
      { ...before, plan: { ...before.plan!, discount: 0.5 } },
      { ...before, plan: null },
      { ...before, knobs: { veer: 0.5 } },
    ]
    for (const other of others) expect(isNear(before, other)).toBe(false)
    expect(
      isNear(before, { ...before, layers: [], selected: 'A1', plan: { ...before.plan!, sweep: 9 } }),
    ).toBe(true)
  })
})

describe('a screen that is followed', () => {
  /** A server that writes down what it is told. */
  function server(answers: Partial<FollowServer> = {}) {
    const told: string[] = []
    const all: FollowServer = {
      letFollow: async (_, __, { title }) => (told.push(`follow ${title}`), 'hall'),
      showFollowed: async (_, name, { scene }) => void told.push(`show ${name} ${scene.plan?.sweep}`),
      ...answers,
    }
    return { told, all }
  }
  const words = { title: 'Hall', text: '', covers: [] }
  const after = async (condition: () => boolean) =>
    vi.waitFor(() => expect(condition()).toBe(true), { timeout: 5000 })

  it('is told once as a whole, then as it changes, and not while it does not', async () => {
    const parts = open('plan')
    await holds(parts.plan.store, ({ frame }) => frame !== null)
    const { told, all } = server()
    stops.push(
      tellScreen(
        parts,
        'class',
        () => words,
        () => {},
        all,
      ),
    )
    await after(() => told.length === 1)
    parts.drive.step('on', 'sweep')
    await after(() => told.includes('show hall 1'))
    const number = told.length
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(told).toHaveLength(number)
    // Another environment is told as a whole.
    parts.study.getState().edit({ ...HALL, discount: 0.5 } as never)
    await after(() => told.filter((each) => each === 'follow Hall').length === 2)
  })

  it('goes on after the server was away, and ends where something else is followed or it is refused', async () => {
    const parts = open('plan')
    await holds(parts.plan.store, ({ frame }) => frame !== null)
    const problem = [{ place: 'x', cause: 'No.', remedy: '' }]
    let asked = 0
    const away = server({
      letFollow: () =>
        asked++ < 2 ? Promise.reject(new UnavailableError(problem)) : Promise.resolve('hall'),
    })
    stops.push(
      tellScreen(
        parts,
        'class',
        () => words,
        () => {},
        away.all,
      ),
    )
    await after(() => asked === 3)
    parts.drive.step('on', 'sweep')
    await after(() => away.told.length > 0)

    for (const error of [new StaleError(problem), new ProblemError(problem)]) {
      const failed: ProblemError[] = []
      let tried = 0
      const refusing = server({ letFollow: () => (tried++, Promise.reject(error)) })
      stops.push(
        tellScreen(
          parts,
          'class',
          () => words,
          (each) => failed.push(each),
          refusing.all,
        ),
      )
      await new Promise((resolve) => setTimeout(resolve, 500))
      expect([tried, failed.length]).toEqual([1, 1])
    }
  })
})
