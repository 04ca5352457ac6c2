'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { backupForm } from '../../../core/plan/backup'
import { planProblem } from '../../../core/plan/value-iteration'
import { backupWorking } from '../../../core/plan/working'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'
import { stateAt } from '../../study/selection'
import { RevealNote } from '../../study/RevealNote'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { useCovered } from '../../study/use-overlay'
import { WorkingView } from '../../working/WorkingView'

/** The controls of Plan, and the working of the selected state. */
export function PlanPanel() {
  const { plan } = useParts()
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const { discount, tolerance, frame, failure } = useStore(plan.store)
  const covered = useCovered()
  if (!compiled) return <ProblemList problems={problems} />
  const problem = frame && planProblem(frame.status)
  return (
    <div className="space-y-4">
      <section className="space-y-2">
        <h2 className="font-title text-[17px] font-semibold">Value iteration</h2>
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Discount"
            value={discount}
            min={0}
            max={1}
            hint="What a reward one step later is worth now."
            onChange={plan.setDiscount}
          />
          <NumberField
            label="Tolerance"
            value={tolerance}
            min={0}
            max={1e6}
            aboveMin
            hint="Sweeps stop when every value is guaranteed to be this close to the optimum."
            onChange={plan.setTolerance}
          />
        </div>
        <p className="text-[13px] text-ink-soft">
          In each sweep every state takes the value of its best action, computed from the values of the sweep
          before.
        </p>
      </section>
      {failure && (
        <p role="alert" className="text-alert">
          {failure}
        </p>
      )}
      {problem && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {problem}
        </p>
      )}
      {covered ? <RevealNote /> : <PlanWorking />}
    </div>
  )
}

function PlanWorking() {
  const { plan } = useParts()
  const cursor = useStudy((state) => state.cursor)
  const compiled = useModel((state) => state.compiled)
  const frame = useStore(plan.store, (state) => state.frame)
  const discount = useStore(plan.store, (state) => state.discount)
  const model = compiled?.model ?? null
  const state = stateAt(compiled, cursor)
  const wanted = state !== null
  const form = useMemo(
    () => (model && wanted ? backupForm(model, discount) : null),
    [model, wanted, discount],
  )
  if (!model || !frame || frame.values.length !== model.states) return null
  if (state === null || !form)
    return <p className="text-ink-soft">Select a state to see how its value was worked out.</p>
  return <WorkingView working={backupWorking(form, state, frame.before, frame.sweep)} />
}
