'use client'

import { useStore } from 'zustand'
import { learnMethod } from '../../../core/learn/methods/methods'
import { isUsed, setting, SETTING_NAMES } from '../../../core/settings/settings'
import { policySources } from '../../../session/plan/policy-sources'
import { Select } from '../../parts/Select'
import { SetApart } from '../../study/SetApart'
import { useModel, useParts } from '../../study/study-context'
import { SettingField } from './SettingField'

/** The numbers that are wanted most, and those that belong to the method. */
export function LearnFields() {
  const { learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const compiled = useModel((state) => state.compiled)
  const { settings } = learnMethod(choice.method)
  // Those with a form of their own say themselves why a method has no use for them.
  const names = SETTING_NAMES.filter((name) => {
    const { shown, type, needs } = setting(name)
    if (needs === 'levels' && !compiled?.model.actionLevels) return false
    return shown === 'first' && (type === 'own' || isUsed(name, settings))
  })
  return (
    <div className="grid grid-cols-3 items-end gap-x-3 gap-y-2">
      {names.map((name) => (
        <SettingField key={name} name={name} />
      ))}
      {settings.includes('policy') && <FollowedPolicy />}
      <SetApart
        name="Discount"
        of="discount"
        value={choice.discount}
        onTake={(discount) => learn.choose({ discount })}
      />
      <SetApart name="Step limit" of="cap" value={choice.cap} onTake={(cap) => learn.choose({ cap })} />
    </div>
  )
}

/** The policy that a prediction method evaluates. */
function FollowedPolicy() {
  const { learn } = useParts()
  const source = useStore(learn.store, (state) => state.choice.source)
  const compiled = useModel((state) => state.compiled)
  return (
    compiled && (
      <Select
        label="Policy"
        value={source}
        // What was learned here cannot be followed here: it would change while it is evaluated.
        options={policySources(compiled, null)}
        hint="The policy that is followed and evaluated."
        onChange={(next) => learn.choose({ source: next })}
      />
    )
  )
}
