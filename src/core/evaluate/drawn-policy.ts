import type { Model, RowPolicy } from '../model/model'

/** A policy drawn by hand: `{state: action}`. */
export type DrawnPolicy = Readonly<Record<string, string>>

const known = new WeakMap<DrawnPolicy, { readonly model: Model; readonly policy: RowPolicy }>()

/**
 * The policy that was drawn: states that were not drawn, or whose action they do not have (any more), take every
 * action equally often. The same drawing of the same model is the same array.
 * @returns null when nothing is drawn
 */
export function drawnPolicy(model: Model, drawn: DrawnPolicy | undefined): RowPolicy | null {
  if (!drawn || Object.keys(drawn).length === 0) return null
  const entry = known.get(drawn)
  if (entry?.model === model) return entry.policy
  const policy = new Float64Array(model.rows)
  const actionOf = new Map(model.actions.map((action, i) => [action, i]))
  for (let s = 0; s < model.states; s++) {
    const [first, end] = [model.rowStart[s], model.rowStart[s + 1]]
    const label = model.labels[s]
    const action = Object.hasOwn(drawn, label) ? actionOf.get(drawn[label]) : undefined
    const row = action === undefined ? -1 : model.rowAction.subarray(first, end).indexOf(action)
    if (row >= 0) policy[first + row] = 1
    else policy.fill(1 / (end - first), first, end)
  }
  known.set(drawn, { model, policy })
  return policy
}

/** A drawing with one state's action set, or taken away with null. Undefined when nothing is left. */
export function withDrawn(
  drawn: DrawnPolicy | undefined,
  state: string,
  action: string | null,
): DrawnPolicy | undefined {
  const entries = Object.entries(drawn ?? {}).filter(([label]) => label !== state)
  if (action !== null) entries.push([state, action])
  return entries.length ? Object.fromEntries(entries) : undefined
}
