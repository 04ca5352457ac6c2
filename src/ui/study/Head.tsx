'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useState } from 'react'
import { useStore } from 'zustand'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Mark } from '../parts/Mark'
import { ThemeButton } from '../theme/ThemeButton'
import { ExportMenu } from './ExportMenu'
import { KeysDialog } from './KeysDialog'
import { VersionsDialog } from './VersionsDialog'
import { useParts, useStudy } from './study-context'
import { historyOf, useStage } from './use-stage'
import { STAGE_NAMES, type Stage } from '../../session/study/names'
import type { Saving } from '../../session/study/study-store'
import type { StageView } from '../stages/stage'
import { STAGES } from '../stages/stages'

const SAVING_WORDS: Record<Saving['state'], string> = {
  saved: 'Saved',
  waiting: 'Saving …',
  saving: 'Saving …',
  failed: 'Not saved',
  stale: 'Not saved',
  gone: 'Not saved',
}

/** Loaded after the rest, which stays as it is meanwhile: most of the time there are no jobs. */
const JobsButton = dynamic(() => import('./JobsButton').then((module) => module.JobsButton), {
  loading: () => null,
})

/** The head: where one is, the stages, what can be done with the whole. One line; on a phone two. */
export function Head() {
  const document = useStudy((state) => state.document)
  const stage = useStudy((state) => state.stage)
  const show = useStudy((state) => state.show)
  const edit = useStudy((state) => state.edit)
  const saving = useStudy((state) => state.saving.state)
  const parts = useParts()
  const { stage: view } = useStage()
  // Drawn anew when either list changes.
  useStudy((state) => state.past.length + state.future.length)
  const hasJobs = useStore(parts.jobs.store, ({ jobs }) => jobs.length > 0)
  const { canUndo, canRedo, undo, redo } = historyOf(parts, view)
  return (
    <header className="flex shrink-0 flex-wrap items-center gap-x-3 border-b-2 border-ink px-3 md:h-12 md:flex-nowrap">
      <Link
        href="/"
        className="flex items-center gap-1.5 rounded-sm pr-1"
        aria-label="Back to the shelf"
        title="Back to the shelf"
      >
        <Mark />
        <span className="font-title text-[19px] font-semibold italic">Shelf</span>
      </Link>
      <span className="text-rule-strong" aria-hidden>
        /
      </span>
      <h1 className="sr-only">
        {document.name}: {STAGES[stage].title}
      </h1>
      <NameField name={document.name} onName={(name) => edit({ ...document, name })} />
      <nav className="order-1 flex grow md:order-none md:mx-auto md:grow-0 md:gap-1" aria-label="Stages">
        {STAGE_NAMES.map((each) => (
          <button
            key={each}
            type="button"
            aria-current={stage === each ? 'page' : undefined}
            className={`h-11 border-b-4 px-2 pt-1 text-[16px] md:h-12 md:px-4 ${stage === each ? 'border-brass-bright font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
            onClick={() => show(each)}
          >
            {STAGES[each].title}
            <StageMark stage={each} />
          </button>
        ))}
      </nav>
      <span
        role="status"
        className={`text-[13px] ${SAVING_WORDS[saving] === 'Not saved' ? 'text-alert' : 'text-ink-soft'}`}
      >
        {SAVING_WORDS[saving]}
      </span>
      <div className="order-1 flex items-center md:order-none">
        {hasJobs && <JobsButton />}
        <Button look="quiet" aria-label="Undo" title="Undo (Ctrl + Z)" disabled={!canUndo} onClick={undo}>
          <Icon name="undo" />
        </Button>
        <Button
          look="quiet"
          aria-label="Redo"
          title="Redo (Ctrl + Shift + Z)"
          disabled={!canRedo}
          onClick={redo}
        >
          <Icon name="redo" />
        </Button>
        <VersionsDialog />
        <ExportMenu />
        <ThemeButton />
        <KeysDialog />
      </div>
    </header>
  )
}

function StageMark({ stage }: { stage: Stage }) {
  const { Mark: Beside }: StageView = STAGES[stage]
  return Beside ? <Beside /> : null
}

/** The environment's name, changed in place. */
function NameField({ name, onName }: { name: string; onName(name: string): void }) {
  const [draft, setDraft] = useState<string | null>(null)
  const finish = () => {
    const text = draft?.trim().slice(0, 120)
    if (text && text !== name) onName(text)
    setDraft(null)
  }
  return (
    <input
      aria-label="Name of the environment"
      className="w-0 min-w-24 grow rounded-sm md:w-64 md:grow-0 border border-transparent bg-transparent px-1.5 py-0.5 font-title text-[19px] font-semibold text-ellipsis hover:border-rule-strong focus:bg-sheet"
      value={draft ?? name}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish()
        if (event.key === 'Escape') setDraft(null)
      }}
    />
  )
}
