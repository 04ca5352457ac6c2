'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, type FormEvent } from 'react'
import type { ClassSummary, ExerciseSummary } from '../../server/contract/classes'
import { createClass, serverExercises, takeOwnerToken } from '../../session/api/classes'
import { takeFromBin } from '../../session/api/bin'
import { Button } from '../parts/Button'
import { FileButton } from '../parts/FileButton'
import { Icon } from '../parts/Icon'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { ProgramToken } from '../parts/ProgramToken'
import { ProblemList } from '../parts/ProblemList'
import { TextField } from '../parts/TextField'
import { NewExercise } from './NewExercise'
import { useChange } from '../parts/use-change'

/** The classes, and the exercises that can be handed out to them. */
export function ClassesPage({
  classes,
  exercises,
  environments,
}: {
  classes: readonly ClassSummary[]
  exercises: readonly ExerciseSummary[]
  environments: readonly { readonly id: string; readonly name: string }[]
}) {
  const router = useRouter()
  const [name, setName] = useState('')
  const [deleted, setDeleted] = useState<ExerciseSummary | null>(null)
  const { busy, problems, change } = useChange()
  const open = (event: FormEvent) => {
    event.preventDefault()
    change(async () => router.push(`/classes/${await createClass(name)}`))
  }
  return (
    <div className="min-h-dvh">
      <PageHeader title="Classes" actions={<ButtonLink href="/">To the shelf</ButtonLink>}>
        Students enter by a code and meet the exercises that you hand out, nothing else.
      </PageHeader>
      <main className="grid max-w-6xl gap-x-12 gap-y-10 px-4 pt-6 pb-16 sm:px-8 lg:grid-cols-2">
        {problems.length > 0 && (
          <div className="lg:col-span-2">
            <ProblemList problems={problems} />
          </div>
        )}
        <section>
          <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Classes</h2>
          <form className="flex items-end gap-2 border-b border-rule py-3" onSubmit={open}>
            <div className="grow">
              <TextField
                label="Name of a new class"
                maxLength={80}
                required
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            </div>
            <Button type="submit" look="ink" disabled={busy || name.trim() === ''} why="it needs a name">
              <Icon name="plus" className="size-4" /> Open a class
            </Button>
          </form>
          {classes.length === 0 && (
            <p className="py-3 text-ink-soft">
              No class yet. Give one a name: it gets a code for students to enter.
            </p>
          )}
          <ul aria-label="Classes">
            {classes.map(({ id, name: each, code, students }) => (
              <li key={id} className="border-b border-rule">
                <Link
                  href={`/classes/${id}`}
                  prefetch={false}
                  className="flex flex-wrap items-baseline gap-x-3 py-2 hover:bg-rule/30"
                >
                  <span className="mr-auto min-w-0 font-title text-[18px] font-semibold break-words">
                    {each}
                  </span>
                  <span className="text-[15px] text-ink-soft">
                    {students} student{students === 1 ? '' : 's'}
                  </span>
                  <span className="w-24 text-right font-mono text-[15px]">{code ?? 'closed'}</span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <div className="flex items-center gap-3 border-b border-rule-strong pb-1">
            <h2 className="font-title text-[21px] font-semibold">Exercises</h2>
            <FileButton
              label="Exercise to import"
              accept=".json,application/json"
              look="quiet"
              className="ml-auto"
              disabled={busy}
              onFile={(file) =>
                change(async () => {
                  const { parseExercise } = await import('../../core/exercise/read-exercise')
                  const { id } = await serverExercises.create(parseExercise(await file.text()))
                  router.push(`/exercise/${id}`)
                })
              }
            >
              <Icon name="down" className="size-4" /> Import a file
            </FileButton>
          </div>
          <NewExercise environments={environments} busy={busy} change={change} />
          {deleted && (
            <p role="status" className="flex items-center gap-3 border-b border-rule py-2">
              <span className="min-w-0 truncate">“{deleted.name}” lies in the bin.</span>
              <Button
                onClick={() =>
                  change(async () => {
                    await takeFromBin('exercise', deleted.id)
                    setDeleted(null)
                  })
                }
              >
                Undo
              </Button>
            </p>
          )}
          {exercises.length === 0 && <p className="py-3 text-ink-soft">No exercise yet.</p>}
          <ul aria-label="Exercises">
            {exercises.map((exercise) => (
              <li key={exercise.id} className="flex items-baseline gap-x-3 border-b border-rule">
                <Link
                  href={`/exercise/${exercise.id}`}
                  prefetch={false}
                  className="mr-auto min-w-0 grow py-2 font-title text-[18px] font-semibold break-words hover:underline"
                >
                  {exercise.name}
                </Link>
                <span className="shrink-0 text-[13px] text-ink-soft">
                  {exercise.levels} level{exercise.levels === 1 ? '' : 's'}
                </span>
                <button
                  type="button"
                  className="shrink-0 self-center rounded-sm px-0.5 text-ink-soft hover:bg-rule/50 hover:text-ink"
                  aria-label={`Delete ${exercise.name}`}
                  title="Delete it"
                  onClick={() =>
                    change(async () => {
                      await serverExercises.remove(exercise.id)
                      setDeleted(exercise)
                    })
                  }
                >
                  <Icon name="cross" className="size-3.5" />
                </button>
              </li>
            ))}
          </ul>
        </section>
        <ProgramToken take={takeOwnerToken}>
          A program of yours reads and changes with a token all that you can, over the same addresses as these
          pages. Keep it to yourself; a new one ends the one before.
        </ProgramToken>
      </main>
    </div>
  )
}
