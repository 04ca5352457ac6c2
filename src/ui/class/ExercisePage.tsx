'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { knobsOf } from '../../core/environment/knobs'
import { SHOWS, type Accepted, type Exercise, type Level, type Shows } from '../../core/exercise/exercise'
import { HAND_IN_WORDS } from '../../core/exercise/hand-in-words'
import { kindOf } from '../../core/kinds/kinds'
import { fileName } from '../../core/formats/file-name'
import type { ExerciseRecord } from '../../server/contract/classes'
import { serverExercises } from '../../session/api/classes'
import { createKeptSession } from '../../session/kept-session'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { downloadText } from '../parts/download'
import { HistoryButtons } from '../parts/HistoryButtons'
import { Icon } from '../parts/Icon'
import { NumberField } from '../parts/NumberField'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { SavingWords } from '../parts/SavingWords'
import { Select } from '../parts/Select'
import { TextField } from '../parts/TextField'
import { useSavingOnLeave, useUndoKeys } from '../parts/use-kept'

const MOST_SEED = 2 ** 32 - 1
const MOST_LEVELS = 20

/** An exercise to be prepared; every change is saved by itself. */
export function ExercisePage({
  record,
  policies,
}: {
  record: ExerciseRecord
  /** Titles of the policies that its environment writes down. */
  policies: readonly string[]
}) {
  const [session] = useState(() => createKeptSession({ ...record, value: record.exercise }, serverExercises))
  const { value: exercise, past, future, saving, problem } = useStore(session.store)
  useSavingOnLeave(session)
  useUndoKeys(session)
  const { name, note, environment, levels, episodes, seeds, accepts, shows, reference } = exercise
  const change = (changed: Partial<Exercise>, stroke?: string) =>
    session.edit({ ...exercise, ...changed }, stroke)
  const written = kindOf(environment).withPolicy !== undefined
  return (
    <div className="min-h-dvh">
      <PageHeader
        title={name}
        back="/classes"
        backWords="Back to the classes"
        actions={
          <>
            <SavingWords state={saving} />
            <HistoryButtons
              canUndo={past.length > 0}
              canRedo={future.length > 0}
              undo={session.undo}
              redo={session.redo}
            />
            <Button
              look="quiet"
              aria-label="Export the exercise"
              title="Export the exercise (.json); with its hidden seed"
              onClick={() =>
                downloadText(fileName(name, '.json'), JSON.stringify(exercise, null, 2), 'application/json')
              }
            >
              <Icon name="tray" />
            </Button>
            <ButtonLink href="/classes">Classes</ButtonLink>
          </>
        }
      >
        An exercise with {environment.name}, as it was when the exercise was made.
      </PageHeader>
      <main className="grid max-w-6xl gap-x-12 gap-y-8 px-4 pt-6 pb-16 sm:px-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="min-w-0 space-y-6">
          {problem && (
            <p role="alert" className="border-l-2 border-alert pl-2.5">
              {problem}
            </p>
          )}
          <TextField
            label="Name"
            maxLength={120}
            value={name}
            onChange={(event) => event.target.value.trim() && change({ name: event.target.value }, 'name')}
          />
          <label className="block">
            <span className="text-[13px] text-ink-soft">The task, as students read it</span>
            <textarea
              className="h-32 w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-6"
              maxLength={20_000}
              value={note}
              onChange={(event) => change({ note: event.target.value }, 'note')}
            />
          </label>
          <section className="space-y-3">
            <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Levels</h2>
            {levels.map((level, i) => (
              <LevelFields
                key={i}
                exercise={exercise}
                level={level}
                alone={levels.length === 1}
                onLevel={(next, stroke) =>
                  change({ levels: levels.map((each, k) => (k === i ? next : each)) }, stroke)
                }
                onRemove={() => change({ levels: levels.filter((_, k) => k !== i) })}
              />
            ))}
            {levels.length < MOST_LEVELS && (
              <Button
                onClick={() =>
                  change({
                    levels: [...levels, { ...levels[levels.length - 1], name: freeName(levels) }],
                  })
                }
              >
                <Icon name="plus" className="size-4" /> Another level
              </Button>
            )}
          </section>
        </div>
        <div className="space-y-6">
          <section className="space-y-2">
            <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Scoring</h2>
            <NumberField
              label="Episodes a level"
              value={episodes}
              min={1}
              max={100_000}
              whole
              onChange={(value) => change({ episodes: value }, 'episodes')}
            />
            <div className="grid grid-cols-2 gap-3">
              <NumberField
                label="Public seed"
                value={seeds.open}
                min={0}
                max={MOST_SEED}
                whole
                onChange={(open) => change({ seeds: { ...seeds, open } }, 'open')}
              />
              {seeds.hidden !== null && (
                <NumberField
                  label="Hidden seed"
                  value={seeds.hidden}
                  min={0}
                  max={MOST_SEED}
                  whole
                  onChange={(hidden) => change({ seeds: { ...seeds, hidden } }, 'hidden')}
                />
              )}
            </div>
            <Checkbox
              checked={seeds.hidden !== null}
              onChange={(on) =>
                change({ seeds: { ...seeds, hidden: on ? (seeds.open + 1) % MOST_SEED : null } })
              }
            >
              Final scores use a hidden seed
            </Checkbox>
            <Select
              label="Reference policy, to compare with"
              value={referenceKey(reference)}
              options={{
                none: 'none',
                ...Object.fromEntries(policies.map((title) => [`written ${title}`, title])),
                ...(reference && reference.kind !== 'written' ? { file: 'the one in the file' } : {}),
              }}
              onChange={(key) => {
                const title = /^written (.*)$/.exec(key)?.[1]
                change({ reference: title === undefined ? null : { kind: 'written', title } })
              }}
            />
          </section>
          <section className="space-y-2">
            <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
              Students
            </h2>
            <Select
              label="Students can see"
              value={shows}
              options={SHOWS}
              onChange={(value) => change({ shows: value as Shows })}
            />
            <p className="pt-1 text-[13px] text-ink-soft">Students may hand in</p>
            {(Object.keys(HAND_IN_WORDS) as Accepted[])
              .filter((kind) => kind !== 'rule' || written)
              .map((kind) => (
                <Checkbox
                  key={kind}
                  checked={accepts.includes(kind)}
                  onChange={(on) => {
                    const next = on ? [...accepts, kind] : accepts.filter((each) => each !== kind)
                    if (next.length) change({ accepts: next })
                  }}
                >
                  {HAND_IN_WORDS[kind].title}
                </Checkbox>
              ))}
          </section>
        </div>
      </main>
    </div>
  )
}

/** A level: its name, its points, and what its knobs stand at. */
function LevelFields({
  exercise: { environment },
  level,
  alone,
  onLevel,
  onRemove,
}: {
  exercise: Exercise
  level: Level
  alone: boolean
  onLevel(level: Level, stroke?: string): void
  onRemove(): void
}) {
  const knobs = knobsOf(environment)
  return (
    <fieldset className="rounded-sm border border-rule-strong p-3 pt-0">
      <legend className="px-1 font-semibold">{level.name}</legend>
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-40 grow">
          <TextField
            label="Name of the level"
            maxLength={80}
            value={level.name}
            onChange={(event) =>
              event.target.value.trim() && onLevel({ ...level, name: event.target.value }, 'level')
            }
          />
        </div>
        <div className="w-28">
          <NumberField
            label="Points"
            value={level.points}
            min={0}
            max={1e6}
            onChange={(points) => onLevel({ ...level, points }, 'points')}
          />
        </div>
        {!alone && (
          <Button look="quiet" aria-label={`Remove the level ${level.name}`} onClick={onRemove}>
            <Icon name="cross" className="size-4" />
          </Button>
        )}
      </div>
      {knobs.length > 0 && (
        <div className="mt-2 grid grid-cols-2 gap-3 sm:grid-cols-3">
          {knobs.map(({ name, value, low, high }) => (
            <NumberField
              key={name}
              label={name}
              value={level.knobs[name] ?? value}
              min={low}
              max={high}
              onChange={(set) =>
                onLevel({ ...level, knobs: { ...level.knobs, [name]: set } }, `knob ${name}`)
              }
            />
          ))}
        </div>
      )}
    </fieldset>
  )
}

function freeName(levels: readonly Level[]): string {
  for (let number = levels.length + 1; ; number++)
    if (!levels.some(({ name }) => name === `Level ${number}`)) return `Level ${number}`
}

function referenceKey(reference: Exercise['reference']): string {
  if (reference === null) return 'none'
  return reference.kind === 'written' ? `written ${reference.title}` : 'file'
}
