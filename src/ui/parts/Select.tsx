'use client'

import { Field, Label, Select as Choice } from '@headlessui/react'

interface OptionGroup {
  readonly title: string
  readonly options: readonly (readonly [value: string, title: string])[]
}

interface Props {
  readonly label: string
  readonly value: string
  /** What each value is called. */
  readonly options?: Readonly<Record<string, string>>
  /** Instead: the values in groups that have names. */
  readonly groups?: readonly OptionGroup[]
  readonly hint?: string
  onChange(value: string): void
}

/** A choice among a few, with its label above. */
export function Select({ label, value, options = {}, groups, hint, onChange }: Props) {
  return (
    <Field className="flex min-w-0 flex-col justify-end" title={hint}>
      <Label className="text-[13px] text-ink-soft">{label}</Label>
      <Choice
        className="h-[30px] w-full rounded-sm border border-rule-strong bg-sheet px-1 leading-5"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {groups ? (
          groups.map(({ title, options: each }) => (
            <optgroup key={title} label={title}>
              <Options options={each} />
            </optgroup>
          ))
        ) : (
          <Options options={Object.entries(options)} />
        )}
      </Choice>
    </Field>
  )
}

/** A choice within a line: its label in front, or for screen readers only. */
export function LineSelect({
  label,
  labelled = false,
  value,
  options,
  hint,
  disabled,
  className = '',
  onChange,
}: Omit<Props, 'options' | 'groups'> & {
  /** Each value with what it is called, in this order. */
  readonly options: readonly (readonly [value: string, title: string])[]
  /** Whether the label is to be seen. */
  readonly labelled?: boolean
  readonly disabled?: boolean
  readonly className?: string
}) {
  return (
    <Field className="flex min-w-0 items-center gap-1.5" title={hint} disabled={disabled}>
      <Label className={labelled ? 'shrink-0 text-ink-soft' : 'sr-only'}>{label}</Label>
      <Choice
        className={`min-w-0 rounded-sm border border-rule-strong bg-sheet px-1 py-0.5 text-ink data-disabled:opacity-50 ${className}`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        <Options options={options} />
      </Choice>
    </Field>
  )
}

function Options({ options }: { options: readonly (readonly [string, string])[] }) {
  return options.map(([each, title]) => (
    <option key={each} value={each}>
      {title}
    </option>
  ))
}
