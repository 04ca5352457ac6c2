import { createStore, del, get, set, type UseStore } from 'idb-keyval'
import type { Agent } from '../../core/compare/agents'
import type { Contestant } from '../../core/compare/contestant'
import type { LearningRun } from '../../core/compare/learning-runs'
import type { PullSums } from '../../core/compare/pull-sums'
import type { RunSummary } from '../../core/learn/seeds'
import { completeChoice, type LearnChoice } from '../../core/settings/choice'
import type { SavedRun } from '../../hosts/protocol/learn'

/** Which run it is: settings alone do not say, as a table may have been given. */
interface RunMark {
  readonly id: number
  /** Of the model it ran on. */
  readonly fingerprint: number
  readonly choice: LearnChoice
}

/** A keyframe of a run. */
export interface KeptFrame extends RunMark {
  readonly saved: SavedRun
}

/** Where a run stood: small, and written at every turn. */
export interface KeptPlace extends RunMark {
  /** Steps at the moment on the board, and at the furthest one. */
  readonly at: number
  readonly reached: number
  readonly done: boolean
  /** Whether it can be taken again from its settings alone; else it takes a keyframe. */
  readonly replays: boolean
}

/** A run that stood on the board when its page went away. */
export interface KeptRunRecord {
  readonly place: KeptPlace
  /** The last keyframe; null when there was none yet. */
  readonly saved: SavedRun | null
}

/** Many runs with the same settings, as they were when their page went away. */
export interface KeptSeeds {
  readonly fingerprint: number
  readonly choice: LearnChoice
  readonly size: number
  readonly episodes: Float64Array
  readonly window: number
  readonly runs: readonly RunSummary[]
}

/** Agents that are compared, with what came of their runs. */
export interface KeptAgents {
  readonly agents: readonly Agent[]
  readonly runs: number
  readonly pulls: number
  readonly range: { readonly from: number; readonly to: number }
  readonly results: Readonly<Record<string, PullSums>>
}

/** Runs of the contestants of Compare. */
export interface KeptComparison {
  /** Of versions of the program that kept the contestants here too. */
  readonly contestants?: readonly Contestant[]
  readonly runs?: number
  readonly results: Readonly<Record<string, readonly LearningRun[]>>
  /** By job of the server, up to where its runs are among them. */
  readonly taken?: Readonly<Record<string, number>>
}

/** What a browser keeps of runs, for each environment; any that is missing is undefined. */
interface Kept {
  readonly frame: KeptFrame
  readonly place: KeptPlace
  readonly seeds: KeptSeeds
  readonly agents: KeptAgents
  readonly comparison: KeptComparison
}

/** Where browsers keep it: on this machine, one run for each environment. Without a database nothing is kept. */
export interface KeptRuns {
  read<K extends keyof Kept>(what: K, environment: string): Promise<Kept[K] | undefined>
  write<K extends keyof Kept>(what: K, environment: string, record: Kept[K]): Promise<void>
  forget(environment: string): Promise<void>
}

/** The run that was left, from what was kept of it. */
export async function readKeptRun(runs: KeptRuns, environment: string): Promise<KeptRunRecord | undefined> {
  const [place, frame] = await Promise.all([runs.read('place', environment), runs.read('frame', environment)])
  if (!place) return undefined
  const saved = frame?.id === place.id && frame.saved.snapshot.status ? frame.saved : null
  return saved || place.replays
    ? { place: { ...place, choice: completeChoice(place.choice) }, saved }
    : undefined
}

export function browserKeptRuns(): KeptRuns {
  let store: UseStore | undefined
  const run = async <T>(work: (store: UseStore) => Promise<T>): Promise<T | undefined> => {
    try {
      store ??= createStore('jaunty-pawn', 'runs')
      return await work(store)
    } catch {
      // Private windows and full disks: the run goes on all the same.
      return undefined
    }
  }
  const key = (what: keyof Kept, environment: string) => `${environment}/${what}`
  return {
    read: (what, environment) => run((database) => get(key(what, environment), database)),
    write: async (what, environment, record) =>
      void (await run((database) => set(key(what, environment), record, database))),
    forget: async (environment) => {
      for (const what of ['frame', 'place'] as const)
        await run((database) => del(key(what, environment), database))
    },
  }
}
