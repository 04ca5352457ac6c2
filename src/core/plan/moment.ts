import type { RowPolicy } from '../model/model'
import { actionValues, greedyPolicy } from './backup'
import type { Planner } from './planner'

/**
 * What a planner knows when only the first `done` entries of its last sweep have been made: all there is to see at
 * that moment. A sweep keeps what was before it, so that any moment of it can be had without computing it again.
 */

/** How many entries of the last sweep count as made: all when `done` is null. */
export function entriesMade({ sequence }: Planner, done: number | null): number {
  return done === null ? sequence.length : Math.min(done, sequence.length)
}

/** [states] the values at a moment; a copy. */
export function valuesAt(planner: Planner, done: number | null): Float64Array {
  const { sequence, logged, values, before, table, model } = planner
  const made = entriesMade(planner, done)
  if (made === sequence.length) return values.slice()
  const mixed = before.slice()
  if (table) {
    // A state's value is its best entry, of those that are new and those that are old.
    const entries = tableAt(planner, done)!
    for (let i = 0; i < made; i++) {
      const s = stateOfRow(planner, sequence[i])
      mixed[s] = -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        mixed[s] = Math.max(mixed[s], entries[r])
    }
  } else for (let i = 0; i < made; i++) mixed[sequence[i]] = logged ? logged[i] : values[sequence[i]]
  return mixed
}

/** [rows] the table at a moment; a copy, null for methods that keep none. */
export function tableAt({ table, tableBefore, sequence }: Planner, done: number | null): Float64Array | null {
  if (!table || done === null || done >= sequence.length) return table?.slice() ?? null
  const mixed = tableBefore!.slice()
  for (let i = 0; i < done; i++) mixed[sequence[i]] = table[sequence[i]]
  return mixed
}

/** [rows] the policy that is held at a moment; a copy, null for methods that hold none. */
export function policyAt(planner: Planner, done: number | null): RowPolicy | null {
  const { policy, policyBefore, sequence, model, phase } = planner
  if (!policy) return null
  const made = entriesMade(planner, done)
  if (!policyBefore || made === sequence.length || phase === 'evaluate') return policy.slice()
  const mixed = policyBefore.slice()
  for (let i = 0; i < made; i++)
    for (let r = model.rowStart[sequence[i]]; r < model.rowStart[sequence[i] + 1]; r++) mixed[r] = policy[r]
  return mixed
}

/**
 * [rows] what every action is worth at a moment: the table of methods that keep one, else the backups on the values.
 * With a finite horizon the actions look at the values with one step less to go.
 */
export function actionValuesAt(planner: Planner, done: number | null, staged: boolean): Float64Array {
  return (
    tableAt(planner, done) ??
    actionValues(planner.form, staged && planner.sweeps > 0 ? planner.before : valuesAt(planner, done))
  )
}

/** Backups of a single action up to a moment. */
export function backupsAt(planner: Planner, done: number | null): number {
  const made = entriesMade(planner, done)
  if (made === planner.sequence.length) return planner.backups
  let backups = planner.backupsBefore
  for (let i = 0; i < made; i++) backups += planner.costOf(planner.sequence[i])
  return backups
}

/** The state that was backed up last at a moment, -1 when none was. */
export function lastBackedUp(planner: Planner, done: number | null): number {
  const made = entriesMade(planner, done)
  if (made === 0) return -1
  const entry = planner.sequence[made - 1]
  return planner.table ? stateOfRow(planner, entry) : entry
}

/** Where in the sweep a state was last backed up before a moment; -1 where it was not. */
export function lastPlaceOf(planner: Planner, state: number, done: number | null): number {
  const { sequence, table, model } = planner
  for (let i = entriesMade(planner, done) - 1; i >= 0; i--) {
    const entry = sequence[i]
    if (table ? entry >= model.rowStart[state] && entry < model.rowStart[state + 1] : entry === state)
      return i
  }
  return -1
}

/** The policy the last sweep began with, for showing what turned: the one held, or the greedy one of the values. */
export function policyBeforeAt(planner: Planner, staged: boolean): RowPolicy | null {
  if (planner.sweeps === 0 || staged) return null
  if (planner.policyBefore) return planner.policyBefore.slice()
  if (planner.policy) return null
  const rowValues = planner.tableBefore ?? actionValues(planner.form, planner.before)
  return greedyPolicy(planner.model.rowStart, rowValues)
}

function stateOfRow({ model: { rowStart } }: Planner, row: number): number {
  let low = 0
  let high = rowStart.length - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (rowStart[middle] <= row) low = middle
    else high = middle
  }
  // Endings have no rows: the last state that begins here is the one.
  while (rowStart[low + 1] === rowStart[low]) low++
  return low
}
