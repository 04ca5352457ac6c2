'use client'

import { COMMON_HELP, STAGE_HELP } from '../stages/stage-help'
import { STAGES } from '../stages/stages'
import { Button } from '../parts/Button'
import { WordList } from '../parts/WordList'
import { useStudy } from './study-context'
import { KEYS } from './use-study-keys'

/** What the sheet under `?` says. */
export function HelpSheet({ onClose }: { onClose(): void }) {
  const stage = useStudy((state) => state.stage)
  return (
    <>
      <Listed title={STAGES[stage].title} lines={STAGE_HELP[stage]} />
      <Listed title="Everywhere" lines={COMMON_HELP} />
      <Listed title="Keys" lines={KEYS} />
      <div className="mt-5 text-right">
        <Button look="ink" onClick={onClose}>
          Close
        </Button>
      </div>
    </>
  )
}

function Listed({
  title,
  lines,
}: {
  title: string
  lines: readonly (readonly [what: string, words: string])[]
}) {
  return (
    <section className="mb-4">
      <h3 className="mb-1 border-b border-rule-strong font-title text-[17px] font-semibold">{title}</h3>
      <WordList lines={lines} columns="grid-cols-[11rem_1fr]" />
    </section>
  )
}
