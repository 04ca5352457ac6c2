'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import Link from 'next/link'
import { useEffect, useRef, useState, useSyncExternalStore, type RefObject } from 'react'
import { outlineOf } from '../../core/kinds/outlines'
import { formatCount } from '../../core/formats/number'
import type { EnvironmentSummary } from '../../server/contract/environments'
import { readEnvironment, readPicture, readText } from '../../session/api/environments'
import { downloadText } from '../parts/download'
import { fileName } from '../../core/formats/file-name'
import { Icon } from '../parts/Icon'
import { sinceText } from './since'

interface Props {
  readonly environment: EnvironmentSummary
  onRename(name: string): void
  onDuplicate(): void
  onVariant(): void
  onDelete(): void
}

/** Whether scripts run never changes: true in the browser, false on the server. */
const noChange = () => () => {}

const MORE = 'rounded-sm px-1 py-0.5 hover:bg-rule/60'

/** One environment, standing on the shelf. */
export function ShelfItem({ environment, onRename, onDuplicate, onVariant, onDelete }: Props) {
  const { id, name, kind, states, actions, updatedAt, base, counting, uncounted, pictured, note, damage } =
    environment
  const more = `More for ${name}`
  const [renaming, setRenaming] = useState(false)
  const item = useRef<HTMLLIElement>(null)
  const near = useNear(item)
  const awake = useSyncExternalStore(
    noChange,
    () => true,
    () => false,
  )
  const picture = usePicture(environment, near)
  const take = async () => {
    const record = await readEnvironment(id)
    downloadText(fileName(name, '.json'), JSON.stringify(record.document, null, 2) + '\n', 'application/json')
  }
  const takeText = async () => downloadText(fileName(name, '.txt'), await readText(id), 'text/plain')
  const entry = (title: string, run: () => void) => (
    <MenuItem key={title}>
      <button type="button" className="block w-full px-3 py-1 text-left data-focus:bg-rule/60" onClick={run}>
        {title}
      </button>
    </MenuItem>
  )
  return (
    <li ref={item} className="flex flex-col">
      <Link
        href={`/environment/${id}/build`}
        className="group flex h-52 items-end justify-center border-b-[7px] border-brass/70 px-4"
        tabIndex={-1}
        aria-hidden
      >
        {/* A frame without its picture would move when that comes. */}
        {(picture ?? damage ?? !pictured) && (
          <span className="block max-h-full border-[5px] border-b-0 border-ink bg-sheet p-1 shadow-[3px_0_0_var(--rule)] transition-transform group-hover:-translate-y-1 [&_svg]:block [&_svg]:h-auto [&_svg]:max-h-44 [&_svg]:w-auto [&_svg]:max-w-64">
            {picture ? (
              <span dangerouslySetInnerHTML={{ __html: picture }} />
            ) : (
              <span className="flex size-44 items-center justify-center text-center text-ink-soft">
                {damage === null ? 'too large for a picture' : 'cannot be read'}
              </span>
            )}
          </span>
        )}
      </Link>
      <div className="flex items-start gap-2 px-4 pt-2">
        <div className="min-w-0 flex-1">
          {renaming ? (
            <RenameField
              name={name}
              onDone={(next) => {
                setRenaming(false)
                if (next && next !== name) onRename(next)
              }}
            />
          ) : (
            <Link
              href={`/environment/${id}/build`}
              className="block truncate font-title text-[19px] leading-6 font-semibold hover:underline"
              title={name}
            >
              {name}
            </Link>
          )}
          <p className="text-[13px] leading-5 text-ink-soft">
            {outlineOf(kind).title} ·{' '}
            {damage !== null ? (
              <span className="text-alert">cannot be read: {damage}</span>
            ) : counting ? (
              'counting states …'
            ) : states === null ? (
              <span className={uncounted ? undefined : 'text-alert'}>
                {uncounted ? 'states not counted yet' : 'does not compile yet'}
              </span>
            ) : (
              `${formatCount(states)} state${states === 1 ? '' : 's'} · ${actions} action${actions === 1 ? '' : 's'}`
            )}
            <br />
            {base && (
              <>
                variant of <span className="font-semibold">{base.name}</span>,{' '}
              </>
            )}
            changed{' '}
            <time dateTime={updatedAt} suppressHydrationWarning>
              {sinceText(new Date(updatedAt), new Date())}
            </time>
          </p>
          {note && <p className="mt-1.5 line-clamp-3 text-[14px] leading-5">{note}</p>}
        </div>
        {/* The server renders a plain button: many menus take it long. Before the page runs none can be opened: no click is lost. */}
        {awake ? (
          <Menu>
            <MenuButton className={MORE} aria-label={more}>
              <Icon name="more" />
            </MenuButton>
            <MenuItems
              anchor="bottom end"
              className="z-40 mt-1 rounded-sm border border-ink bg-sheet py-1 text-ink shadow-lg"
            >
              {damage === null ? (
                <>
                  {entry('Rename', () => setRenaming(true))}
                  {entry('Duplicate', onDuplicate)}
                  {entry('New variant', onVariant)}
                  {entry('Export (JSON)', () => void take())}
                </>
              ) : (
                entry('Export its text', () => void takeText())
              )}
              {entry('Delete', onDelete)}
            </MenuItems>
          </Menu>
        ) : (
          <button type="button" disabled className={MORE} aria-label={more}>
            <Icon name="more" />
          </button>
        )}
      </div>
    </li>
  )
}

/** The picture of an environment, once it is wanted; null until it is there. */
function usePicture({ id, revision, pictured }: EnvironmentSummary, wanted: boolean): string | null {
  const [picture, setPicture] = useState<string | null>(null)
  useEffect(() => {
    if (!wanted || !pictured) return
    let current = true
    readPicture(id, revision).then(
      (svg) => current && setPicture(svg),
      // Without its picture it stands on the shelf all the same; what is wrong is told when it is opened.
      () => current && setPicture(null),
    )
    return () => {
      current = false
    }
  }, [id, revision, pictured, wanted])
  return picture
}

/** How far below the window a picture is drawn already. */
const AHEAD = '400px'

/** True once an element came near the window: a long shelf draws no pictures that nobody looks at. */
function useNear(element: RefObject<Element | null>): boolean {
  const [near, setNear] = useState(false)
  useEffect(() => {
    const observer = new IntersectionObserver(
      ([entry]) => {
        if (!entry.isIntersecting) return
        setNear(true)
        observer.disconnect()
      },
      { rootMargin: AHEAD },
    )
    observer.observe(element.current!)
    return () => observer.disconnect()
  }, [element])
  return near
}

function RenameField({ name, onDone }: { name: string; onDone(name: string | null): void }) {
  const [draft, setDraft] = useState(name)
  return (
    <input
      ref={(element) => element?.focus()}
      aria-label="New name"
      className="w-full rounded-sm border border-ink bg-sheet px-1 font-title text-[18px] leading-6"
      value={draft}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={() => onDone(draft.trim())}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onDone(draft.trim())
        if (event.key === 'Escape') onDone(null)
      }}
    />
  )
}
