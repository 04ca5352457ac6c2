'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import type { EnvironmentDocument, Kind } from '../../core/kinds/kinds'
import { KIND_NAMES, outlineOf } from '../../core/kinds/outlines'
import { COVERS } from '../kinds/covers'
import { Icon } from '../parts/Icon'

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
  const [asking, setAsking] = useState<Kind | null>(null)
  const [asked, setAsked] = useState<ReadonlySet<Kind>>(new Set())
  const ask = (kind: Kind) => {
    setAsked(new Set([...asked, kind]))
    setAsking(kind)
  }
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
          modal={false}
          className="z-40 mt-1 rounded-sm border border-ink bg-sheet py-1 text-ink shadow-lg"
        >
          {KIND_NAMES.map((kind) => {
            const { title, blank } = outlineOf(kind)
            const { what, Dialog } = COVERS[kind]
            return (
              <MenuItem key={kind}>
                <button
                  type="button"
                  aria-label={`New ${title.toLowerCase()}`}
                  className="flex w-full items-baseline justify-between gap-6 px-3 py-1 text-left data-focus:bg-rule/60"
                  onClick={() => (Dialog ? ask(kind) : onMake(blank(`New ${title.toLowerCase()}`)))}
                >
                  <span className="font-semibold">{title}</span>
                  <span className="text-[13px] text-ink-soft">{what}</span>
                </button>
              </MenuItem>
            )
          })}
        </MenuItems>
      </Menu>
      {KIND_NAMES.map((kind) => {
        const { Dialog } = COVERS[kind]
        return (
          // What asks is loaded when it is first wanted.
          Dialog &&
          asked.has(kind) && (
            <Dialog key={kind} open={asking === kind} onClose={() => setAsking(null)} onMade={onMade} />
          )
        )
      })}
    </>
  )
}
