'use client'

import { useState, type FormEvent } from 'react'
import { significantNumber } from '../../core/formats/number'
import { readNumber } from '../../core/formats/read-number'
import type { Question, StudentQuestion } from '../../server/contract/questions'
import { answerQuestion } from '../../session/api/questions'
import { dialAngles } from '../board/glyphs'
import { SpreadView } from '../class/SpreadView'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { TextField } from '../parts/TextField'
import { useAttempt } from '../parts/use-attempt'

/** What the class is asked, on a student’s own page. @param answered  what the student answered before; null for nothing */
export function QuestionCard({
  asked: { id, question, state, revealed },
  answered,
}: {
  asked: StudentQuestion
  answered: number | null
}) {
  const [own, setOwn] = useState(answered)
  const { problems, attempt } = useAttempt()
  const answer = (value: number) =>
    void attempt(async () => {
      await answerQuestion(id, value)
      setOwn(value)
    })
  const text = (value: number) =>
    question.kind === 'number' ? significantNumber(value, 6) : question.choices[value]
  return (
    <section
      aria-label="Question to the class"
      className="space-y-4 rounded-sm border-2 border-ink bg-sheet p-4"
    >
      <h2 className="font-title text-[24px] leading-8 font-semibold">{question.text}</h2>
      {state === 'open' && <AnswerForm question={question} own={own} onAnswer={answer} />}
      <p role="status" className="text-[15px] text-ink-soft">
        {own === null
          ? state === 'open'
            ? 'Answers are anonymous.'
            : 'You did not answer.'
          : `Your answer: ${text(own)}`}
        {state === 'open' && own !== null && '. You can change it.'}
        {state === 'closed' && ' The question is closed.'}
      </p>
      {revealed && <SpreadView question={question} spread={revealed.spread} truth={revealed.truth} />}
      <ProblemList problems={problems} />
    </section>
  )
}

function AnswerForm({
  question,
  own,
  onAnswer,
}: {
  question: Question
  own: number | null
  onAnswer(value: number): void
}) {
  const [draft, setDraft] = useState('')
  if (question.kind === 'number') {
    const value = readNumber(draft)
    const send = (event: FormEvent) => {
      event.preventDefault()
      if (value !== null) onAnswer(value)
    }
    return (
      <form className="flex items-end gap-2" onSubmit={send}>
        <div className="grow">
          <TextField
            label="Your answer, a number"
            className="h-11 text-[20px]"
            inputMode="decimal"
            autoComplete="off"
            value={draft}
            onChange={(event) => setDraft(event.target.value)}
          />
        </div>
        <Button type="submit" look="ink" className="h-11 px-6" disabled={value === null} why="write a number">
          Answer
        </Button>
      </form>
    )
  }
  const angles = question.kind === 'needle' ? dialAngles(question.choices) : null
  return (
    <div className="grid grid-cols-2 gap-2" role="group" aria-label="Your answer">
      {question.choices.map((choice, i) => (
        <button
          key={choice}
          type="button"
          aria-pressed={own === i}
          className="flex min-h-12 items-center justify-center gap-2 rounded-sm border border-rule-strong bg-paper px-3 py-2 text-[18px] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
          onClick={() => onAnswer(i)}
        >
          {angles && (
            <svg viewBox="-12 -12 24 24" className="size-6" aria-hidden>
              <g transform={`rotate(${(angles[i] * 180) / Math.PI})`} fill="currentColor">
                <polygon points="11,0 0,2 0,-2" />
                <circle r={2} />
              </g>
            </svg>
          )}
          {choice}
        </button>
      ))}
    </div>
  )
}
