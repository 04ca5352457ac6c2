import { createStore, type StoreApi } from 'zustand'
import type { EnvironmentDocument } from '../../../core/environment/document'
import { PLAN_DEFAULTS } from '../../../core/plan/value-iteration'
import { startPlanWorker, type WorkerLine } from '../../../workers/client'
import { sameModel } from '../../study/compiled'
import { afterDrawing } from '../after-drawing'
import type { PlanFrame, PlanReply, PlanRequest, Speed } from '../../../workers/protocol'

export interface PlanState {
  readonly discount: number
  readonly tolerance: number
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
  /** Plans this document from the start, unless that is what is going on already. */
  open(document: EnvironmentDocument): void
  setDiscount(discount: number): void
  setTolerance(tolerance: number): void
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
    discount,
    tolerance: PLAN_DEFAULTS.tolerance,
    speed: 4,
    frame: null,
    changes: [],
    failure: null,
  }))
  let line: WorkerLine<PlanRequest, PlanReply> | undefined
  let session = 0
  let opened: { document: EnvironmentDocument; discount: number; tolerance: number } | undefined

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
  const start = (document: EnvironmentDocument) => {
    const { discount, tolerance } = store.getState()
    if (!line) {
      line = startPlanWorker()
      line.listen(hear)
    }
    session++
    opened = { document, discount, tolerance }
    store.setState({ frame: null, changes: [], failure: null })
    line.post({ type: 'open', session, document, settings: { ...PLAN_DEFAULTS, discount, tolerance } })
  }
  const change = (part: Partial<Pick<PlanState, 'discount' | 'tolerance'>>) => {
    const document = opened?.document
    store.setState(part)
    if (document) start(document)
  }
  return {
    store,
    open(document) {
      const { discount, tolerance } = store.getState()
      if (
        sameModel(opened?.document, document) &&
        opened?.discount === discount &&
        opened?.tolerance === tolerance
      )
        return
      start(document)
    },
    setDiscount: (value) => change({ discount: value }),
    setTolerance: (value) => change({ tolerance: value }),
    setSpeed(speed) {
      store.setState({ speed })
      if (store.getState().frame?.running) line?.post({ type: 'run', speed })
    },
    run: () => line?.post({ type: 'run', speed: store.getState().speed }),
    finish: () => line?.post({ type: 'run', speed: 'flat out' }),
    pause: () => line?.post({ type: 'pause' }),
    sweep: () => line?.post({ type: 'sweep' }),
    go: (sweep) => line?.post({ type: 'go', sweep }),
    restart() {
      if (opened) start(opened.document)
    },
    close() {
      line?.close()
      line = undefined
      opened = undefined
    },
  }
}
