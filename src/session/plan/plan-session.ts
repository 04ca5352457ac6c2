import { createStore, type StoreApi } from 'zustand'
import type { Model, RowPolicy } from '../../core/model/model'
import { defaultPlanMethod, planMethod, type PlanMethodId } from '../../core/plan/plan-methods'
import type { HeldPlan } from '../../core/plan/difference'
import { chosenOf, FIRST_CHOSEN, PLAN_DEFAULTS, type ChosenPlanSettings } from '../../core/plan/plan-settings'
import type { HorizonPlan } from '../../core/plan/horizon'
import type { PlanGoal } from '../../core/recording/plan-recording'
import { startPlanWorker, type Connection } from '../../hosts/browser/launcher'
import { afterDrawing } from '../after-drawing'
import type { PlanFrame, PlanReply, PlanRequest, PlanUnit } from '../../hosts/protocol/plan'
import type { Speed } from '../../hosts/protocol/common'
import { EQUIPROBABLE } from '../../core/settings/first-choice'
import type { PolicyFinder, PolicySource } from './policy-source'

/** What can be chosen; a change plans from the start, or is followed by a plan that was finished. */
export interface PlanChoice extends ChosenPlanSettings {
  readonly method: PlanMethodId
  readonly discount: number
  /** The policy that is evaluated or improved first. */
  readonly source: PolicySource
}

/** A plan that others are compared with, and what it was. */
export interface NamedPlan extends HeldPlan {
  readonly title: string
}

export interface PlanState extends PlanChoice {
  readonly speed: Speed
  /** What a step is, and what the speed counts. */
  readonly unit: PlanUnit
  /** The latest frame; null until the worker has compiled the document. */
  readonly frame: PlanFrame | null
  /** The largest change of each sweep reached, from sweep 1, and the backups made up to its end. */
  readonly changes: readonly number[]
  readonly work: readonly number[]
  /** Plans are made to their end by themselves, one after the other, each from the values of the one before. */
  readonly following: boolean
  /** The plan at hand began from the values of another one. */
  readonly warm: boolean
  readonly held: NamedPlan | null
  /** Every stage of a finite horizon, once asked for. */
  readonly horizonPlan: HorizonPlan | null
  /** The method of a second plan that is shown beside this one. */
  readonly beside: PlanMethodId | null
  readonly failure: string | null
}

/** A planning worker and what it last said. Knows no React. */
export interface PlanSession {
  readonly store: StoreApi<PlanState>
  /**
   * Plans this model from the start, unless that is what is going on already. A plan that was finished is made
   * again to its end at once, so that the board follows a knob.
   */
  open(model: Model, find: PolicyFinder): void
  choose(part: Partial<PlanChoice>): void
  setSpeed(speed: Speed): void
  setUnit(unit: PlanUnit): void
  run(): void
  /** Runs as fast as it can, whatever the speed, to the end or to the next goal. */
  finish(goal?: PlanGoal): void
  pause(): void
  step(way: 'on' | 'back', unit?: PlanUnit): void
  go(sweep: number, done?: number | null): void
  /** To where so many backups have been made. */
  match(backups: number): void
  /** The state whose working comes along. */
  watch(state: number | null): void
  restart(): void
  /** Plans to the end at once, and again after every change. */
  follow(): void
  setBeside(method: PlanMethodId | null): void
  /** Asks for the plan of every number of steps to go. */
  askHorizon(): void
  /** Keeps a plan to compare others with; the one at hand when none is given, none when null. */
  hold(plan?: NamedPlan | null): void
  close(): void
}

/** The method that follows changes in place of the chosen one: values are the same, only sooner there. */
function followingMethod(chosen: PlanMethodId): PlanMethodId {
  const { purpose, staged } = planMethod(chosen)
  return purpose === 'control' && !staged ? 'modified-policy-iteration-in-place' : chosen
}

export function createPlanSession(
  discount: number,
  startWorker: () => Connection<PlanRequest, PlanReply> = startPlanWorker,
): PlanSession {
  const store = createStore<PlanState>()(() => ({
    method: 'value-iteration',
    discount,
    ...FIRST_CHOSEN,
    source: EQUIPROBABLE,
    speed: 4,
    unit: 'sweep',
    frame: null,
    changes: [],
    work: [],
    following: false,
    warm: false,
    held: null,
    horizonPlan: null,
    beside: null,
    failure: null,
  }))
  let connection: Connection<PlanRequest, PlanReply> | undefined
  let session = 0
  let watched: number | null = null
  /** Whether the held plan was let go: then none is held by itself until a plan begins anew. */
  let released = false
  /** Whether the method was chosen by hand. */
  let chosen = false
  let find: PolicyFinder = () => null
  /** The model the worker has. */
  let known: Model | undefined
  let opened: { model: Model; choice: PlanChoice; policy: RowPolicy | null } | undefined

  const hear = (reply: PlanReply) => {
    if (reply.session !== session) return
    if (reply.type === 'failed') {
      store.setState({ failure: reply.message })
      return
    }
    if (reply.type === 'horizon') {
      store.setState({ horizonPlan: reply })
      return
    }
    const { changes, work } = store.getState()
    const isNew = reply.changes.length > 0 || reply.fromSweep < changes.length
    store.setState({
      frame: reply,
      changes: isNew ? [...changes.slice(0, reply.fromSweep), ...reply.changes] : changes,
      work: isNew ? [...work.slice(0, reply.fromSweep), ...reply.work] : work,
    })
    afterDrawing(() => connection?.post({ type: 'shown' }))
  }
  const start = (model: Model, follow: boolean) => {
    const choice = choiceOf(store.getState())
    if (follow) holdBefore()
    else released = false
    if (!connection) {
      connection = startWorker()
      connection.listen(hear)
      connection.post({ type: 'watch', state: watched })
      known = undefined
    }
    session++
    store.setState({ horizonPlan: null })
    const policy = find(choice.source)
    opened = { model, choice, policy }
    store.setState(
      follow
        ? { failure: null, following: true, warm: true }
        : { frame: null, changes: [], work: [], failure: null, following: false, warm: false },
    )
    const { method, discount } = choice
    connection.post({
      type: 'open',
      session,
      model: known === model ? null : model,
      method: follow ? followingMethod(method) : method,
      settings: {
        ...PLAN_DEFAULTS,
        ...chosenOf(choice),
        discount,
        policy,
      },
      follow,
    })
    known = model
  }
  /** The first change that is followed is compared with what was there before it. */
  const holdBefore = () => {
    const { held, frame } = store.getState()
    if (!held && !released && frame?.finished && frame.status.outcome === 'converged')
      keep(', before the change')
  }
  const keep = (title = '') => {
    const { frame } = store.getState()
    if (!frame || !opened) return
    store.setState({
      held: {
        model: opened.model,
        values: frame.values,
        policy: frame.policy,
        title: `${planMethod(opened.choice.method).title}, discount ${opened.choice.discount}${title}`,
      },
    })
  }
  const follows = () => {
    const { following, frame } = store.getState()
    return following || (frame?.finished === true && frame.status.outcome === 'converged')
  }
  const stepOff = () => store.setState({ following: false })
  const self: PlanSession = {
    store,
    open(model, finder) {
      find = finder
      if (!chosen) store.setState({ method: defaultPlanMethod(model) })
      const choice = choiceOf(store.getState())
      if (opened?.model === model && isSame(opened.choice, choice) && opened.policy === find(choice.source))
        return
      start(model, follows())
    },
    choose(part) {
      if (part.method) chosen = true
      store.setState(part)
      const choice = choiceOf(store.getState())
      if (!opened || isSame(opened.choice, choice)) return
      // Another method is looked at from its beginning; another number is followed.
      const follow =
        part.method === undefined && part.order === undefined && part.horizon === undefined && follows()
      start(opened.model, follow)
    },
    setSpeed(speed) {
      store.setState({ speed })
      const { frame, unit } = store.getState()
      if (frame?.running) connection?.post({ type: 'run', speed, unit, goal: 'end' })
    },
    setUnit(unit) {
      store.setState({ unit })
      const { frame, speed } = store.getState()
      if (frame?.running) connection?.post({ type: 'run', speed, unit, goal: 'end' })
    },
    run() {
      const { speed, unit } = store.getState()
      connection?.post({ type: 'run', speed, unit, goal: 'end' })
    },
    finish: (goal = 'end') => connection?.post({ type: 'run', speed: 'flat out', unit: 'sweep', goal }),
    pause() {
      stepOff()
      connection?.post({ type: 'pause' })
    },
    step(way, unit = store.getState().unit) {
      stepOff()
      connection?.post({ type: 'step', unit, way })
    },
    go(sweep, done = null) {
      stepOff()
      connection?.post({ type: 'go', sweep, done })
    },
    match: (backups) => connection?.post({ type: 'match', backups }),
    watch(state) {
      if (watched === state) return
      watched = state
      connection?.post({ type: 'watch', state })
    },
    follow() {
      if (opened && !store.getState().following && !store.getState().frame?.finished)
        start(opened.model, true)
    },
    restart() {
      if (opened) start(opened.model, false)
    },
    askHorizon: () => connection?.post({ type: 'horizon' }),
    setBeside: (beside) => store.setState({ beside }),
    hold(plan) {
      released = plan === null
      if (plan === undefined) keep()
      else store.setState({ held: plan })
    },
    close() {
      connection?.close()
      connection = undefined
      opened = undefined
      known = undefined
    },
  }
  return self
}

/** What is chosen, out of all that a session holds. */
export function choiceOf(state: PlanState): PlanChoice {
  const { method, discount, source } = state
  return { method, discount, source, ...chosenOf(state) }
}

function isSame(one: PlanChoice, other: PlanChoice): boolean {
  return (Object.keys(one) as (keyof PlanChoice)[]).every((key) => one[key] === other[key])
}
