'use client'

import type { ComponentType } from 'react'
import { useStore } from 'zustand'
import type { SETTINGS } from '../../../core/settings/settings'
import { setting, type SettingName } from '../../../core/settings/settings'
import type { LearnChoice } from '../../../core/settings/choice'
import { EntryField } from '../../parts/EntryField'
import { useParts } from '../../study/study-context'
import { ExplorationField, ExplorationSchedule } from './ExplorationFields'
import { CriticRateField, CriticRateSchedule, RateField, RateSchedule } from './RateFields'

type OwnName = { [N in SettingName]: (typeof SETTINGS)[N] extends { type: 'own' } ? N : never }[SettingName]

/** The fields of settings that have a form of their own: one among the first, the rest further down. */
const OWN_FIELDS: Readonly<Record<OwnName, { readonly First: ComponentType; readonly More: ComponentType }>> =
  {
    learningRate: { First: RateField, More: RateSchedule },
    criticRate: { First: CriticRateField, More: CriticRateSchedule },
    exploration: { First: ExplorationField, More: ExplorationSchedule },
  }

/** The field of a setting, made from its entry. @param more  the part of it that is folded away */
export function SettingField({ name, more = false }: { name: SettingName; more?: boolean }) {
  const { learn } = useParts()
  const value = useStore(learn.store, (state) => state.choice[name])
  const entry = setting(name)
  const choose = (next: unknown) => learn.choose({ [name]: next } as Partial<LearnChoice>)
  if (entry.type !== 'own') return <EntryField entry={entry} value={value} onChange={choose} />
  const { First, More } = OWN_FIELDS[name as OwnName]
  return more ? <More /> : <First />
}
