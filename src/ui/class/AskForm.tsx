'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { readNumber } from '../../core/formats/read-number'
import { DIRECTION_NAMES } from '../../core/kinds/grid/directions'
import type { Question } from '../../server/contract/questions'
import { askClass } from '../../session/api/questions'
import { Button } from '../parts/Button'
import { Select } from '../parts/Select'
import { TextField } from '../parts/TextField'

const KINDS = {
  number: 'a number',
  needle: 'a direction',
  choice: 'one of a few choices',
} as const satisfies Readonly<Record<Question['kind'], string>>

const FOUR = DIRECTION_NAMES.filter((_, i) => i % 2 === 0)

/** Asks the class something before the answer is shown. */
export function AskForm({
  classId,
  busy,
  change,
}: {
  classId: string
  busy: boolean
  change(run: () => Promise<void>): void
}) {
  const router = useRouter()
  const [kind, setKind] = useState<Question['kind']>('number')
  const [text, setText] = useState('')
  const [choices, setChoices] = useState('')
  const [truth, setTruth] = useState('')
  const [working, setWorking] = useState('')
  const listed = choices
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean)
  const offered = kind === 'needle' && !listed.length ? [...FOUR] : listed
  const value = kind === 'number' ? readNumber(truth) : offered.indexOf(truth.trim())
  const wrong = truth.trim() !== '' && (value === null || (value < 0 && kind !== 'number'))
  const ready = text.trim() !== '' && !wrong && (kind === 'number' || offered.length >= 2)
  const ask = () =>
    change(async () => {
      const question: Question =
        kind === 'number' ? { text: text.trim(), kind } : { text: text.trim(), kind, choices: offered }
      const known = truth.trim() === '' || value === null ? null : { value, working: working.trim() }
      router.push(`/classes/${classId}/question/${await askClass(classId, question, known)}`)
    })
  return (
    <section className="space-y-3">
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Ask the class</h2>
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_12rem]">
        <TextField
          label="Question"
          maxLength={500}
          placeholder="What is the value of C4 after three sweeps?"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Select
          label="Type of answer"
          value={kind}
          options={KINDS}
          onChange={(each) => setKind(each as Question['kind'])}
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
              onChange={(event) => setChoices(event.target.value)}
            />
          </div>
        )}
        <TextField
          label="Working (optional; shown with the answer)"
          maxLength={2000}
          value={working}
          onChange={(event) => setWorking(event.target.value)}
        />
        <TextField
          label="Correct answer (optional)"
          aria-invalid={wrong}
          value={truth}
          onChange={(event) => setTruth(event.target.value)}
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
    </section>
  )
}
