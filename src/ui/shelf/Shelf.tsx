'use client'

import { Waiting } from '../parts/Waiting'
import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState, useTransition, type DragEvent } from 'react'
import { formatCount } from '../../core/formats/number'
import { TOUR } from '../../core/lesson/tour'
import { ProblemError, type Problem } from '../../core/problem'
import type { EnvironmentSummary } from '../../server/contract/environments'
import type { LessonSummary } from '../../server/contract/lessons'
import {
  createEnvironment,
  createVariant,
  deleteEnvironment,
  duplicateEnvironment,
  renameEnvironment,
  restoreEnvironment,
} from '../../session/api/environments'
import { SHELF_ARCHIVE } from '../../session/api/shelf'
import { addressOfNew } from '../../session/study/planned'
import { FileButton } from '../parts/FileButton'
import { Icon } from '../parts/Icon'
import { Mark } from '../parts/Mark'
import { ThemeButton } from '../theme/ThemeButton'
import { FindField, shelfAddress } from './FindField'
import { FirstSteps } from './FirstSteps'
import { LessonShelf } from './LessonShelf'
import { NewMenu } from './NewMenu'
import { SHELF_PAGE } from './page-size'
import { ShelfItem } from './ShelfItem'

/** Loaded when something is wrong. */
const ImportProblems = dynamic(() => import('./ImportProblems').then((module) => module.ImportProblems), {
  loading: Waiting,
})

/** Environments from which on they can be looked for by name. */
const FINDABLE = 12
/** How long a deletion can be taken back from the notice, in milliseconds. */
const UNDO_TIME = 15_000
/** How often it is looked whether states have been counted, in milliseconds. */
const COUNTING = 1000

/** Something that was just deleted, and what brings it back. */
interface Deleted {
  readonly name: string
  readonly restore: () => Promise<unknown>
}

/** The shelf: the environments there are, and the lessons. */
export function Shelf({
  environments,
  lessons,
  find,
  count,
  all,
}: {
  environments: readonly EnvironmentSummary[]
  lessons: readonly LessonSummary[]
  /** Part of a name that is looked for; empty for all. */
  find: string
  /** How many there are of those, and altogether. */
  count: number
  all: number
}) {
  const router = useRouter()
  const [busy, startTransition] = useTransition()
  const [deleted, setDeleted] = useState<Deleted | null>(null)
  const [failure, setFailure] = useState<{ title: string; problems: readonly Problem[] } | null>(null)
  const [dragging, setDragging] = useState(false)

  useEffect(() => {
    if (!deleted) return
    const timer = setTimeout(() => setDeleted(null), UNDO_TIME)
    return () => clearTimeout(timer)
  }, [deleted])

  // What is being counted is shown when it is there.
  const counting = environments.some((each) => each.counting)
  useEffect(() => {
    if (!counting) return
    const timer = setInterval(() => router.refresh(), COUNTING)
    return () => clearInterval(timer)
  }, [counting, router])

  /** Runs something that changes the shelf, shows the shelf as it then is, and tells what went wrong. */
  const change = (title: string, run: () => Promise<unknown>) =>
    startTransition(async () => {
      try {
        await run()
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        setFailure({ title, problems: error.problems })
      }
      router.refresh()
    })
  const read = (chosen: File) =>
    change(`“${chosen.name}” could not be read`, async () => {
      const { putFile } = await import('./read-file')
      const address = await putFile(chosen)
      if (address) router.push(address)
    })
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setDragging(false)
    const chosen = event.dataTransfer.files[0]
    if (chosen) read(chosen)
  }
  return (
    <div
      className={`min-h-dvh ${dragging ? 'outline-4 -outline-offset-8 outline-brass-bright' : ''}`}
      onDragOver={(event) => {
        event.preventDefault()
        setDragging(true)
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target) setDragging(false)
      }}
      onDrop={drop}
    >
      <header className="flex flex-wrap items-center gap-3 px-4 pt-4 sm:px-8 sm:pt-6 md:flex-nowrap">
        <Mark className="size-12" />
        <div className="mr-auto w-0 min-w-56 grow">
          <h1 className="font-title text-[34px] leading-9 font-semibold italic">Jaunty Pawn</h1>
          <p className="text-ink-soft">
            Draw or write a small world, solve it exactly, watch agents learn it.
          </p>
        </div>
        {all >= FINDABLE && <FindField find={find} />}
        <NewMenu
          busy={busy}
          onMake={(document) =>
            change('It could not be made', async () => {
              const made = await createEnvironment(JSON.stringify(document))
              router.push(addressOfNew(made.id))
            })
          }
          onMade={(id) => router.push(addressOfNew(id))}
        />
        <FileButton
          disabled={busy}
          label="File to import"
          accept=".json,.csv,.rules,.txt,.zip,application/json,text/csv,text/plain,application/zip"
          onFile={read}
        >
          <Icon name="down" className="size-4" /> Import a file
        </FileButton>
        <Link
          href="/classes"
          prefetch={false}
          className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5 hover:border-ink"
        >
          Classes
        </Link>
        <ThemeButton />
      </header>
      <main className="px-4 pb-16 sm:px-8">
        {!find && (
          <FirstSteps
            tour={lessons.find(({ name }) => name === TOUR)?.id}
            first={environments.find(({ states, damage }) => states !== null && damage === null)}
            busy={busy}
            onBegin={() =>
              change('It could not be made', async () => {
                const { makeHall } = await import('./first-hall')
                router.push(addressOfNew(await makeHall()))
              })
            }
          />
        )}
        {!find && <LessonShelf lessons={lessons} change={change} onDeleted={setDeleted} />}
        {environments.length === 0 && all > 0 ? (
          <p className="mt-24 text-center font-title text-2xl">No name has “{find}” in it.</p>
        ) : environments.length === 0 ? (
          <div className="mt-24 text-center">
            <p className="font-title text-2xl">The shelf is empty.</p>
            <p className="mt-1 text-ink-soft">
              Make a new environment above, or drop one here: a document (.json), a rulebook (.rules), a
              transition list (.csv), a map of a grid (.txt), or a whole shelf (.zip).
            </p>
          </div>
        ) : (
          <ul
            className="grid grid-cols-[repeat(auto-fit,minmax(min(21rem,100%),1fr))] gap-x-0 gap-y-8 pt-6"
            aria-label="Environments"
          >
            {environments.map((environment) => (
              <ShelfItem
                key={environment.id}
                environment={environment}
                onRename={(name) =>
                  change('It could not be renamed', () => renameEnvironment(environment.id, name))
                }
                onDuplicate={() =>
                  change('It could not be duplicated', () => duplicateEnvironment(environment.id))
                }
                onVariant={() =>
                  change('The variant could not be made', async () => {
                    const name = `${environment.name.slice(0, 108)}, variant`
                    const made = await createVariant(environment.id, name)
                    router.push(`/environment/${made.id}/build`)
                  })
                }
                onDelete={() =>
                  change('It could not be deleted', async () => {
                    await deleteEnvironment(environment.id)
                    setDeleted({
                      name: environment.name,
                      restore: () => restoreEnvironment(environment.id),
                    })
                  })
                }
              />
            ))}
          </ul>
        )}
        {environments.length < count && (
          <p className="mt-8 text-center">
            <Link
              href={shelfAddress(find, environments.length + SHELF_PAGE)}
              scroll={false}
              prefetch={false}
              className="rounded-sm border border-rule-strong bg-sheet px-3 py-1 leading-5"
            >
              Show more ({formatCount(count - environments.length)} of {formatCount(count)} are not shown)
            </Link>
          </p>
        )}
        <footer className="mt-10 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-rule-strong pt-3 text-[14px]">
          <Link href="/bin" prefetch={false} className="underline decoration-dotted underline-offset-4">
            Bin
          </Link>
          <a href={SHELF_ARCHIVE} download className="underline decoration-dotted underline-offset-4">
            Export the whole shelf (zip)
          </a>
          <FileButton
            look="quiet"
            className="!p-0 underline decoration-dotted underline-offset-4"
            disabled={busy}
            label="Shelf to import"
            accept=".zip,application/zip"
            onFile={read}
          >
            Import a shelf
          </FileButton>
          <span className="text-ink-soft">
            Environments with their learned tables and comparisons, and lessons, put beside what is here.
          </span>
        </footer>
      </main>
      {deleted && (
        <div
          role="status"
          className="fixed bottom-6 left-1/2 flex -translate-x-1/2 items-center gap-4 rounded-sm border border-ink bg-ink px-4 py-2 text-paper"
        >
          <span className="max-w-80 truncate">Deleted “{deleted.name}”.</span>
          <button
            type="button"
            className="font-semibold underline underline-offset-4"
            onClick={() => {
              setDeleted(null)
              change('It could not be brought back', deleted.restore)
            }}
          >
            Undo
          </button>
        </div>
      )}
      {failure && <ImportProblems failure={failure} onClose={() => setFailure(null)} />}
    </div>
  )
}
