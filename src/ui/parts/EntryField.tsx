'use client'

import type { KindNumber, KindSetting, OwnSetting, Setting } from '../../core/settings/setting'
import { NumberField } from './NumberField'
import { Select } from './Select'

/** The field of a setting, made from its entry. Those with a form of their own have fields of their own. */
export function EntryField({
  entry,
  value,
  onChange,
}: {
  entry: Exclude<Setting, OwnSetting>
  value: unknown
  onChange(value: unknown): void
}) {
  switch (entry.type) {
    case 'number':
      return <NumberField {...entry} value={value as number} onChange={onChange} />
    case 'choice':
      return <Select {...entry} value={value as string} onChange={onChange} />
    case 'kind':
      return <KindFields entry={entry} value={value as KindValue} onChange={onChange} />
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
