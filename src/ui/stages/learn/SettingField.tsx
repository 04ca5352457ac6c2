'use client'

import type { ComponentType } from 'react'
import { useStore } from 'zustand'
import type { KindNumber, KindSetting } from '../../../core/settings/setting'
import type { SETTINGS } from '../../../core/settings/settings'
import { setting, type SettingName } from '../../../core/settings/settings'
import type { LearnChoice } from '../../../core/settings/choice'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { useParts } from '../../study/study-context'
import { ExplorationField, ExplorationSchedule } from './ExplorationFields'
import { RateField, RateSchedule } from './RateFields'

type OwnName = { [N in SettingName]: (typeof SETTINGS)[N] extends { type: 'own' } ? N : never }[SettingName]

/** The fields of settings that have a form of their own: one among the first, the rest further down. */
const OWN_FIELDS: Readonly<Record<OwnName, { readonly First: ComponentType; readonly More: ComponentType }>> =
  {
    learningRate: { First: RateField, More: RateSchedule },
    exploration: { First: ExplorationField, More: ExplorationSchedule },
  }

/** The field of a setting, made from its entry. @param more  the part of it that is folded away */
export function SettingField({ name, more = false }: { name: SettingName; more?: boolean }) {
  const { learn } = useParts()
  const value = useStore(learn.store, (state) => state.choice[name])
  const entry = setting(name)
  const choose = (next: unknown) => learn.choose({ [name]: next } as Partial<LearnChoice>)
  switch (entry.type) {
    case 'number':
      return <NumberField {...entry} value={value as number} onChange={choose} />
    case 'choice':
      return <Select {...entry} value={value as string} onChange={choose} />
    case 'kind':
      return <KindFields entry={entry} value={value as KindValue} onChange={choose} />
    case 'own': {
      const { First, More } = OWN_FIELDS[name as OwnName]
      return more ? <More /> : <First />
    }
  }
}

type KindValue = { readonly kind: string } & Readonly<Record<string, unknown>>

/** A choice of a kind, and the numbers of the kind that is chosen. */
function KindFields({
  entry: { label, hint, kinds },
  value,
  onChange,
}: {
  entry: KindSetting
  value: KindValue
  onChange(value: KindValue): void
}) {
  const titles = Object.fromEntries(Object.entries(kinds).map(([kind, { title }]) => [kind, title]))
  const numbers: Readonly<Record<string, KindNumber>> = kinds[value.kind].numbers
  return (
    <>
      <Select
        label={label}
        value={value.kind}
        options={titles}
        hint={hint}
        onChange={(kind) => onChange(kinds[kind].usual)}
      />
      {Object.entries(numbers).map(([key, range]) => (
        <NumberField
          key={key}
          {...range}
          value={value[key] as number}
          onChange={(number) => onChange({ ...value, [key]: number })}
        />
      ))}
    </>
  )
}
