import { createStore, type StoreApi } from 'zustand'
import type { EnvironmentDocument } from '../../../core/environment/document'
import type { Model } from '../../../core/model/model'
import type { LearnSettings } from '../../../core/learn/learner'
import { capFor, LEARN_DEFAULTS, LEARN_METHODS, type LearnMethodId } from '../../../core/learn/methods'
import { startLearnWorker, type WorkerLine } from '../../../workers/client'
import { afterDrawing } from '../after-drawing'
import type { LearnFrame, LearnReply, LearnRequest, Speed } from '../../../workers/protocol'

export type LearnChoice = Omit<LearnSettings, 'run'> & { readonly method: LearnMethodId }

export interface LearnState {
  /** What the fields say … */
  readonly choice: LearnChoice
  /** … and what the run on the board was started with. */
  readonly running: LearnChoice | null
  readonly speed: Speed
  readonly window: number
  readonly frame: LearnFrame | null
  readonly optimum: number | null
  readonly failure: string | null
}

/** A learning worker and what it last said. Knows no React. */
export interface LearnSession {
  readonly store: StoreApi<LearnState>
  /** Opens a run on this model, unless one on it is going on already. */
  open(model: Model): void
  /** Takes effect at once while no step was taken, else with the next restart. */
  choose(part: Partial<LearnChoice>): void
  setSpeed(speed: Speed): void
  setWindow(episodes: number): void
  watch(state: number | null): void
  run(): void
  pause(): void
  step(unit: 'step' | 'episode'): void
  restart(): void
  close(): void
}

export function createLearnSession(document: EnvironmentDocument): LearnSession {
  const store = createStore<LearnState>()(() => ({
    choice: {
      method: 'q-learning',
      discount: document.discount,
      learningRate: LEARN_METHODS['q-learning'].defaultLearningRate,
      exploration: LEARN_DEFAULTS.exploration,
      episodes: LEARN_DEFAULTS.episodes,
      cap: capFor(document.cap),
      seed: LEARN_DEFAULTS.seed,
    },
    running: null,
    speed: 10,
    window: 50,
    frame: null,
    optimum: null,
    failure: null,
  }))
  let line: WorkerLine<LearnRequest, LearnReply> | undefined
  let session = 0
  let opened: Model | undefined

  const hear = (reply: LearnReply) => {
    if (reply.session !== session) return
    if (reply.type === 'failed') store.setState({ failure: reply.message })
    else if (reply.type === 'optimum') store.setState({ optimum: reply.optimum })
    else {
      store.setState({ frame: reply })
      afterDrawing(() => line?.post({ type: 'shown' }))
    }
  }
  const start = (current: Model) => {
    const { choice } = store.getState()
    if (!line) {
      line = startLearnWorker()
      line.listen(hear)
      line.post({ type: 'window', episodes: store.getState().window })
    }
    session++
    opened = current
    store.setState({ running: choice, frame: null, optimum: null, failure: null })
    const { method, ...settings } = choice
    line.post({ type: 'open', session, model: current, method, settings: { ...settings, run: 0 } })
  }
  return {
    store,
    open(current) {
      if (opened !== current) start(current)
    },
    choose(part) {
      const before = store.getState()
      // The learning rates of methods differ too much to be carried over.
      const rate =
        part.method && part.method !== before.choice.method
          ? { learningRate: LEARN_METHODS[part.method].defaultLearningRate }
          : {}
      store.setState({ choice: { ...before.choice, ...rate, ...part } })
      if (opened && !before.frame?.steps) start(opened)
    },
    setSpeed(speed) {
      store.setState({ speed })
      if (store.getState().frame?.running) line?.post({ type: 'run', speed })
    },
    setWindow(episodes) {
      store.setState({ window: episodes })
      line?.post({ type: 'window', episodes })
    },
    watch: (state) => line?.post({ type: 'watch', state }),
    run: () => line?.post({ type: 'run', speed: store.getState().speed }),
    pause: () => line?.post({ type: 'pause' }),
    step: (unit) => line?.post({ type: 'step', unit }),
    restart() {
      if (opened) start(opened)
    },
    close() {
      line?.close()
      line = undefined
      opened = undefined
    },
  }
}
