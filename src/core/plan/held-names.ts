import type { HeldPlan } from './difference'

/** A held plan by names, as it is written down. */
export interface NamedHeld {
  /** What it was. */
  readonly title: string
  /** By state, endings among them; those without a finite value are left out. */
  readonly values: Readonly<Record<string, number>>
  /** By state that is no ending, the chances of its actions; impossible ones are left out, all others named. */
  readonly policy: Readonly<Record<string, Readonly<Record<string, number>>>>
}

/** States of a plan that is written down at the most. */
export const MOST_HELD = 5000

/** @returns null for one of too many states */
export function heldByNames({
  title,
  model,
  values,
  policy,
}: HeldPlan & { readonly title: string }): NamedHeld | null {
  const { labels, actions, ending, rowStart, rowAction } = model
  if (labels.length > MOST_HELD) return null
  const states = labels.map((_, s) => s).filter((s) => Number.isFinite(values[s]))
  return {
    title,
    values: Object.fromEntries(states.map((s) => [labels[s], values[s]])),
    policy: Object.fromEntries(
      states
        .filter((s) => !ending[s])
        .map((s) => [
          labels[s],
          Object.fromEntries(
            Array.from(rowAction.subarray(rowStart[s], rowStart[s + 1]), (action, i) => [
              actions[action],
              policy[rowStart[s] + i],
            ]),
          ),
        ]),
    ),
  }
}

export function heldFromNames({ title, values, policy }: NamedHeld): HeldPlan & { readonly title: string } {
  const labels = Object.keys(values)
  const rows = labels.map((label) => (Object.hasOwn(policy, label) ? Object.entries(policy[label]) : []))
  const actions = [...new Set(rows.flatMap((each) => each.map(([action]) => action)))]
  const numbers = new Map(actions.map((action, i) => [action, i]))
  const rowStart = new Int32Array(labels.length + 1)
  rows.forEach((each, s) => (rowStart[s + 1] = rowStart[s] + each.length))
  return {
    title,
    model: {
      labels,
      actions,
      ending: Uint8Array.from(rows, ({ length }) => (length === 0 ? 1 : 0)),
      rowStart,
      rowAction: Int32Array.from(rows.flatMap((each) => each.map(([action]) => numbers.get(action)!))),
    },
    values: Float64Array.from(Object.values(values)),
    policy: Float64Array.from(rows.flatMap((each) => each.map(([, chance]) => chance))),
  }
}
