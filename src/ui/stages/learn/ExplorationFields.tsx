'use client'

import { useStore } from 'zustand'
import { EXPLORATION_WAYS, EXPLORATIONS, type ExplorationWay } from '../../../core/learn/explore/explorations'
import { learnMethod, type LearnMethodId } from '../../../core/learn/methods/methods'
import { explorationOf } from '../../../core/settings/exploration'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { useParts } from '../../study/study-context'
import { ScheduleFields } from './ScheduleFields'

/** Ways that go by rewards alone are for agents that do so too. */
function titlesFor(method: LearnMethodId): Record<string, string> {
  return Object.fromEntries(
    EXPLORATION_WAYS.filter((way) => learnMethod(method).rewardsOnly || !EXPLORATIONS[way].forBandits).map(
      (way) => [way, EXPLORATIONS[way].title],
    ),
  )
}

/** The number of the exploration at first. */
export function ExplorationField() {
  const { learn } = useParts()
  const { method, exploration } = useStore(learn.store, (state) => state.choice)
  const { settings, tableHolds } = learnMethod(method)
  const { level } = exploration
  const { level: label, hint, range } = EXPLORATIONS[exploration.way]
  const used = settings.includes('exploration')
  if (!used && tableHolds === 'preferences') return null
  return (
    <NumberField
      label={level.kind === 'constant' ? label : `${label}, at first`}
      value={level.from}
      {...range}
      aboveMin={range.aboveMin || level.kind === 'exponential'}
      disabled={!used}
      hint={used ? hint : 'This method follows a given policy.'}
      onChange={(from) => learn.choose({ exploration: { ...exploration, level: { ...level, from } } })}
    />
  )
}

/** The way of exploring, and how its number changes. */
export function ExplorationSchedule() {
  const { learn } = useParts()
  const { method, exploration, episodes } = useStore(learn.store, (state) => state.choice)
  const { way, level } = exploration
  const { level: label, hint, range } = EXPLORATIONS[way]
  return (
    <div className="space-y-2">
      <Select
        label="Explores"
        value={way}
        options={{ ...titlesFor(method), [way]: EXPLORATIONS[way].title }}
        hint={hint}
        onChange={(next) => learn.choose({ exploration: explorationOf(next as ExplorationWay) })}
      />
      <ScheduleFields
        of={label}
        schedule={level}
        episodes={episodes}
        {...range}
        floor={0.05}
        onChange={(next) => learn.choose({ exploration: { way, level: next } })}
      />
    </div>
  )
}
