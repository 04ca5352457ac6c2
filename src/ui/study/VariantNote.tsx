'use client'

import type { Change } from '../../core/environment/tree'
import Link from 'next/link'
import { reversed } from '../../core/environment/changes'
import { Section } from '../parts/Section'
import { ChangeList } from './ChangeList'
import { useStudy } from './study-context'

/** Of a variant: what it follows, and what it says otherwise. */
export function VariantNote() {
  const base = useStudy((state) => state.base)
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  if (!base) return null
  const takeBack = async (changes: readonly Change[]) => {
    const { applyChanges } = await import('../../core/environment/apply-changes')
    edit(applyChanges(document, changes.map(reversed)))
  }
  return (
    <Section title="Variant">
      <p className="text-[14px]">
        A variant of{' '}
        <Link href={`/environment/${base.id}/build`} className="font-semibold underline underline-offset-4">
          {base.name}
        </Link>
        . It differs in:
      </p>
      <div className="max-h-56 overflow-y-auto text-[14px]">
        <ChangeList
          before={base.document}
          after={document}
          onTakeBack={(changes) => void takeBack(changes)}
        />
      </div>
    </Section>
  )
}
