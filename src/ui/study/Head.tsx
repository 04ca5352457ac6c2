'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useStore } from 'zustand'
import { HistoryButtons } from '../parts/HistoryButtons'
import { Mark } from '../parts/Mark'
import { SavingWords } from '../parts/SavingWords'
import { TitleField } from '../parts/TitleField'
import { ThemeButton } from '../theme/ThemeButton'
import { ExportMenu } from './ExportMenu'
import { HelpDialog } from './HelpDialog'
import { VersionsDialog } from './VersionsDialog'
import { StageNav } from './StageNav'
import { useParts, useStudy } from './study-context'
import { historyOf, useStage } from './use-stage'
import { STAGES } from '../stages/stages'

/** Loaded after the rest, which stays as it is meanwhile: most of the time there are no jobs. */
const JobsButton = dynamic(() => import('./JobsButton').then((module) => module.JobsButton), {
  loading: () => null,
})

/** Loaded after the rest. */
const ShareMenu = dynamic(() => import('../lesson/ShareMenu').then((module) => module.ShareMenu), {
  loading: () => <span className="w-8" />,
})

/** The head: where one is, the stages, what can be done with the whole. One line; on a phone two. */
export function Head() {
  const document = useStudy((state) => state.document)
  const stage = useStudy((state) => state.stage)
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
      <TitleField
        label="Name of the environment"
        className="md:w-64 md:grow-0"
        name={document.name}
        onName={(name) => edit({ ...document, name })}
      />
      <StageNav />
      <SavingWords state={saving} />
      <div className="order-1 flex items-center md:order-none">
        {hasJobs && <JobsButton />}
        <HistoryButtons canUndo={canUndo} canRedo={canRedo} undo={undo} redo={redo} />
        <ShareMenu />
        <VersionsDialog />
        <ExportMenu />
        <ThemeButton />
        <HelpDialog />
      </div>
    </header>
  )
}
