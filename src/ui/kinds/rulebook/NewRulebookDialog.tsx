'use client'

import { useState } from 'react'
import { newRulebook } from '../../../core/kinds/rulebook/blank'
import { PATTERNS, patternEnvironment } from '../../../core/kinds/rulebook/patterns/patterns'
import { Beginnings, NewDialog } from '../NewDialog'

/** What a rulebook can begin with. */
const BEGINNINGS = [
  {
    title: 'Something of each kind',
    what: 'lanterns, ordered in the evening and sold the next day',
    says: 'Turn the knob “cost”, or sell for another price.',
    text: newRulebook('').rulebook.text,
    make: newRulebook,
  },
  ...PATTERNS.map((pattern) => ({
    title: pattern.title,
    what: pattern.what,
    says: pattern.change.says,
    text: pattern.text,
    make: (name: string) => patternEnvironment(pattern, name),
  })),
]

/** Asks for a name and what to begin with, shows the text of it, and makes a rulebook. */
export function NewRulebookDialog({
  open,
  onClose,
  onMade,
}: {
  open: boolean
  onClose(): void
  onMade(id: string): void
}) {
  const [begin, setBegin] = useState(0)
  const { title, says, text, make } = BEGINNINGS[begin]
  return (
    <NewDialog
      open={open}
      title="A new rulebook"
      width="w-[58rem]"
      placeholder={begin === 0 ? 'New rulebook' : title}
      make={make}
      onClose={onClose}
      onMade={onMade}
    >
      <div className="grid gap-4 md:grid-cols-[20rem_minmax(0,1fr)]">
        <Beginnings all={BEGINNINGS} chosen={begin} onChoose={setBegin} />
        <div className="flex min-w-0 flex-col gap-2">
          <pre
            tabIndex={0}
            aria-label="Its rules"
            className="h-0 min-h-[21rem] grow overflow-auto rounded-sm border border-rule-strong bg-sheet p-2 font-code text-[12px] leading-[17px]"
          >
            {text.trimEnd()}
          </pre>
          <p className="text-[14px]">
            <span className="font-semibold">To change first:</span> {says}
          </p>
        </div>
      </div>
    </NewDialog>
  )
}
