'use client'

import { useState } from 'react'
import type { ExerciseSummary } from '../../server/contract/classes'
import { handOutExercise } from '../../session/api/classes'
import { Select } from '../parts/Select'
import { TermsFields } from './TermsFields'

/** Hands an exercise out to a class. */
export function HandOutForm({
  classId,
  exercises,
  busy,
  change,
}: {
  classId: string
  exercises: readonly ExerciseSummary[]
  busy: boolean
  change(run: () => Promise<void>): void
}) {
  const [chosen, setChosen] = useState(exercises.at(0)?.id ?? '')
  return (
    <section className="space-y-3">
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
        Hand out an exercise
      </h2>
      {exercises.length ? (
        <>
          <div className="max-w-md">
            <Select
              label="Exercise"
              value={chosen}
              groups={[{ title: 'Exercises', options: exercises.map(({ id, name }) => [id, name]) }]}
              onChange={setChosen}
            />
          </div>
          <TermsFields
            terms={{ tries: null, closesAt: null, madeUpNames: true }}
            label="Hand it out"
            busy={busy}
            onTerms={(terms) => change(() => handOutExercise(classId, chosen, terms))}
          />
        </>
      ) : (
        <p className="text-ink-soft">Make an exercise first, on the page of the classes.</p>
      )}
    </section>
  )
}
