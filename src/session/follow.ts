/** Something that changes and says so: a store. */
export interface Source {
  subscribe(listener: () => void): () => void
}

/**
 * Runs something now, and again whenever one of the values that it depends on has become another one. What a run
 * gives back is called before the next one, and in the end.
 * @returns stops it
 */
export function follow<T extends readonly unknown[]>(
  sources: readonly Source[],
  read: () => T,
  run: (...values: [...T]) => void | (() => void),
): () => void {
  let values: T | undefined
  let undo: void | (() => void)
  const look = () => {
    const now = read()
    if (values && now.every((value, i) => Object.is(value, values![i]))) return
    // What is run may itself change a source: it is then looked at again, with the new values in place.
    values = now
    undo?.()
    undo = undefined
    const next = run(...(now as unknown as [...T]))
    if (values === now) undo = next
    else next?.()
  }
  const stops = sources.map((source) => source.subscribe(look))
  look()
  return () => {
    for (const stop of stops) stop()
    undo?.()
  }
}
