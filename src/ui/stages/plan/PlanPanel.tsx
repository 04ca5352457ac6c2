'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { backupForm } from '../../../core/plan/backup'
import { planProblem } from '../../../core/plan/planner'
import { PLAN_METHOD_IDS, PLAN_METHODS, planMethod, type PlanMethodId } from '../../../core/plan/plan-methods'
import { ranksOf, SWEEP_ORDERS, sweepSequence, type SweepOrder } from '../../../core/plan/sweep-order'
import { backupWorking } from '../../../core/plan/working'
import { Select } from '../../parts/Select'
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
  const { method: id, discount, tolerance, order, evaluations, frame, failure } = useStore(plan.store)
  const covered = useCovered()
  if (!compiled) return <ProblemList problems={problems} />
  const method = planMethod(id)
  const problem = frame && planProblem(frame.status)
  return (
    <div className="space-y-4">
      <section className="space-y-2">
        <Select
          label="Method"
          value={id}
          options={Object.fromEntries(PLAN_METHOD_IDS.map((each) => [each, PLAN_METHODS[each].title]))}
          onChange={(value) => plan.choose({ method: value as PlanMethodId })}
        />
        <p className="text-[13px] text-ink-soft" title={method.source}>
          {method.idea}
        </p>
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Discount"
            value={discount}
            min={0}
            max={1}
            hint="What a reward one step later is worth now."
            onChange={(value) => plan.choose({ discount: value })}
          />
          <NumberField
            label="Tolerance"
            value={tolerance}
            min={0}
            max={1e6}
            aboveMin
            hint="Sweeps stop when every value is guaranteed to be this close to the answer."
            onChange={(value) => plan.choose({ tolerance: value })}
          />
          {method.settings.includes('order') && (
            <Select
              label="Order of a sweep"
              value={order}
              options={SWEEP_ORDERS}
              hint="In which order the states are backed up."
              onChange={(value) => plan.choose({ order: value as SweepOrder })}
            />
          )}
          {method.settings.includes('evaluations') && (
            <NumberField
              label="Sweeps of evaluation"
              whole
              value={evaluations}
              min={1}
              max={10_000}
              hint="Before the policy is improved again."
              onChange={(value) => plan.choose({ evaluations: value })}
            />
          )}
        </div>
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
  const order = useStore(plan.store, (state) =>
    planMethod(state.method).settings.includes('order') ? state.order : null,
  )
  const model = compiled?.model ?? null
  const state = stateAt(compiled, cursor)
  const wanted = state !== null
  const form = useMemo(
    () => (model && wanted ? backupForm(model, discount) : null),
    [model, wanted, discount],
  )
  const rank = useMemo(
    () => (model && wanted && order ? ranksOf(model, sweepSequence(model, order)) : null),
    [model, wanted, order],
  )
  if (!model || !frame || frame.values.length !== model.states) return null
  if (state === null || !form)
    return <p className="text-ink-soft">Select a state to see how its value was worked out.</p>
  return <WorkingView working={backupWorking(form, state, { ...frame, rank })} />
}
