'use client'

import { useState } from 'react'
import type { VersionSummary } from '../../server/contract/environments'
import { sinceText } from '../shelf/since'
import { Button } from './Button'

/** Earlier states of something, the latest in front, and the field that keeps the present one under a name. */
export function VersionList({
  list,
  chosen,
  onChoose,
  onKeep,
}: {
  /** Null while it is looked for. */
  list: readonly VersionSummary[] | null
  /** The one that is looked at, by its id. */
  chosen: string | undefined
  onChoose(version: VersionSummary): void
  onKeep(name: string): Promise<void>
}) {
  const [name, setName] = useState('')
  return (
    <div className="flex min-h-0 flex-col gap-3">
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim()) void onKeep(name.trim()).then(() => setName(''))
        }}
      >
        <input
          aria-label="Name of the version"
          className="min-w-0 flex-1 rounded-sm border border-rule-strong bg-sheet px-2 py-1"
          placeholder="Name"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          Keep this version
        </Button>
      </form>
      {list === null ? (
        <p className="text-ink-soft">Looking …</p>
      ) : list.length === 0 ? (
        <p className="text-ink-soft">
          None yet. The first state is kept automatically, and so is any state that stood unchanged for two
          minutes. Give the present state a name to keep it now.
        </p>
      ) : (
        <ul className="min-h-0 flex-1 overflow-y-auto border-y border-rule" aria-label="Versions">
          {list.map((version) => (
            <li key={version.id}>
              <button
                type="button"
                aria-pressed={chosen === version.id}
                className={`block w-full border-b border-rule px-2 py-1.5 text-left ${chosen === version.id ? 'bg-brass-bright/20' : 'hover:bg-rule/40'}`}
                onClick={() => onChoose(version)}
              >
                <span className={`block truncate ${version.name ? 'font-semibold' : 'text-ink-soft'}`}>
                  {version.name ?? 'kept automatically'}
                </span>
                <span className="text-[13px] text-ink-soft">
                  {sinceText(new Date(version.createdAt), new Date())},{' '}
                  {new Date(version.createdAt).toLocaleString('en-GB', {
                    dateStyle: 'medium',
                    timeStyle: 'short',
                  })}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

export function titleOf(version: VersionSummary): string {
  return version.name ?? `the state of ${new Date(version.createdAt).toLocaleString('en-GB')}`
}
