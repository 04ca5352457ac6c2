'use client'

import { useMemo } from 'react'
import { sentencesOf } from '../../../core/kinds/rulebook/reading/sentences'
import type { Span } from '../../../core/kinds/rulebook/place'

/** A rulebook in plain English; a click leads to the rule. */
export function Sentences({ text, onPick }: { text: string; onPick(span: Span): void }) {
  const sentences = useMemo(() => sentencesOf(text), [text])
  if (!sentences.length) return <p className="p-4 text-ink-soft">There is no rule that can be read yet.</p>
  return (
    <ol className="h-full space-y-0.5 overflow-y-auto p-3" aria-label="The rules as sentences">
      {sentences.map(({ from, to, text: sentence }) => (
        <li key={from}>
          <button
            type="button"
            title="Go to the rule"
            className="w-full rounded-sm px-2 py-0.5 text-left leading-[22px] hover:bg-rule/60"
            onClick={() => onPick({ from, to })}
          >
            {sentence}
          </button>
        </li>
      ))}
    </ol>
  )
}
