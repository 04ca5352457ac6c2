'use client'

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import Link from 'next/link'
import { useStore } from 'zustand'
import { formatCount } from '../../core/formats/number'
import type { JobChange, JobState, JobSummary } from '../../server/contract/jobs'
import { Button } from '../parts/Button'
import { ProgressBar } from '../parts/ProgressBar'
import { useParts } from './study-context'

const STATES: Readonly<Record<JobState, string>> = {
  active: 'at work',
  paused: 'paused',
  done: 'done',
  cancelled: 'cancelled',
  failed: 'failed',
}

/** What the server is at work on: a button with how many jobs, and their list. Nothing where there are none. */
export function JobsButton() {
  const { jobs } = useParts()
  const { jobs: list, notice, problem } = useStore(jobs.store)
  const open = list.filter(({ state }) => state === 'active').length
  if (!list.length) return null
  return (
    <Popover>
      <PopoverButton
        className="rounded-sm px-1.5 py-1 text-[13px] hover:bg-rule/50"
        title="What the server is at work on"
        onClick={() => void jobs.watch()}
      >
        {open ? `${formatCount(open)} at work` : 'Jobs'}
      </PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-40 mt-1 w-[30rem] max-w-[95vw] space-y-2 rounded-sm border border-ink bg-sheet p-3 text-[13px] text-ink shadow-lg"
      >
        <h2 className="font-title text-[17px] font-semibold">Jobs of the server</h2>
        {(notice ?? problem) && (
          <p role="alert" className="text-alert">
            {notice ?? problem}
          </p>
        )}
        <ul className="max-h-96 space-y-2 overflow-auto" aria-label="Jobs">
          {list.map((job) => (
            <JobLine key={job.id} job={job} />
          ))}
        </ul>
        <p className="text-ink-soft">
          They go on when this page is closed, and after a restart of the server.
        </p>
      </PopoverPanel>
    </Popover>
  )
}

function JobLine({ job }: { job: JobSummary }) {
  const { jobs } = useParts()
  const { id, name, environment, state, priority, chunks, done, left, message } = job
  const change = (part: JobChange) => void jobs.change(id, part)
  const isOpen = state === 'active' || state === 'paused'
  return (
    <li className="border-t border-rule pt-1.5">
      <div className="flex items-baseline gap-2">
        <Link
          href={`/environment/${environment.id}/compare`}
          className="min-w-0 flex-1 truncate font-semibold"
        >
          {name} · {environment.name}
        </Link>
        <span role="status" className={state === 'failed' ? 'text-alert' : 'text-ink-soft'}>
          {STATES[state]}
          {state === 'active' && left !== null && `, about ${secondsText(left)} left`}
        </span>
      </div>
      {isOpen && <ProgressBar value={done} max={chunks} label={`${name}: parts done`} />}
      {message && <p className="text-alert">{message}</p>}
      <div className="flex flex-wrap gap-1.5">
        {state === 'active' && <SmallButton onClick={() => change({ state: 'paused' })}>Pause</SmallButton>}
        {state === 'paused' && <SmallButton onClick={() => change({ state: 'active' })}>Go on</SmallButton>}
        {isOpen && (
          <>
            <SmallButton title="Before the other jobs" onClick={() => change({ priority: priority + 1 })}>
              Sooner
            </SmallButton>
            <SmallButton title="After the other jobs" onClick={() => change({ priority: priority - 1 })}>
              Later
            </SmallButton>
            <SmallButton onClick={() => change({ state: 'cancelled' })}>Cancel</SmallButton>
          </>
        )}
        {!isOpen && (
          <SmallButton title="Off the list; runs that were taken stay" onClick={() => void jobs.remove(id)}>
            Remove
          </SmallButton>
        )}
        {priority !== 0 && <span className="self-center text-ink-soft">priority {priority}</span>}
      </div>
    </li>
  )
}

function SmallButton(props: Parameters<typeof Button>[0]) {
  return <Button className="!px-1.5 !py-0 text-[13px]" {...props} />
}

function secondsText(seconds: number): string {
  if (seconds < 90) return `${formatCount(Math.ceil(seconds))} s`
  if (seconds < 5400) return `${formatCount(Math.round(seconds / 60))} minutes`
  return `${formatCount(Math.round(seconds / 3600))} hours`
}
