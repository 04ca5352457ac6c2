import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { rulebookEnvironment } from '../../core/kinds/rulebook/blank'
import type { RulebookEnvironment } from '../../core/kinds/rulebook/kind'
import { gridDocument } from '../../core/testing/models'
import type { CompileReply, CompileRequest } from '../../hosts/protocol/compile'
import { createModelSession } from './model-session'
import { cursorAfter, cursorOf, stateAt } from './cursor'

/** A worker that answers when it is told to. */
function fakeWorker() {
  const posted: CompileRequest[] = []
  let listener: (reply: CompileReply) => void = () => {}
  return {
    posted,
    say: (reply: CompileReply) => listener(reply),
    start: () => ({
      post: (request: CompileRequest) => void posted.push(request),
      listen: (next: typeof listener) => (listener = next),
      close: () => {},
    }),
  }
}

const text = (top: number) => `state a from 0 to ${top}\nstart a = 0\naction go\nnext a = min(${top}, a + 1)`
const document = (top: number) => rulebookEnvironment('test', text(top))
const compiled = (top: number) => compileEnvironment(document(top))

describe('the model on screen', () => {
  it('of a grid is there at once, and gone when the grid is wrong', () => {
    const session = createModelSession(fakeWorker().start)
    session.open(gridDocument(['..']))
    expect(session.store.getState().compiled?.model.states).toBe(2)
    session.open(gridDocument(['##']))
    expect(session.store.getState()).toMatchObject({ compiled: null, problems: [{}] })
  })

  it('of a rulebook comes from the worker; older answers are dropped', () => {
    const worker = fakeWorker()
    const session = createModelSession(worker.start)
    session.open(document(3))
    session.open(document(5))
    expect(worker.posted.map((request) => 'session' in request && request.session)).toEqual([1, 2])
    worker.say({ type: 'compiled', session: 1, compiled: compiled(3) })
    expect(session.store.getState().compiled).toBeNull()
    worker.say({ type: 'progress', session: 2, states: 4, rows: 4 })
    expect(session.store.getState().progress).toEqual({ states: 4, rows: 4 })
    worker.say({ type: 'compiled', session: 2, compiled: compiled(5) })
    expect(session.store.getState()).toMatchObject({ progress: null, problems: [] })
    expect(session.store.getState().compiled?.model.states).toBe(6)
  })

  it('tells the faults of a text at once, and never those of the text before', () => {
    const worker = fakeWorker()
    const session = createModelSession(worker.start)
    session.open(rulebookEnvironment('test', text(3).replace('min', 'mni')))
    expect(session.store.getState().problems[0].cause).toContain('mni')
    // Nothing had to be worked out for that.
    expect(worker.posted.filter(({ type }) => type === 'compile')).toEqual([])
    session.open(document(4))
    expect(session.store.getState().problems).toEqual([])
    worker.say({ type: 'failed', session: 2, message: 'out of memory' })
    expect(session.store.getState().problems[0].cause).toBe('The compiler stopped: out of memory.')
  })

  it('stays the last good one while something is wrong, and while it is stopped', () => {
    const worker = fakeWorker()
    const session = createModelSession(worker.start)
    session.open(document(3))
    worker.say({ type: 'compiled', session: 1, compiled: compiled(3) })
    session.open(rulebookEnvironment('test', 'state'))
    worker.say({
      type: 'refused',
      session: 2,
      problems: [{ place: 'line 1, column 6', cause: 'x', remedy: 'y' }],
    })
    expect(session.store.getState().compiled?.model.states).toBe(4)
    expect(session.store.getState().problems).toHaveLength(1)
    session.open(document(900))
    session.stop()
    expect(session.store.getState()).toMatchObject({ stopped: true, progress: null })
    expect(worker.posted.at(-1)).toEqual({ type: 'cancel' })
    worker.say({ type: 'compiled', session: 3, compiled: compiled(3) })
    expect(session.store.getState().stopped).toBe(true)
  })

  it('stays the same, for plans and runs too, where the worker says so', () => {
    const worker = fakeWorker()
    const session = createModelSession(worker.start)
    session.open(document(3))
    const first = compiled(3)
    worker.say({ type: 'compiled', session: 1, compiled: first })
    const other = rulebookEnvironment('test', `${text(3)} # on and on`)
    session.open(other)
    expect(worker.posted.at(-1)).toMatchObject({ type: 'compile', session: 2, has: 1 })
    const { model: _model, space: _space, measures: _measures, ...rest } = first
    const policies = [{ title: 'go', policy: Float64Array.of(1, 1, 1, 1) }]
    worker.say({ type: 'renewed', session: 2, rest: { ...rest, policies } })
    const state = session.store.getState()
    expect(state.compiled!.model).toBe(first.model)
    expect(state).toMatchObject({ compiled: { policies }, source: other, progress: null })
    session.open(document(4))
    expect(worker.posted.at(-1)).toMatchObject({ session: 3, has: 1 })
    // A grid is compiled here: the worker does not know it.
    session.open(gridDocument(['..']))
    session.open(document(5))
    expect(worker.posted.at(-1)).toMatchObject({ type: 'compile', has: null })
  })

  it('is not asked for again when only name, note or view change; a new discount asks for new scores', () => {
    const worker = fakeWorker()
    const session = createModelSession(worker.start)
    const first = document(3)
    session.open(first)
    const view: RulebookEnvironment = {
      ...first,
      name: 'other',
      rulebook: { ...first.rulebook, view: { across: 'a', up: null, others: {} } },
    }
    session.open(view)
    expect(worker.posted).toHaveLength(1)
    session.open({ ...view, discount: 0.5 })
    expect(worker.posted.at(-1)).toEqual({ type: 'score', session: 1, discount: 0.5 })
    session.open({ ...view, rulebook: { ...view.rulebook, knobs: { k: 1 } } })
    expect(worker.posted.at(-1)).toMatchObject({ type: 'compile', session: 2 })
  })
})

it('finds the selected state again by its name', () => {
  const [small, large] = [compiled(3), compiled(5)]
  expect(cursorAfter(small, large, 2)).toBe(large.model.labels.indexOf('a 2'))
  expect(cursorAfter(large, small, large.model.labels.indexOf('a 5'))).toBeNull()
  expect(cursorAfter(null, small, 2)).toBe(2)
  const grid = compileEnvironment(gridDocument(['#..']))
  expect([stateAt(grid, 0), stateAt(grid, 1), cursorOf(grid, 0)]).toEqual([null, 0, 1])
  expect([stateAt(small, 9), stateAt(small, 1), cursorOf(small, 1)]).toEqual([null, 1, 1])
})
