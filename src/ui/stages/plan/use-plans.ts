import { useEffect } from 'react'
import { useStore } from 'zustand'
import { cursorOf, stateAt } from '../../study/selection'
import { useModel, useParts, useStudy } from '../../study/study-context'
import type { PlanChoice } from './plan-session'
import type { PolicyFinder } from './policy-source'
import { findPolicy } from './policy-sources'

/** Keeps the plans with the model on the board, with the selected state, and with each other. */
export function usePlans(): void {
  const { study, plan, beside, drive, learn } = useParts()
  const compiled = useModel((state) => state.compiled)
  const shown = useStudy((state) => state.stage === 'plan')
  const building = useStudy((state) => state.stage === 'build' && state.planned)
  const drawn = useStudy((state) => state.document.policy)
  const cursor = useStudy((state) => state.cursor)
  const second = useStore(plan.store, (state) => state.beside)

  useEffect(() => {
    if (!compiled || !(shown || building)) return
    const find: PolicyFinder = (source) => findPolicy(source, compiled, study.getState().document, learn)
    plan.open(compiled.model, find)
    if (building) plan.follow()
    if (building || second === null) return
    const openSecond = () => {
      const { discount, tolerance, order, evaluations, evaluation, horizon, source } = plan.store.getState()
      const choice: PlanChoice = {
        method: second,
        discount,
        tolerance,
        order,
        evaluations,
        evaluation,
        horizon,
        source,
      }
      const differing = Object.entries(choice).filter(
        ([key, value]) => beside.store.getState()[key as keyof PlanChoice] !== value,
      )
      if (differing.length) beside.choose(Object.fromEntries(differing))
      beside.open(compiled.model, find)
    }
    openSecond()
    const stops = [plan.store.subscribe(openSecond), drive.keep()]
    return () => stops.forEach((stop) => stop())
  }, [study, plan, beside, drive, learn, compiled, shown, building, drawn, second])

  useEffect(() => {
    plan.watch(stateAt(compiled, cursor))
  }, [plan, compiled, cursor])

  // Going by single backups, the selection goes along, and the working with it.
  useEffect(
    () =>
      plan.store.subscribe(({ frame }, before) => {
        if (!compiled || !frame || frame.current < 0 || frame.current === before.frame?.current) return
        const { stage, cursor, select } = study.getState()
        const next = cursorOf(compiled, frame.current)
        if (stage === 'plan' && next !== cursor) select(next)
      }),
    [study, plan, compiled],
  )

  useEffect(
    () => () => {
      plan.close()
      beside.close()
    },
    [plan, beside],
  )
}
