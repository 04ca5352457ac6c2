import { useMemo } from 'react'
import { useStore } from 'zustand'
import type { Walk } from '../../../core/check/walk'
import { walkSteps, type WalkStep } from '../../../core/check/walk-steps'
import type { Happenings } from '../../../core/kinds/happening'
import { inspectionOf } from '../../../core/kinds/inspections'
import type { Compiled } from '../../../core/kinds/kinds'
import { stateWalked, walkOf } from '../../../session/check/check-session'
import { useModel, useParts, useStudy } from '../../study/study-context'

/** What is walked on the board, step by step; null while there is no model. */
export function useWalk(): {
  readonly compiled: Compiled
  readonly happenings: Happenings
  readonly walk: Walk
  readonly steps: readonly WalkStep[]
  /** Steps taken, and the state that leads to. */
  readonly at: number
  readonly state: number
} | null {
  const { check } = useParts()
  const compiled = useModel((state) => state.compiled)
  const source = useModel((state) => state.source)
  const discount = useStudy((state) => state.document.discount)
  const state = useStore(check.store)
  const happenings = useMemo(
    () => (compiled && source ? remembered(inspectionOf(source).happenings(source, compiled)) : null),
    [compiled, source],
  )
  const walk = walkOf(state)
  const fits = compiled !== null && walk !== null && fitsModel(compiled, walk)
  const steps = useMemo(
    () => (fits && happenings ? walkSteps(compiled.model, happenings, walk, discount) : []),
    [fits, compiled, happenings, walk, discount],
  )
  if (!fits || !happenings) return null
  return { compiled, happenings, walk, steps, at: state.at, state: stateWalked(compiled.model, state)! }
}

/** Rows whose ways are kept. */
const KEPT = 500

/** The ways of rows that were asked for before are not worked out again: a walk asks for all of its rows at every step. */
function remembered(happenings: Happenings): Happenings {
  const known = new Map<number, ReturnType<Happenings>>()
  return (row) => {
    const ways = known.get(row) ?? happenings(row)
    if (known.size > KEPT) known.clear()
    known.set(row, ways)
    return ways
  }
}

/** Whether a walk is one of this model; for a moment it may be of the one before. */
function fitsModel({ model }: Compiled, { start, outcomes }: Walk): boolean {
  return start < model.states && outcomes.every((outcome) => outcome < model.outcomes)
}
