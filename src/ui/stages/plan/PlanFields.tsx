'use client'

import { useStore } from 'zustand'
import { planMethod } from '../../../core/plan/plan-methods'
import { EVALUATING, type Evaluating } from '../../../core/plan/planner'
import { SWEEP_ORDERS, type SweepOrder } from '../../../core/plan/sweep-order'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { SetApart } from '../../study/SetApart'
import { useModel, useParts } from '../../study/study-context'
import type { PolicySource } from '../../../session/plan/policy-source'
import { learnedPolicy, policySources } from '../../../session/plan/policy-sources'

/** The numbers and choices of a method of planning. */
export function PlanFields() {
  const { plan, learn } = useParts()
  const compiled = useModel((state) => state.compiled)
  const { method, discount, tolerance, order, evaluations, evaluation, horizon, source } = useStore(
    plan.store,
  )
  const { settings, staged } = planMethod(method)
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <NumberField
        label="Discount"
        value={discount}
        min={0}
        max={1}
        hint="What a reward one step later is worth now."
        onChange={(value) => plan.choose({ discount: value })}
      />
      <label className="flex flex-col justify-end text-[13px] text-ink-soft">
        <span className="sr-only">Discount, slid</span>
        <input
          type="range"
          className="mb-1.5 w-full"
          min={0}
          max={1}
          step={0.005}
          value={discount}
          aria-label="Slide the discount"
          title="Slide it after a plan to the end: the plan follows."
          onChange={(event) => plan.choose({ discount: Number(event.target.value) })}
        />
      </label>
      <SetApart
        name="Discount"
        of="discount"
        value={discount}
        onTake={(own) => plan.choose({ discount: own })}
      />
      {staged ? (
        <NumberField
          label="Horizon"
          unit="steps"
          whole
          value={horizon}
          min={1}
          max={100_000}
          hint="How many steps an episode lasts."
          onChange={(value) => plan.choose({ horizon: value })}
        />
      ) : (
        <NumberField
          label="Tolerance"
          value={tolerance}
          min={0}
          max={1e6}
          aboveMin
          hint="Sweeps stop when every value is guaranteed to be this close to the answer."
          onChange={(value) => plan.choose({ tolerance: value })}
        />
      )}
      {settings.includes('order') && (
        <Select
          label="Order of a sweep"
          value={order}
          options={SWEEP_ORDERS}
          hint="In which order the states are backed up."
          onChange={(value) => plan.choose({ order: value as SweepOrder })}
        />
      )}
      {settings.includes('evaluations') && (
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
      {settings.includes('evaluation') && (
        <Select
          label="Evaluates"
          value={evaluation}
          options={EVALUATING}
          hint="How the policy is evaluated. A linear solve counts no backups."
          onChange={(value) => plan.choose({ evaluation: value as Evaluating })}
        />
      )}
      {settings.includes('policy') && compiled && (
        <Select
          label={planMethod(method).purpose === 'prediction' ? 'Policy' : 'Policy to begin with'}
          value={source}
          options={policySources(compiled, learnedPolicy(compiled, learn))}
          hint="Where the policy comes from."
          onChange={(value) => plan.choose({ source: value as PolicySource })}
        />
      )}
    </div>
  )
}
