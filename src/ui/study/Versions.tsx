'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError, type Problem } from '../../core/problem'
import type { VersionRecord, VersionSummary } from '../../server/contract/environments'
import { createEnvironment, keepVersion, listVersions, readVersion } from '../../session/api/environments'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { sinceText } from '../shelf/since'
import { PICTURED_LENGTH } from '../../core/limits'
import { thumbnail } from '../kinds/thumbnails'
import { ChangeList } from './ChangeList'
import { useParts, useStudy } from './study-context'

/** Earlier states of the environment: what changed since, and the way back. */
export function Versions({ onClose }: { onClose(): void }) {
  const router = useRouter()
  const { study } = useParts()
  const id = useStudy((state) => state.id)
  const document = useStudy((state) => state.document)
  const [list, setList] = useState<readonly VersionSummary[] | null>(null)
  const [chosen, setChosen] = useState<VersionRecord | null>(null)
  const [name, setName] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const attempt = async (run: () => Promise<void>) => {
    try {
      setProblems([])
      await run()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  const look = (version: VersionSummary) => attempt(async () => setChosen(await readVersion(id, version.id)))
  useEffect(() => {
    let wanted = true
    // What is still on its way to the shelf belongs to the picture.
    void study
      .getState()
      .save()
      .then(() => listVersions(id))
      .then(async (found) => {
        const newest = found.length > 0 ? await readVersion(id, found[0].id) : null
        if (!wanted) return
        setList(found)
        setChosen(newest)
      })
      .catch((error: unknown) => wanted && error instanceof ProblemError && setProblems(error.problems))
    return () => {
      wanted = false
    }
  }, [study, id])
  /** What is kept is what the shelf has: it must have everything first. */
  const settle = async () => {
    await study.getState().save()
    const { saving } = study.getState()
    if (saving.state === 'failed' || saving.state === 'stale' || saving.state === 'gone')
      throw new ProblemError([
        {
          place: 'environment',
          cause: 'The last changes are not saved yet.',
          remedy: 'Close this, and follow what the line under the head says.',
        },
      ])
  }
  const keep = () =>
    attempt(async () => {
      await settle()
      const kept = await keepVersion(id, name.trim())
      setName('')
      setList([kept, ...(list ?? [])])
      await look(kept)
    })
  const restore = (version: VersionRecord) =>
    attempt(async () => {
      await settle()
      await keepVersion(id, `before restoring ${titleOf(version)}`.slice(0, 120))
      study.getState().edit({ ...version.document, name: document.name })
      onClose()
    })
  const open = (version: VersionRecord) =>
    attempt(async () => {
      const copy: EnvironmentDocument = {
        ...version.document,
        name: `${version.document.name.slice(0, 100)} (earlier)`,
      }
      const made = await createEnvironment(JSON.stringify(copy))
      router.push(`/environment/${made.id}/build`)
    })
  return (
    <div
      className={
        list?.length
          ? 'grid h-[30rem] max-h-[70vh] w-[59rem] max-w-full grid-cols-[17rem_minmax(0,1fr)] gap-5'
          : 'w-[26rem] max-w-full'
      }
    >
      <div className="flex min-h-0 flex-col gap-3">
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (name.trim()) void keep()
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
                  aria-pressed={chosen?.id === version.id}
                  className={`block w-full border-b border-rule px-2 py-1.5 text-left ${chosen?.id === version.id ? 'bg-brass-bright/20' : 'hover:bg-rule/40'}`}
                  onClick={() => void look(version)}
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
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto">
        {problems.length > 0 && <ProblemList problems={problems} />}
        {chosen && (
          <>
            <div className="flex gap-4">
              <Picture document={chosen.document} />
              <div className="space-y-2">
                <p className="font-title text-[18px] font-semibold">{titleOf(chosen)}</p>
                <div className="flex flex-wrap gap-2">
                  <Button look="ink" onClick={() => void restore(chosen)}>
                    Restore this version
                  </Button>
                  <Button onClick={() => void open(chosen)}>Open as a copy</Button>
                </div>
                <p className="text-[13px] text-ink-soft">The present state is kept as a version first.</p>
              </div>
            </div>
            <section>
              <h3 className="mb-1 font-title text-[17px] font-semibold">Since then</h3>
              <ChangeList before={chosen.document} after={document} />
            </section>
          </>
        )}
      </div>
    </div>
  )
}

function titleOf(version: VersionSummary): string {
  return version.name ?? `the state of ${new Date(version.createdAt).toLocaleString('en-GB')}`
}

function Picture({ document }: { document: EnvironmentDocument }) {
  if (JSON.stringify(document).length > PICTURED_LENGTH) return null
  return (
    <span
      className="block shrink-0 border border-rule-strong bg-sheet p-1 [&_svg]:block [&_svg]:h-auto [&_svg]:max-h-36 [&_svg]:w-auto [&_svg]:max-w-56"
      dangerouslySetInnerHTML={{ __html: thumbnail(document) }}
    />
  )
}
