'use client'

import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import type { ReactNode } from 'react'

export interface TabPart {
  readonly title: string
  /** Something goes on there: a dot says so while another tab is open. */
  readonly busy?: boolean
  readonly content: ReactNode
}

/** Parts of a side column of which one is open. */
export function Tabs({
  label,
  parts,
  open,
  onOpen,
}: {
  label: string
  parts: readonly TabPart[]
  /** The title of the one that is open; the first one where there is none of that title. */
  open: string | undefined
  onOpen(title: string): void
}) {
  const selected = Math.max(
    0,
    parts.findIndex(({ title }) => title === open),
  )
  return (
    <TabGroup selectedIndex={selected} onChange={(place) => onOpen(parts[place].title)}>
      <TabList aria-label={label} className="-mx-1 flex flex-wrap border-b border-rule-strong">
        {parts.map(({ title, busy }) => (
          <Tab
            key={title}
            className={`relative -mb-px border-b-2 border-transparent ${parts.length > 7 ? 'px-[2px] tracking-[-0.01em]' : 'px-1.5'} py-1 text-[13px] whitespace-nowrap text-ink-soft data-selected:border-brass-bright data-selected:font-semibold data-selected:text-ink`}
          >
            {title}
            {busy && <span className="absolute -top-1 right-0 text-brass-bright">•</span>}
          </Tab>
        ))}
      </TabList>
      <TabPanels className="pt-2">
        {parts.map(({ title, content }) => (
          <TabPanel key={title} className="space-y-2">
            {content}
          </TabPanel>
        ))}
      </TabPanels>
    </TabGroup>
  )
}
