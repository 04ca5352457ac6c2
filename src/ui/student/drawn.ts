import type { Seen } from '../../core/exercise/seen'

/** By the number of a place, the action chosen there. */
export type Drawn = Readonly<Record<number, string>>

/** What was kept of a drawing, as far as it still fits. */
export function readDrawn({ states }: Seen, text: string): Drawn {
  let kept: unknown
  try {
    kept = JSON.parse(text)
  } catch {
    return {}
  }
  return Object.fromEntries(
    states.flatMap(({ actions }, i) => {
      const action = (kept as Record<string, unknown> | null)?.[i]
      return typeof action === 'string' && actions.includes(action) ? [[i, action]] : []
    }),
  )
}

/** The policy, as it is handed in: by state, its action. */
export function drawnJson({ states }: Seen, drawn: Drawn): string {
  return JSON.stringify({
    policy: Object.fromEntries(
      states.flatMap(({ states: names }, i) =>
        drawn[i] === undefined ? [] : names.map((name) => [name, drawn[i]]),
      ),
    ),
  })
}

/** Every action there is, in the order they are met. */
export function actionsOf({ states }: Seen): string[] {
  return [...new Set(states.flatMap(({ actions }) => actions))]
}

/** Gives an action to every place that has none yet and can take it. */
export function filled({ states }: Seen, drawn: Drawn, action: string): Drawn {
  return Object.fromEntries(
    states.flatMap(({ actions }, i) => {
      const chosen = drawn[i] ?? (actions.includes(action) ? action : undefined)
      return chosen === undefined ? [] : [[i, chosen]]
    }),
  )
}
