import type { Model, RowPolicy } from '../model/model'
import { ProblemError, refuse, type Problem } from '../problem'

/**
 * Reads a policy: `{"state": "action"}`, or `{"state": {"action": chance}}`, or any object with such a `policy` in
 * it, like the answer of `plan`. Endings may be left out.
 * @throws ProblemError naming every state that is missing or wrong, up to twenty
 */
export function readPolicy(model: Model, value: unknown): RowPolicy {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    refuse('policy', 'It is not an object.', 'Write {"state": "action", …}.')
  const inner = (value as { policy?: unknown }).policy
  const entries = (typeof inner === 'object' && inner !== null ? inner : value) as Record<string, unknown>
  const policy = new Float64Array(model.rows)
  const problems: Problem[] = []
  for (let s = 0; s < model.states; s++) {
    if (model.ending[s]) continue
    const label = model.labels[s]
    const entry = Object.hasOwn(entries, label) ? entries[label] : undefined
    const chances: [string, unknown][] =
      typeof entry === 'string'
        ? [[entry, 1]]
        : typeof entry === 'object' && entry !== null
          ? Object.entries(entry)
          : []
    let sum = 0
    for (const [action, chance] of chances) {
      const row = rowOf(model, s, action)
      if (row < 0 || typeof chance !== 'number' || !(chance >= 0)) {
        problems.push({
          place: `policy, state "${label}"`,
          cause:
            row < 0 ? `It has no action "${action}".` : `The chance of "${action}" is ${String(chance)}.`,
          remedy: row < 0 ? `Use one of ${actionNames(model, s).join(', ')}.` : 'Write a number from 0 to 1.',
        })
        continue
      }
      policy[row] += chance
      sum += chance
    }
    if (Math.abs(sum - 1) > 1e-9 && problems.length < 20)
      problems.push({
        place: `policy, state "${label}"`,
        cause: chances.length ? `The chances sum to ${sum}.` : 'No action is named.',
        remedy: chances.length ? 'Make them sum to 1.' : `Name one of ${actionNames(model, s).join(', ')}.`,
      })
  }
  if (problems.length) throw new ProblemError(problems.slice(0, 20))
  return policy
}

/** `{state: action}` with the first of equally good actions; endings are left out. */
export function policyObject(model: Model, policy: RowPolicy): Record<string, string> {
  return labelled(model, (s) => {
    let row = model.rowStart[s]
    for (let r = row; r < model.rowStart[s + 1]; r++) if (policy[r] > policy[row]) row = r
    return model.ending[s] ? undefined : model.actions[model.rowAction[row]]
  })
}

/** `{state: value}`; states without a number are left out. */
export function valuesObject(model: Model, values: Float64Array): Record<string, number> {
  return labelled(model, (s) => (Number.isFinite(values[s]) ? values[s] : undefined))
}

/** An object by state label; a label like "__proto__" stays an ordinary key. */
function labelled<T>(model: Model, of: (state: number) => T | undefined): Record<string, T> {
  const entries: [string, T][] = []
  for (let s = 0; s < model.states; s++) {
    const value = of(s)
    if (value !== undefined) entries.push([model.labels[s], value])
  }
  return Object.fromEntries(entries)
}

function rowOf(model: Model, state: number, action: string): number {
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
    if (model.actions[model.rowAction[r]] === action) return r
  return -1
}

function actionNames(model: Model, state: number): string[] {
  return Array.from(
    model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]),
    (action) => model.actions[action],
  )
}
