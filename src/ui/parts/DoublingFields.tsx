'use client'

import type { VariableRange } from '../../core/compare/variables'
import { NumberField } from './NumberField'

/** From where to where a setting is tried, by doubling. */
export function DoublingFields({
  range: { from, to },
  onChange,
}: {
  range: VariableRange
  onChange(range: VariableRange): void
}) {
  return (
    <>
      <NumberField
        label="Values from"
        value={from}
        min={1e-6}
        max={to}
        onChange={(value) => onChange({ from: value, to })}
      />
      <NumberField
        label="to, doubling"
        value={to}
        min={from}
        max={Math.min(1e6, from * 2 ** 15)}
        onChange={(value) => onChange({ from, to: value })}
      />
    </>
  )
}
