'use client'

import { useRef, useState } from 'react'
import type { LessonView } from '../../core/lesson/lesson-document'
import { NAMED_NUMBERS, type ViewFacts } from '../../core/lesson/named-numbers'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { LessonText } from './LessonText'

const AREA = 'w-full rounded-sm border border-rule-strong bg-paper px-2 py-1 leading-5'

/** What is said of a view: its title, its text as it is written and as it will look, notes. */
export function ViewWordsForm({
  view: { id, title, text, notes, timeline, column },
  facts,
  onChange,
}: {
  view: LessonView
  facts: ViewFacts | null
  onChange(part: Partial<Omit<LessonView, 'id'>>): void
}) {
  const area = useRef<HTMLTextAreaElement>(null)
  const insert = (form: string) => {
    const at = area.current?.selectionStart ?? text.length
    onChange({ text: `${text.slice(0, at)}[[${form}]]${text.slice(at)}` })
    area.current?.focus()
  }
  return (
    <div className="space-y-3" key={id}>
      <label className="block">
        <span className="text-[13px] text-ink-soft">Title</span>
        <input
          className={`${AREA} font-semibold`}
          value={title}
          maxLength={200}
          onChange={(event) => onChange({ title: event.target.value })}
        />
      </label>
      <label className="block">
        <span className="text-[13px] text-ink-soft">
          Text (Markdown; formulas between $ signs; numbers of the view by name)
        </span>
        <textarea
          ref={area}
          className={`${AREA} font-code text-[13px]`}
          rows={8}
          value={text}
          maxLength={20_000}
          onChange={(event) => onChange({ text: event.target.value })}
        />
      </label>
      <Names onInsert={insert} />
      <section aria-label="As it will look" className="border-l-4 border-brass-bright pl-3">
        {text ? (
          <LessonText text={text} facts={facts} />
        ) : (
          <p className="text-[13px] text-ink-soft">Without a text the view is shown alone.</p>
        )}
      </section>
      <fieldset className="flex gap-x-4">
        <legend className="text-[13px] text-ink-soft">Shown beside the board</legend>
        <Checkbox checked={timeline} onChange={() => onChange({ timeline: !timeline })}>
          Timeline
        </Checkbox>
        <Checkbox checked={column} onChange={() => onChange({ column: !column })}>
          Side column
        </Checkbox>
      </fieldset>
      <label className="block">
        <span className="text-[13px] text-ink-soft">Notes for the speaker, which the class does not see</span>
        <textarea
          className={AREA}
          rows={4}
          value={notes}
          maxLength={20_000}
          onChange={(event) => onChange({ notes: event.target.value })}
        />
      </label>
    </div>
  )
}

/** The names that numbers have, to be put into the text. */
function Names({ onInsert }: { onInsert(form: string): void }) {
  const [open, setOpen] = useState(false)
  return (
    <div>
      <Button look="quiet" className="!px-0 text-[13px]" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? '▼' : '▶'} Numbers by name
      </Button>
      {open && (
        <ul className="max-h-48 overflow-y-auto text-[13px]">
          {NAMED_NUMBERS.map(({ form, says }) => (
            <li key={form}>
              <button
                type="button"
                className="w-full rounded-sm px-1 text-left hover:bg-rule/40"
                title="Put it into the text"
                onClick={() => onInsert(form)}
              >
                <code>{`[[${form}]]`}</code> <span className="text-ink-soft">{says}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
