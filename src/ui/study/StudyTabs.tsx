'use client'

import { Tabs, type TabPart } from '../parts/Tabs'
import { useStudy } from './study-context'

/** Tabs of the side column; the study knows which one is open. */
export function StudyTabs({ label, parts }: { label: string; parts: readonly TabPart[] }) {
  const open = useStudy((state) => state.tabs[label])
  const openTab = useStudy((state) => state.openTab)
  return <Tabs label={label} parts={parts} open={open} onOpen={(title) => openTab(label, title)} />
}
