'use client'

import { useState } from 'react'
import { readNumber } from '../../core/formats/read-number'
import { DIRECTION_NAMES } from '../../core/kinds/grid/directions'
import type { Question, Truth } from '../../server/contract/questions'
import { answerText, type Suggestion } from '../../session/lesson/to-ask'
import { Button } from '../parts/Button'
import { Select } from '../parts/Select'
import { TextField } from '../parts/TextField'

const KINDS = {
  number: 'a number',
  needle: 'a direction',
  choice: 'one of a few choices',
} as const satisfies Readonly<Record<Question['kind'], string>>

const NONE: readonly Suggestion[] = []
const FOUR = DIRECTION_NAMES.filter((_, i) => i % 2 === 0)

const EMPTY = { text: '', choices: '', truth: '', working: '' }

/** What a suggestion writes into the fields. */
function fieldsOf(suggestion: Suggestion): typeof EMPTY {
  const { question, truth } = suggestion
  return {
    text: question.text,
    choices: question.kind === 'number' ? '' : question.choices.join(', '),
    truth: answerText(suggestion),
    working: truth?.working ?? '',
  }
}

/** Choices as they are written, between commas; those that were suggested may have commas of their own. */
function listedChoices(written: string, suggested: Suggestion | undefined): readonly string[] {
  if (suggested && suggested.question.kind !== 'number' && written === fieldsOf(suggested).choices)
    return suggested.question.choices
  return written
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean)
}

/** The fields of a question to a class, before its answer is shown. */
export function AskForm({
  suggestions = NONE,
  busy,
  onAsk,
}: {
  /** What is written into the fields, by type of answer: the first one to begin with. */
  suggestions?: readonly Suggestion[]
  busy: boolean
  onAsk(question: Question, truth: Truth | null): void
}) {
  const [kind, setKind] = useState<Question['kind']>(suggestions[0]?.question.kind ?? 'number')
  const [fields, setFields] = useState(suggestions[0] ? fieldsOf(suggestions[0]) : EMPTY)
  const { text, choices, truth, working } = fields
  const set = (some: Partial<typeof EMPTY>) => setFields({ ...fields, ...some })
  const suggestedAs = (type: Question['kind']) => suggestions.find(({ question }) => question.kind === type)
  const choose = (next: Question['kind']) => {
    setKind(next)
    const suggested = suggestedAs(next)
    if (suggested) setFields(fieldsOf(suggested))
  }
  const suggested = suggestedAs(kind)
  const listed = listedChoices(choices, suggested)
  const offered = kind === 'needle' && !listed.length ? [...FOUR] : listed
  const value = kind === 'number' ? readNumber(truth) : offered.indexOf(truth.trim())
  const wrong = truth.trim() !== '' && (value === null || (value < 0 && kind !== 'number'))
  const ready = text.trim() !== '' && !wrong && (kind === 'number' || offered.length >= 2)
  /** A number that was suggested is kept with all its places, unless another one was written. */
  const exactly = (written: number) =>
    kind === 'number' && suggested?.truth && answerText(suggested) === truth ? suggested.truth.value : written
  const ask = () => {
    const said = text.trim()
    onAsk(
      kind === 'number' ? { text: said, kind } : { text: said, kind, choices: offered },
      truth.trim() === '' || value === null ? null : { value: exactly(value), working: working.trim() },
    )
  }
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_12rem]">
        <TextField
          label="Question"
          maxLength={500}
          placeholder="What is the value of C4 after three sweeps?"
          value={text}
          onChange={(event) => set({ text: event.target.value })}
        />
        <Select
          label="Type of answer"
          value={kind}
          options={KINDS}
          onChange={(each) => choose(each as Question['kind'])}
        />
        {kind !== 'number' && (
          <div className="sm:col-span-2">
            <TextField
              label={
                kind === 'needle'
                  ? 'Actions, separated by commas (default: north, east, south, west)'
                  : 'Choices, separated by commas'
              }
              value={choices}
              onChange={(event) => set({ choices: event.target.value })}
            />
          </div>
        )}
        <label className="block">
          <span className="text-[13px] text-ink-soft">Working (optional; shown with the answer)</span>
          <textarea
            className="block min-h-[30px] w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5"
            rows={working.includes('\n') ? 6 : 1}
            maxLength={2000}
            value={working}
            onChange={(event) => set({ working: event.target.value })}
          />
        </label>
        <TextField
          label="Correct answer (optional)"
          aria-invalid={wrong}
          value={truth}
          onChange={(event) => set({ truth: event.target.value })}
        />
      </div>
      {wrong && (
        <p role="alert" className="text-[13px] text-alert">
          {kind === 'number'
            ? 'Write the correct answer as a number.'
            : `It is one of ${offered.join(', ')}.`}
        </p>
      )}
      <Button look="ink" disabled={busy || !ready} why="a question is missing, or choices" onClick={ask}>
        Ask
      </Button>
    </div>
  )
}
