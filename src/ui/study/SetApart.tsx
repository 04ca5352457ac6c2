'use client'

import { formatNumber } from '../../core/formats/number'
import { useStudy } from './study-context'

/** Says that a number is not the environment's, and takes that one when asked. */
export function SetApart({
  name,
  value,
  of,
  onTake,
}: {
  name: string
  value: number
  of: 'discount' | 'cap'
  onTake(value: number): void
}) {
  const own = useStudy((state) => state.document[of])
  // No cap in the environment: learning has to take some.
  if (own === value || (of === 'cap' && own === 0)) return null
  return (
    <p className="col-span-full text-[13px] text-ink-soft">
      The environment’s {name.toLowerCase()} is {formatNumber(own, 6)}.{' '}
      <button type="button" className="underline underline-offset-4" onClick={() => onTake(own)}>
        Use it
      </button>
    </p>
  )
}
