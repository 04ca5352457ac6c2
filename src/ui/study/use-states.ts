import { useMemo, useSyncExternalStore } from 'react'

/** A store, whatever it holds. */
export interface StateSource {
  getState(): unknown
  subscribe(listener: () => void): () => void
}

/** The states of several stores: the same list as long as none of them changes. @param stores  the same list each time */
export function useStates(stores: readonly StateSource[]): readonly unknown[] {
  const joined = useMemo(() => join(stores), [stores])
  return useSyncExternalStore(joined.subscribe, joined.read, joined.read)
}

function join(stores: readonly StateSource[]) {
  let last: readonly unknown[] = []
  return {
    subscribe(listener: () => void) {
      const stops = stores.map((store) => store.subscribe(listener))
      return () => stops.forEach((stop) => stop())
    },
    read() {
      const states = stores.map((store) => store.getState())
      if (states.length !== last.length || states.some((state, i) => state !== last[i])) last = states
      return last
    },
  }
}
