'use client'

import { useStore } from 'zustand'
import { learnMethod } from '../../../core/learn/methods/methods'
import { usesCritic } from '../../../core/settings/choice'
import { isUsed, SETTINGS } from '../../../core/settings/settings'
import { NumberField } from '../../parts/NumberField'
import { useParts } from '../../study/study-context'
import { ScheduleFields } from './ScheduleFields'

/** The settings that are learning rates. */
type RateName = 'learningRate' | 'criticRate'

/** The largest rate that makes sense: the step of a table of values goes no further than its target. */
function mostOf(name: RateName, holds: string): number {
  return name === 'learningRate' && holds === 'preferences' ? 1000 : 1
}

/** The learning rate at first. */
export function RateField() {
  const { learn } = useParts()
  const method = useStore(learn.store, (state) => state.choice.method)
  const { label } = SETTINGS.learningRate
  const { settings, tableHolds } = learnMethod(method)
  if (isUsed('learningRate', settings)) return <FirstRate name="learningRate" />
  if (tableHolds === 'preferences') return null
  return (
    <NumberField
      label={label}
      value={1}
      min={0}
      max={1}
      disabled
      hint="This method has no learning rate."
      onChange={() => {}}
    />
  )
}

/** That of a critic, where the method has one. */
export function CriticRateField() {
  const { learn } = useParts()
  const used = useStore(learn.store, (state) => usesCritic(state.choice))
  return used ? <FirstRate name="criticRate" /> : null
}

function FirstRate({ name }: { name: RateName }) {
  const { learn } = useParts()
  const { method, [name]: rate } = useStore(learn.store, (state) => state.choice)
  const { label, hint } = SETTINGS[name]
  return (
    <NumberField
      label={rate.kind === 'constant' ? label : `${label}, at first`}
      value={rate.from}
      min={0}
      max={mostOf(name, learnMethod(method).tableHolds)}
      aboveMin
      hint={hint}
      onChange={(from) => learn.choose({ [name]: { ...rate, from } })}
    />
  )
}

/** How the learning rate changes. */
export function RateSchedule() {
  return <ScheduleOf name="learningRate" />
}

export function CriticRateSchedule() {
  const { learn } = useParts()
  const used = useStore(learn.store, (state) => usesCritic(state.choice))
  return used ? <ScheduleOf name="criticRate" /> : null
}

function ScheduleOf({ name }: { name: RateName }) {
  const { learn } = useParts()
  const { method, [name]: rate, episodes } = useStore(learn.store, (state) => state.choice)
  return (
    <ScheduleFields
      of={SETTINGS[name].label}
      schedule={rate}
      episodes={episodes}
      min={0}
      max={mostOf(name, learnMethod(method).tableHolds)}
      aboveMin
      isRate
      floor={0.01}
      onChange={(next) => learn.choose({ [name]: next })}
    />
  )
}
