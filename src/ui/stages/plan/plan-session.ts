import { createStore, type StoreApi } from 'zustand'
import type { Model } from '../../../core/model/model'
import type { PlanMethodId } from '../../../core/plan/plan-methods'
import type { SweepOrder } from '../../../core/plan/sweep-order'
import { PLAN_DEFAULTS } from '../../../core/plan/planner'
import { startPlanWorker, type WorkerLine } from '../../../workers/client'
import { isFinished } from '../../study/run-state'
import { afterDrawing } from '../after-drawing'
import type { PlanFrame, PlanReply, PlanRequest, Speed } from '../../../workers/protocol'

/** What can be chosen; a change plans from the start. */
export interface PlanChoice {
  readonly method: PlanMethodId
  readonly discount: number
  readonly tolerance: number
  readonly order: SweepOrder
  readonly evaluations: number
}

export interface PlanState extends PlanChoice {
  readonly speed: Speed
  /** The latest frame; null until the worker has compiled the document. */
  readonly frame: PlanFrame | null
  /** The largest change of each sweep reached, from sweep 1. */
  readonly changes: readonly number[]
  readonly failure: string | null
}

/** A planning worker and what it last said. Knows no React. */
export interface PlanSession {
  readonly store: StoreApi<PlanState>
  /**
   * Plans this model from the start, unless that is what is going on already. A plan that was finished is made
   * again to its end at once, so that the board follows a knob.
   */
  open(model: Model): void
  choose(part: Partial<PlanChoice>): void
  setSpeed(speed: Speed): void
  run(): void
  /** Runs to the end as fast as it can, whatever the speed. */
  finish(): void
  pause(): void
  sweep(): void
  go(sweep: number): void
  restart(): void
  close(): void
}

export function createPlanSession(discount: number): PlanSession {
  const store = createStore<PlanState>()(() => ({
    method: 'value-iteration',
    discount,
    tolerance: PLAN_DEFAULTS.tolerance,
    order: PLAN_DEFAULTS.order,
    evaluations: PLAN_DEFAULTS.evaluations,
    speed: 4,
    frame: null,
    changes: [],
    failure: null,
  }))
  let line: WorkerLine<PlanRequest, PlanReply> | undefined
  let session = 0
  /** True while plans are made to their end by themselves, one after the other. */
  let following = false
  let opened: { model: Model; choice: PlanChoice } | undefined

  const hear = (reply: PlanReply) => {
    if (reply.session !== session) return
    if (reply.type === 'failed') {
      store.setState({ failure: reply.message })
      return
    }
    const known = store.getState().changes
    const changes =
      reply.changes.length || reply.changesFrom < known.length
        ? [...known.slice(0, reply.changesFrom), ...reply.changes]
        : known
    store.setState({ frame: reply, changes })
    afterDrawing(() => line?.post({ type: 'shown' }))
  }
  const start = (model: Model, follow: boolean) => {
    const choice = choiceOf(store.getState())
    if (!line) {
      line = startPlanWorker()
      line.listen(hear)
    }
    session++
    following = follow
    opened = { model, choice }
    store.setState(follow ? { failure: null } : { frame: null, changes: [], failure: null })
    line.post({
      type: 'open',
      session,
      model,
      method: choice.method,
      settings: { ...PLAN_DEFAULTS, ...settingsOf(choice) },
      run: follow,
    })
  }
  return {
    store,
    open(model) {
      const state = store.getState()
      if (opened?.model === model && isSame(opened.choice, choiceOf(state))) return
      start(model, following || isFinished(state.frame))
    },
    choose(part) {
      store.setState(part)
      if (opened && !isSame(opened.choice, choiceOf(store.getState()))) start(opened.model, false)
    },
    setSpeed(speed) {
      store.setState({ speed })
      if (store.getState().frame?.running) line?.post({ type: 'run', speed })
    },
    run: () => line?.post({ type: 'run', speed: store.getState().speed }),
    finish: () => line?.post({ type: 'run', speed: 'flat out' }),
    pause() {
      following = false
      line?.post({ type: 'pause' })
    },
    sweep() {
      following = false
      line?.post({ type: 'sweep' })
    },
    go(sweep) {
      following = false
      line?.post({ type: 'go', sweep })
    },
    restart() {
      if (opened) start(opened.model, false)
    },
    close() {
      line?.close()
      line = undefined
      opened = undefined
    },
  }
}

function choiceOf({ method, discount, tolerance, order, evaluations }: PlanState): PlanChoice {
  return { method, discount, tolerance, order, evaluations }
}

function settingsOf({ discount, tolerance, order, evaluations }: PlanChoice) {
  return { discount, tolerance, order, evaluations }
}

function isSame(one: PlanChoice, other: PlanChoice): boolean {
  return (Object.keys(one) as (keyof PlanChoice)[]).every((key) => one[key] === other[key])
}
