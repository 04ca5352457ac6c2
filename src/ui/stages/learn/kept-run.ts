import { createStore, del, get, set, type UseStore } from 'idb-keyval'
import type { LearnChoice } from '../../../core/learn/settings-schema'
import type { SavedRun } from '../../../workers/protocol'

/** A run that was going on when its page went away. */
export interface KeptRunRecord {
  /** Of the model it ran on. */
  readonly fingerprint: number
  readonly choice: LearnChoice
  readonly saved: SavedRun
}

/** Where browsers keep it: on this machine, one run for each environment. Without a database nothing is kept. */
export interface KeptRuns {
  read(environment: string): Promise<KeptRunRecord | undefined>
  write(environment: string, record: KeptRunRecord): Promise<void>
  forget(environment: string): Promise<void>
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
  return {
    read: (environment) => run((database) => get<KeptRunRecord>(environment, database)),
    write: async (environment, record) => void (await run((database) => set(environment, record, database))),
    forget: async (environment) => void (await run((database) => del(environment, database))),
  }
}
