import { createStore, type StoreApi } from 'zustand'
import type { LandscapeScale } from '../../core/learn/landscape'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { EpisodeTable } from '../../core/learn/episode-table'
import { learnMethod } from '../../core/learn/methods/methods'
import { settingsOf, type LearnChoice } from '../../core/settings/choice'
import { modelFingerprint } from '../../core/model/fingerprint'
import type { Model } from '../../core/model/model'
import { startLearnWorker, type Connection } from '../../hosts/browser/launcher'
import { afterDrawing } from '../after-drawing'
import type {
  LearnFrame,
  LearnReply,
  LearnRequest,
  LearnUnit,
  EpisodeTruth,
  MeasuredGradient,
  ToldLandscape,
  OptimumFound,
  SavedRun,
} from '../../hosts/protocol/learn'
import type { Speed } from '../../hosts/protocol/common'
import type { PolicyFinder, PolicySource } from '../plan/policy-source'
import { firstChoice } from '../../core/settings/first-choice'
import { browserKeptRuns, readKeptRun, type KeptRunRecord, type KeptRuns } from './kept-run'
import type { RunLink } from './run-link'

/** A table that a run begins with instead of what its settings say, and what it is called. */
export interface GivenTable {
  readonly title: string
  readonly table: Float64Array
}

export interface LearnState {
  /** What the fields say … */
  readonly choice: LearnChoice
  /** … and what the run on the board was started with. */
  readonly running: LearnChoice | null
  /** The model that the run on the board meets; null before there is one. */
  readonly problem: Model | null
  /** The table that the run on the board began with. */
  readonly given: GivenTable | null
  readonly speed: Speed
  readonly window: number
  readonly frame: LearnFrame | null
  readonly optimum: OptimumFound | null
  readonly failure: string | null
  /** The episode at hand or just finished, step by step, while somebody looks at it; and the step that is looked at. */
  readonly episode: EpisodeTable | null
  readonly episodeStep: number | null
  /** How the gradient of that episode lies to the exact one. */
  readonly truth: EpisodeTruth | null
  /** What many episodes say of the gradient of the policy. */
  readonly measured: MeasuredGradient | null
  /** The value at the start over probabilities that somebody looks at. */
  readonly landscape: ToldLandscape | null
  /** What was wrong with the link that led here. */
  readonly notice: string | null
  /** The last keyframe handed out, to take the run up from. */
  readonly kept: SavedRun | null
  /** A run that stood on the board when the page went away, as long as nothing else was begun. */
  readonly broken: KeptRunRecord | null
}

/** The model that a run with this seed and number meets, where runs meet problems of their own. */
export type ProblemFinder = (seed: number, run: number) => Model

/** A learning worker and what it last said. Knows no React. */
export interface LearnSession {
  readonly store: StoreApi<LearnState>
  /** Opens a run on this model, unless one on it is going on already. */
  open(model: Model, find: PolicyFinder, problem?: ProblemFinder): void
  /** Takes effect at once while no step was taken, else with the next restart. */
  choose(part: Partial<LearnChoice>): void
  setSpeed(speed: Speed): void
  setWindow(episodes: number): void
  watch(state: number | null): void
  run(): void
  pause(): void
  step(unit: LearnUnit, way?: 'on' | 'back'): void
  go(unit: LearnUnit, count: number): void
  /** Plays on until so many steps were taken, and then goes to one of them. */
  reach(reached: number, at: number): void
  restart(): void
  /** Starts over with a table to go on from; null for the one the settings ask for. */
  restartWith(given: GivenTable | null): void
  /** Takes a run up from a keyframe. */
  takeUp(choice: LearnChoice, saved: SavedRun): void
  /** Takes up the run that stood on the board when the page went away, to the very step it was at. */
  takeUpBroken(): void
  /** Forgets that run. */
  forgetBroken(): void
  /** Asks for the episode at hand. */
  askEpisode(): void
  /** Puts the agent on the board where it was in a step of it; null for where it is. */
  showEpisodeStep(step: number | null): void
  /** Plays so many episodes with the policy as it is, to measure its gradient; 0 stops that. */
  measure(episodes: number): void
  /** Asks for the landscape over the probabilities, or preferences, of one or two actions, by rows of the model. */
  survey(rows: readonly number[], size: number, scale: LandscapeScale): void
  /** Nobody looks at it any more. */
  forgetEpisode(): void
  /** The table of the run as it is. */
  take(): Promise<Extract<LearnReply, { type: 'table' }>>
  close(): void
}

/** Runs of up to so many steps are taken again from their beginning. */
const REPLAYED = 2_000_000

/** A number that no other run of this browser has. */
function newId(): number {
  return Date.now() + Math.random()
}

/** Outcomes from which on the fingerprint of a model is left to the worker: it would hold the page up. */
const LARGE = 100_000

export function createLearnSession(
  environment: string,
  document: EnvironmentDocument,
  /** What a link asks for: settings, or what is wrong with them. */
  asked: RunLink | null = null,
  runs: KeptRuns = browserKeptRuns(),
  startWorker: () => Connection<LearnRequest, LearnReply> = startLearnWorker,
): LearnSession {
  const store = createStore<LearnState>()(() => ({
    choice: { ...firstChoice(document), ...(asked && 'choice' in asked ? asked.choice : {}) },
    running: null,
    problem: null,
    given: null,
    speed: 10,
    window: 50,
    frame: null,
    optimum: null,
    failure: null,
    episode: null,
    episodeStep: null,
    truth: null,
    measured: null,
    landscape: null,
    notice: asked && 'problem' in asked ? asked.problem : null,
    kept: null,
    broken: null,
  }))
  let connection: Connection<LearnRequest, LearnReply> | undefined
  let session = 0
  let opened: Model | undefined
  let find: PolicyFinder = () => null
  let problemOf: ProblemFinder | undefined
  let watched: number | null = null
  let fingerprint: number | undefined
  /** Whether the worker was asked for it, and who waits for its answer. */
  let asksWorker = false
  let wanting: ((fingerprint: number) => void)[] = []
  /** Which run is on the board, for what is kept of it. */
  let id = 0
  let written = ''
  let waiting: ((table: Extract<LearnReply, { type: 'table' }>) => void)[] = []

  /** Does something with the fingerprint of the model: at once, or when the worker has told it. */
  const withFingerprint = (work: (fingerprint: number) => void) => {
    if (opened && !asksWorker) fingerprint ??= modelFingerprint(opened)
    if (fingerprint === undefined) wanting.push(work)
    else work(fingerprint)
  }
  const fail = (message: string) => {
    connection?.close()
    connection = undefined
    store.setState(({ frame }) => ({
      failure: message,
      frame: frame && { ...frame, running: false },
    }))
  }
  const hear = (reply: LearnReply) => {
    if (reply.session !== session) return
    switch (reply.type) {
      case 'failed':
        return fail(reply.message)
      case 'optimum':
        return store.setState({ optimum: reply })
      case 'episode':
        return store.setState({ episode: reply.table, truth: reply.truth, episodeStep: null })
      case 'landscape':
        return store.setState({ landscape: reply })
      case 'measured':
        return store.setState({ measured: reply })
      case 'kept': {
        store.setState({ kept: reply.saved })
        const { running } = store.getState()
        const run = id
        if (running && opened)
          withFingerprint(
            (known) =>
              void runs.write('frame', environment, {
                id: run,
                fingerprint: known,
                choice: running,
                saved: reply.saved,
              }),
          )
        return
      }
      case 'fingerprint':
        fingerprint = reply.fingerprint
        for (const work of wanting.splice(0)) work(fingerprint)
        return
      case 'table':
        for (const each of waiting) each(reply)
        waiting = []
        return
      case 'frame':
        notePlace(reply)
        store.setState({ frame: reply, ...(reply.reached > reply.first ? { broken: null } : {}) })
        afterDrawing(() => connection?.post({ type: 'shown' }))
        return
      default:
        reply satisfies never
    }
  }
  /** Writes down where the run stands, so that a page that goes away comes back to it. */
  const notePlace = ({ steps, reached, first, done }: LearnFrame) => {
    const { running, given, broken } = store.getState()
    // As long as nothing was begun, what was left before stays.
    if (!running || !opened || (reached === first && broken) || reached === 0) return
    const now = `${id} ${steps} ${reached} ${done}`
    if (now === written) return
    written = now
    const run = id
    withFingerprint(
      (known) =>
        void runs.write('place', environment, {
          id: run,
          fingerprint: known,
          choice: running,
          at: steps,
          reached,
          done,
          replays: given === null,
        }),
    )
  }
  const start = (current: Model, given: GivenTable | null = null, saved: SavedRun | null = null) => {
    const { choice } = store.getState()
    if (!connection) {
      connection = startWorker()
      connection.listen(hear, () => fail('The computation failed.'))
      connection.post({ type: 'window', episodes: store.getState().window })
      connection.post({ type: 'watch', state: watched })
    }
    session++
    id = newId()
    if (opened !== current) {
      fingerprint = undefined
      wanting = []
    }
    opened = current
    waiting = []
    const problem = problemOf?.(choice.seed, choice.run) ?? current
    // It knows the problem only, which may be another one than what is written.
    asksWorker = current.outcomes > LARGE && problem === current
    store.setState({
      running: choice,
      problem,
      given,
      frame: null,
      optimum: null,
      failure: null,
      episode: null,
      episodeStep: null,
      truth: null,
      measured: null,
      landscape: null,
      kept: saved,
    })
    const { method } = choice
    connection.post({
      type: 'open',
      session,
      model: problem,
      method,
      settings: settingsOf(choice, (source) => find(source as PolicySource)),
      table: given?.table ?? null,
      saved,
      identify: asksWorker && fingerprint === undefined,
    })
  }
  return {
    store,
    open(current, finder, finderOfProblems) {
      find = finder
      problemOf = finderOfProblems
      if (opened === current) return
      start(current)
      void readKeptRun(runs, environment).then((broken) => {
        const { frame } = store.getState()
        if (!broken || opened !== current || (frame?.reached ?? 0) > 0) return
        withFingerprint((known) => {
          if (broken.place.fingerprint === known && opened === current) store.setState({ broken })
        })
      })
    },
    choose(part) {
      const { choice, frame } = store.getState()
      // The learning rates of methods differ too much to be carried over.
      const rate =
        part.method && part.method !== choice.method
          ? { learningRate: learnMethod(part.method).defaultLearningRate }
          : {}
      store.setState({ choice: { ...choice, ...rate, ...part }, notice: null })
      if (opened && !frame?.steps && !frame?.reached) start(opened)
    },
    setSpeed(speed) {
      store.setState({ speed })
      if (store.getState().frame?.running) connection?.post({ type: 'run', speed })
    },
    setWindow(episodes) {
      store.setState({ window: episodes })
      connection?.post({ type: 'window', episodes })
    },
    watch(state) {
      watched = state
      connection?.post({ type: 'watch', state })
    },
    run: () => connection?.post({ type: 'run', speed: store.getState().speed }),
    pause: () => connection?.post({ type: 'pause' }),
    step: (unit, way = 'on') => connection?.post({ type: 'step', unit, way }),
    go: (unit, count) => connection?.post({ type: 'go', unit, count }),
    reach: (reached, at) => connection?.post({ type: 'reach', reached, at }),
    restart() {
      if (opened) start(opened)
    },
    restartWith(given) {
      if (opened) start(opened, given)
    },
    takeUp(choice, saved) {
      store.setState({ choice, broken: null })
      if (opened) start(opened, null, saved)
    },
    takeUpBroken() {
      const { broken } = store.getState()
      if (!broken || !opened) return
      const { choice, reached, at, replays } = broken.place
      store.setState({ choice, broken: null })
      // Taken again from its beginning, one can go back to all of it; a long run begins at its keyframe.
      start(opened, null, replays && reached <= REPLAYED ? null : broken.saved)
      connection?.post({ type: 'reach', reached, at })
    },
    forgetBroken() {
      store.setState({ broken: null })
      void runs.forget(environment)
    },
    askEpisode: () => connection?.post({ type: 'episode' }),
    showEpisodeStep: (episodeStep) => store.setState({ episodeStep }),
    forgetEpisode: () => store.setState({ episode: null, episodeStep: null, truth: null }),
    survey: (rows, size, scale) => connection?.post({ type: 'landscape', rows, size, scale }),
    measure(episodes) {
      if (episodes > 0) store.setState({ measured: null })
      connection?.post({ type: 'measure', episodes })
    },
    take() {
      return new Promise((resolve) => {
        waiting.push(resolve)
        connection?.post({ type: 'take' })
      })
    },
    close() {
      connection?.close()
      connection = undefined
      opened = undefined
    },
  }
}
