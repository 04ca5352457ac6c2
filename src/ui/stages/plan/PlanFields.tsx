'use client'

import { useStore } from 'zustand'
import { planMethod, usesPlanSetting } from '../../../core/plan/plan-methods'
import { PLAN_SETTING_NAMES, PLAN_SETTINGS } from '../../../core/plan/plan-settings'
import { EntryField } from '../../parts/EntryField'
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
  const choice = useStore(plan.store)
  const { method, discount, source } = choice
  const { settings } = planMethod(method)
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
        <span className="sr-only">Discount, as a slider</span>
        <input
          type="range"
          className="mb-1.5 w-full"
          min={0}
          max={1}
          step={0.005}
          value={discount}
          aria-label="Slide the discount"
          title="After a plan to the end the plan follows as it moves."
          onChange={(event) => plan.choose({ discount: Number(event.target.value) })}
        />
      </label>
      <SetApart
        name="Discount"
        of="discount"
        value={discount}
        onTake={(own) => plan.choose({ discount: own })}
      />
      {PLAN_SETTING_NAMES.map(
        (name) =>
          usesPlanSetting(planMethod(method), name) && (
            <EntryField
              key={name}
              entry={PLAN_SETTINGS[name]}
              value={choice[name]}
              onChange={(value) => plan.choose({ [name]: value })}
            />
          ),
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
