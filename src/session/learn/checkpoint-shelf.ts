import { createStore, type StoreApi } from 'zustand'
import type { Checkpoint } from '../../core/learn/checkpoint'
import { ProblemError, type Problem } from '../../core/problem'
import type { CheckpointSummary } from '../../server/contract/checkpoints'
import { takeFromBin } from '../api/bin'
import { deleteCheckpoint, keepCheckpoint, listCheckpoints, readCheckpointOf } from '../api/checkpoints'

export interface CheckpointShelfState {
  /** Null until they were asked for. */
  readonly list: readonly CheckpointSummary[] | null
  readonly problems: readonly Problem[]
  /** The one that was deleted last, as long as it can be had back. */
  readonly deleted: CheckpointSummary | null
}

/** The learned tables that were kept, those of this environment in front. Knows no React. */
export interface CheckpointShelf {
  readonly store: StoreApi<CheckpointShelfState>
  refresh(): Promise<void>
  keep(checkpoint: Checkpoint): Promise<void>
  /** Deletes one; `undo` brings it back. */
  remove(item: CheckpointSummary): Promise<void>
  undo(): Promise<void>
  /** @returns undefined, with the problems noted, when it cannot be had */
  read(id: string): Promise<Checkpoint | undefined>
  /** Notes what is wrong instead of throwing it, if it is a problem of the input. */
  attempt<T>(run: () => Promise<T> | T): Promise<T | undefined>
}

export function createCheckpointShelf(environment: string): CheckpointShelf {
  const store = createStore<CheckpointShelfState>()(() => ({
    list: null,
    problems: [],
    deleted: null,
  }))
  const attempt = async <T>(run: () => Promise<T> | T): Promise<T | undefined> => {
    try {
      store.setState({ problems: [] })
      return await run()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      store.setState({ problems: error.problems })
      return undefined
    }
  }
  const refresh = async () => {
    await attempt(async () => {
      const all = await listCheckpoints()
      const mine = (each: CheckpointSummary) => each.environment.id === environment
      store.setState({ list: [...all.filter(mine), ...all.filter((each) => !mine(each))] })
    })
  }
  return {
    store,
    refresh,
    attempt,
    async keep(checkpoint) {
      await attempt(async () => {
        const summary = await keepCheckpoint(environment, checkpoint)
        store.setState(({ list }) => ({ list: [summary, ...(list ?? [])] }))
      })
    },
    async remove(item) {
      await attempt(async () => {
        await deleteCheckpoint(item.id)
        store.setState(({ list }) => ({
          list: list && list.filter(({ id }) => id !== item.id),
          deleted: item,
        }))
      })
    },
    async undo() {
      const { deleted } = store.getState()
      if (!deleted) return
      await attempt(async () => {
        await takeFromBin('table', deleted.id)
        store.setState({ deleted: null })
      })
      await refresh()
    },
    read: (id) => attempt(() => readCheckpointOf(id)),
  }
}
