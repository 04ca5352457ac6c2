import { afterEach, describe, expect, it, vi } from 'vitest'
import type { LessonView } from '../../core/lesson/lesson-document'
import { checkScene } from '../../core/lesson/read-lesson'
import { constant } from '../../core/learn/schedule'
import { gridDocument } from '../../core/testing/models'
import { holds } from '../../hosts/testing/in-process'
import { studyInProcess } from '../testing/study-in-process'
import type { openSandbox } from './sandbox'
import { NextView, openView, type OpenedView } from './opened-view'

const HALL = gridDocument(['...', '.#.', '...'], { endings: [{ at: 'C3', reward: 10, name: 'door' }] })
const view = (id: string, scene: object): LessonView => ({
  ...{ id, title: id, text: '', notes: '', environment: 'hall', timeline: false, column: false },
  scene: checkScene(scene, HALL),
})
const RUN = view('run', {
  stage: 'learn',
  learn: { choice: { method: 'sarsa', episodes: 30, learningRate: constant(0.3) }, steps: 137 },
})

describe('a view that is opened', () => {
  it('comes to its moment while it is held, and tells what does not fit', async () => {
    const scene = { ...RUN.scene, selected: 'Z9', knobs: { gone: 1 } }
    const inProcess: typeof openSandbox = (_id, document, { stage }) =>
      studyInProcess(document, stage, false).study
    const opened = openView('7', { ...RUN, scene }, HALL, inProcess)
    expect(opened.parts.learn.store.getState().frame).toBeNull()
    const letGo = opened.hold()
    const again = opened.hold()
    await holds(opened.parts.learn.store, ({ frame }) => frame?.steps === 137 && !frame.running)
    expect(opened.lost.getState()).toEqual([
      'The knob gone is gone, or does not go so far any more.',
      'The state Z9, which was selected, is no longer there.',
    ])
    // Somebody else holds it still, however often one lets go.
    letGo()
    letGo()
    opened.parts.learn.step('step')
    await holds(opened.parts.learn.store, (state) => state.frame?.steps === 138)
    again()
  })
})

describe('the next view', () => {
  afterEach(() => vi.useRealTimers())

  function prepared() {
    vi.useFakeTimers()
    const held: string[] = []
    const next = new NextView(({ id }) => {
      let holders = 0
      return {
        hold: () => {
          if (holders++ === 0) held.push(id)
          return () => {
            if (--holders === 0) held.splice(held.indexOf(id), 1)
          }
        },
      } as OpenedView
    })
    return { held, next }
  }

  it('is taken as it was prepared, once, and goes on where it is shown', () => {
    const { held, next } = prepared()
    const letGo = next.prepare(RUN, HALL)
    expect(held).toEqual(['run'])
    // It is turned to: what prepared it lets go, what shows it holds it.
    letGo()
    const stop = next.take(RUN, HALL).hold()
    vi.runAllTimers()
    expect(held).toEqual(['run'])
    stop()
    expect(held).toEqual([])
    next.take(RUN, HALL).hold()
    expect(held).toEqual(['run'])
  })

  it('is let go of where another one is turned to', () => {
    const { held, next } = prepared()
    next.prepare(RUN, HALL)()
    next.take(view('other', { stage: 'plan' }), HALL)
    vi.runAllTimers()
    expect(held).toEqual([])
    const before = next.take(RUN, HALL)
    expect(next.take(RUN, HALL)).not.toBe(before)
  })

  it('is another one where its environment is another one by now', () => {
    const { held, next } = prepared()
    next.prepare(RUN, HALL)()
    const stop = next.take(RUN, { ...HALL }).hold()
    expect(held).toEqual(['run', 'run'])
    vi.runAllTimers()
    expect(held).toEqual(['run'])
    stop()
    expect(held).toEqual([])
  })
})
