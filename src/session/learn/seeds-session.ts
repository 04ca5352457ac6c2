import { createStore, type StoreApi } from 'zustand'
import { seedsEpisodes, type RunSummary } from '../../core/learn/seeds'
import { isDrawnAnew } from '../../core/environment/problem-of-run'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { completeChoice, settingsOf, type LearnChoice } from '../../core/settings/choice'
import type { Model, RowPolicy } from '../../core/model/model'
import { modelFingerprint } from '../../core/model/fingerprint'
import { startSeedsWorker, type Connection } from '../../hosts/browser/launcher'
import type { SeedsReply, SeedsRequest } from '../../hosts/protocol/seeds'
import { browserKeptRuns, type KeptRuns } from './kept-run'

export interface SeedsState {
  /** How many runs there are to be. */
  readonly size: number
  /** The settings of the runs; null before there were any. */
  readonly choice: LearnChoice | null
  readonly model: Model | null
  readonly episodes: Float64Array
  readonly window: number
  /** The runs that are done, by number. */
  readonly runs: readonly RunSummary[]
  readonly running: boolean
  readonly failure: string | null
  /** The run whose curve is drawn besides the band. */
  readonly shown: number | null
  /** Whether the band lies over the strip. */
  readonly drawn: boolean
}

/** Many runs with the same settings, on all cores. Knows no React. */
export interface SeedsSession {
  readonly store: StoreApi<SeedsState>
  /** Shows the runs that were here when the page went away, if they ran on this model and there are no others. */
  open(model: Model): void
  start(
    model: Model,
    choice: LearnChoice,
    size: number,
    rest: {
      policy: RowPolicy | null
      table: Float64Array | null
      window: number
      document?: EnvironmentDocument
    },
  ): void
  stop(): void
  show(run: number | null): void
  setDrawn(drawn: boolean): void
}

export function createSeedsSession(
  environment: string,
  kept: KeptRuns = browserKeptRuns(),
  cores: () => number = () => navigator.hardwareConcurrency || 2,
  startWorker: () => Connection<SeedsRequest, SeedsReply> = startSeedsWorker,
): SeedsSession {
  const store = createStore<SeedsState>()(() => ({
    size: 30,
    choice: null,
    model: null,
    episodes: new Float64Array(0),
    window: 50,
    runs: [],
    running: false,
    failure: null,
    shown: null,
    drawn: true,
  }))
  let connections: Connection<SeedsRequest, SeedsReply>[] = []
  let session = 0
  const stop = () => {
    for (const connection of connections) connection.close()
    connections = []
    session++
    store.setState({ running: false })
  }
  const keep = () => {
    const { model, choice, size, episodes, window, runs } = store.getState()
    if (!model || !choice || runs.length === 0) return
    void kept.write('seeds', environment, {
      fingerprint: modelFingerprint(model),
      choice,
      size,
      episodes,
      window,
      runs,
    })
  }
  return {
    store,
    open(model) {
      if (store.getState().choice) return
      void kept.read('seeds', environment).then((seeds) => {
        if (!seeds || store.getState().choice || seeds.fingerprint !== modelFingerprint(model)) return
        const { fingerprint: _, ...state } = seeds
        store.setState({ ...state, choice: completeChoice(state.choice), model })
      })
    },
    start(model, choice, size, { policy, table, window, document }) {
      stop()
      const episodes = seedsEpisodes(choice.episodes)
      store.setState({
        size,
        choice,
        model,
        episodes,
        window,
        runs: [],
        running: true,
        failure: null,
        shown: null,
      })
      const mine = session
      let next = 0
      const { method } = choice
      connections = Array.from({ length: Math.max(1, Math.min(size, cores())) }, () => {
        const connection = startWorker()
        const more = () => {
          if (next < size) connection.post({ type: 'run', run: next++ })
        }
        const fail = (failure: string) => {
          if (mine !== session) return
          stop()
          store.setState({ failure })
        }
        connection.listen(
          (reply) => {
            if (reply.session !== mine || mine !== session) return
            if (reply.type === 'failed') return fail(reply.message)
            const runs = [...store.getState().runs, reply.summary].sort((x, y) => x.run - y.run)
            store.setState({ runs })
            if (runs.length === size) {
              stop()
              keep()
            } else more()
          },
          () => fail('The computation failed.'),
        )
        connection.post({
          type: 'open',
          session: mine,
          model,
          document: document && isDrawnAnew(document) ? document : null,
          method,
          settings: settingsOf(choice, () => policy),
          table,
          episodes,
          window,
        })
        more()
        return connection
      })
    },
    stop,
    show: (shown) => store.setState({ shown }),
    setDrawn: (drawn) => store.setState({ drawn }),
  }
}
