import { createStore, type StoreApi } from 'zustand'
import { playTrial, type TrialEpisode, type Trials, type TrialSettings } from '../../core/evaluate/rollout'
import { World } from '../../core/learn/world'
import type { Model, RowPolicy } from '../../core/model/model'
import type { Measure } from '../../core/model/space'
import { startTrialsWorker, type Connection } from '../../hosts/browser/launcher'
import type { TrialsReply, TrialsRequest } from '../../hosts/protocol/trials'

/** A policy and what its trials came to. */
export interface Contestant {
  readonly title: string
  readonly policy: RowPolicy
  readonly trials: Trials
}

/** A trial that is being looked at. */
export interface WatchedTrial {
  readonly title: string
  /** The number of the trial, from 0. */
  readonly number: number
  readonly episode: TrialEpisode
  /** Steps taken so far. */
  readonly at: number
}

export interface TrialsState {
  readonly settings: TrialSettings | null
  readonly measures: readonly Measure[]
  readonly contestants: readonly Contestant[]
  readonly running: boolean
  readonly failure: string | null
  readonly watched: WatchedTrial | null
}

/** Episodes without learning, of several policies on the same seeds. Knows no React. */
export interface TrialsSession {
  readonly store: StoreApi<TrialsState>
  start(
    model: Model,
    settings: TrialSettings,
    contestants: TrialsRequest['contestants'],
    measures: readonly Measure[],
  ): void
  stop(): void
  /** Forgets everything: another model is on the board. */
  clear(): void
  /** Puts one trial of a contestant on the board; null takes it off. */
  watch(trial: { readonly model: Model; readonly title: string; readonly number: number } | null): void
  /** To after so many steps of the trial that is watched. */
  go(at: number): void
}

export function createTrialsSession(
  startWorker: () => Connection<TrialsRequest, TrialsReply> = startTrialsWorker,
): TrialsSession {
  const store = createStore<TrialsState>()(() => ({
    settings: null,
    measures: [],
    contestants: [],
    running: false,
    failure: null,
    watched: null,
  }))
  let connection: Connection<TrialsRequest, TrialsReply> | undefined
  let session = 0
  const stop = () => {
    connection?.close()
    connection = undefined
    session++
    if (store.getState().running) store.setState({ running: false })
  }
  return {
    store,
    start(model, settings, contestants, measures) {
      stop()
      store.setState({ settings, measures, contestants: [], running: true, failure: null, watched: null })
      const mine = session
      const fail = (failure: string) => {
        stop()
        store.setState({ failure })
      }
      connection = startWorker()
      connection.listen(
        (reply) => {
          if (reply.session !== mine || mine !== session) return
          if (reply.type === 'failed') fail(reply.message)
          else if (reply.type === 'finished') stop()
          else store.setState((state) => ({ contestants: [...state.contestants, reply] }))
        },
        () => fail('The computation failed.'),
      )
      connection.post({ session: mine, model, settings, measures, contestants })
    },
    stop,
    clear() {
      stop()
      const { contestants, watched, failure } = store.getState()
      if (contestants.length || watched || failure)
        store.setState({ settings: null, contestants: [], watched: null, failure: null })
    },
    watch(trial) {
      const { settings, contestants, watched } = store.getState()
      const contestant = contestants.find(({ title }) => title === trial?.title)
      if (!trial || !settings || !contestant) {
        if (watched) store.setState({ watched: null })
        return
      }
      const number = Math.max(0, Math.min(settings.episodes - 1, trial.number))
      const episode = playTrial(new World(trial.model), contestant.policy, settings, number)
      store.setState({ watched: { title: trial.title, number, episode, at: 0 } })
    },
    go(at) {
      const { watched } = store.getState()
      if (!watched) return
      const to = Math.max(0, Math.min(watched.episode.rows.length, at))
      if (to !== watched.at) store.setState({ watched: { ...watched, at: to } })
    },
  }
}
