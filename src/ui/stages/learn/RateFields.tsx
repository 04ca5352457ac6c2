'use client'

import { useStore } from 'zustand'
import { learnMethod } from '../../../core/learn/methods/methods'
import { SETTINGS } from '../../../core/settings/settings'
import { NumberField } from '../../parts/NumberField'
import { useParts } from '../../study/study-context'
import { ScheduleFields } from './ScheduleFields'

/** The largest rate that makes sense: the step of a table of values goes no further than its target. */
function mostOf(holds: string): number {
  return holds === 'preferences' ? 1000 : 1
}

/** The learning rate at first. */
export function RateField() {
  const { learn } = useParts()
  const { method, learningRate } = useStore(learn.store, (state) => state.choice)
  const { settings, tableHolds } = learnMethod(method)
  const { label, hint } = SETTINGS.learningRate
  if (!settings.includes('learningRate'))
    return (
      <NumberField
        label={label}
        value={1}
        min={0}
        max={1}
        disabled
        hint="This method uses the mean of everything it has seen: it has no learning rate."
        onChange={() => {}}
      />
    )
  return (
    <NumberField
      label={learningRate.kind === 'constant' ? label : `${label}, at first`}
      value={learningRate.from}
      min={0}
      max={mostOf(tableHolds)}
      aboveMin
      hint={hint}
      onChange={(from) => learn.choose({ learningRate: { ...learningRate, from } })}
    />
  )
}

/** How the learning rate changes. */
export function RateSchedule() {
  const { learn } = useParts()
  const { method, learningRate, episodes } = useStore(learn.store, (state) => state.choice)
  return (
    <ScheduleFields
      of={SETTINGS.learningRate.label}
      schedule={learningRate}
      episodes={episodes}
      min={0}
      max={mostOf(learnMethod(method).tableHolds)}
      aboveMin
      isRate
      floor={0.01}
      onChange={(next) => learn.choose({ learningRate: next })}
    />
  )
}
