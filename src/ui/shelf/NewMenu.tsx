'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { newBandit } from '../../core/kinds/bandit/blank'
import { newRulebook } from '../../core/kinds/rulebook/blank'
import { newTable } from '../../core/kinds/table/blank'
import { Icon } from '../parts/Icon'
import { NewGridDialog } from './NewGridDialog'

const KINDS: readonly { title: string; what: string; make?: () => EnvironmentDocument }[] = [
  { title: 'New grid', what: 'cells to draw on' },
  { title: 'New bandit', what: 'arms that pay', make: () => newBandit('New bandit') },
  { title: 'New rulebook', what: 'rules to write', make: () => newRulebook('New rulebook') },
  { title: 'New table', what: 'transitions in a sheet', make: () => newTable('New table') },
]

/** Begins an environment of any kind. */
export function NewMenu({
  busy,
  onMake,
  onMade,
}: {
  busy: boolean
  onMake(document: EnvironmentDocument): void
  onMade(id: string): void
}) {
  const [asking, setAsking] = useState(false)
  return (
    <>
      <Menu>
        <MenuButton
          disabled={busy}
          className="inline-flex items-center gap-1.5 rounded-sm border border-ink bg-ink px-3 py-1 leading-5 whitespace-nowrap text-paper hover:opacity-90 disabled:opacity-40"
        >
          <Icon name="plus" className="size-4" /> New environment
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-40 mt-1 rounded-sm border border-ink bg-sheet py-1 text-ink shadow-lg"
        >
          {KINDS.map(({ title, what, make }) => (
            <MenuItem key={title}>
              <button
                type="button"
                aria-label={title}
                className="flex w-full items-baseline justify-between gap-6 px-3 py-1 text-left data-focus:bg-rule/60"
                onClick={() => (make ? onMake(make()) : setAsking(true))}
              >
                <span className="font-semibold">{title.slice(4, 5).toUpperCase() + title.slice(5)}</span>
                <span className="text-[13px] text-ink-soft">{what}</span>
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      <NewGridDialog open={asking} onClose={() => setAsking(false)} onMade={onMade} />
    </>
  )
}
