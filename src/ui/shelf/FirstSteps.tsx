'use client'

import Link from 'next/link'
import { useSyncExternalStore, type ReactNode } from 'react'
import type { EnvironmentSummary } from '../../server/contract/environments'
import { Icon } from '../parts/Icon'
import { hideFirstSteps, watchFirstSteps, wantsFirstSteps } from './first-steps'

const LOOK =
  'font-semibold underline decoration-brass-bright decoration-2 underline-offset-4 hover:decoration-ink'

/** What to do first, for who has not been here before; put away by a click, and on an empty shelf always there. */
export function FirstSteps({
  tour,
  first,
  busy,
  onBegin,
}: {
  /** The lesson that shows around. */
  tour: string | undefined
  /** The first environment of the shelf that can be solved. */
  first: EnvironmentSummary | undefined
  busy: boolean
  /** Makes a small grid of one's own. */
  onBegin(): void
}) {
  // The server does not know whether they were put away: the page hides them before it is painted.
  const wanted = useSyncExternalStore(watchFirstSteps, wantsFirstSteps, () => true)
  if (!wanted && first) return null
  const steps: readonly (readonly [key: string, act: ReactNode, words: string])[] = [
    ...(tour
      ? [
          [
            'tour',
            <Link key="tour" href={`/lesson/${tour}/present`} prefetch={false} className={LOOK}>
              Take the tour
            </Link>,
            'five short views that can be played with',
          ] as const,
        ]
      : []),
    [
      'own',
      <button key="own" type="button" className={LOOK} disabled={busy} onClick={onBegin}>
        Draw a grid of your own
      </button>,
      'a small hall to begin with; its values follow every stroke',
    ],
    ...(first
      ? [
          [
            'first',
            <Link key="first" href={`/environment/${first.id}/plan`} prefetch={false} className={LOOK}>
              Solve “{first.name}”
            </Link>,
            'press To the end, then select a state to see how its value was worked out',
          ] as const,
        ]
      : []),
  ]
  return (
    <section
      aria-label="First steps"
      className={`${first ? 'first-steps' : ''} relative mt-5 rounded-sm border border-rule-strong bg-sheet py-2.5 pr-10 pl-4`}
    >
      <h2 className="font-title text-[17px] font-semibold">First time here?</h2>
      <ul className="mt-1 grid gap-x-8 gap-y-1.5 md:grid-cols-3">
        {steps.map(([key, act, words]) => (
          <li key={key}>
            {act}
            <span className="block text-[13px] text-ink-soft">{words}</span>
          </li>
        ))}
      </ul>
      {first && (
        <button
          type="button"
          className="absolute top-2 right-2 rounded-sm p-1 text-ink-soft hover:bg-rule/50 hover:text-ink"
          aria-label="Put the first steps away"
          title="Put them away"
          onClick={hideFirstSteps}
        >
          <Icon name="cross" className="size-3.5" />
        </button>
      )}
    </section>
  )
}
