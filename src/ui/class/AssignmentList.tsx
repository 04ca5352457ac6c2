'use client'

import Link from 'next/link'
import { useState } from 'react'
import type { AssignmentSummary } from '../../server/contract/classes'
import { changeAssignment, handInsAddress } from '../../session/api/classes'
import { Button } from '../parts/Button'
import { closingText } from '../student/closing'
import { TermsFields } from './TermsFields'

const LINK = 'underline decoration-dotted underline-offset-4'

/** What is handed out to a class: its standings, its hand-ins, its terms. */
export function AssignmentList({
  classId,
  assignments,
  busy,
  change,
}: {
  classId: string
  assignments: readonly AssignmentSummary[]
  busy: boolean
  change(run: () => Promise<void>): void
}) {
  const [changing, setChanging] = useState<string | null>(null)
  const [withdrawing, setWithdrawing] = useState<string | null>(null)
  return (
    <ul aria-label="Handed out">
      {assignments.map((each) => (
        <li key={each.id} className="space-y-1.5 border-b border-rule py-3">
          <p className="flex flex-wrap items-baseline gap-x-3">
            <span className="mr-auto min-w-0 font-title text-[19px] font-semibold break-words">
              {each.name}
            </span>
            <span className="text-[15px]">
              {each.handIns} hand-in{each.handIns === 1 ? '' : 's'} of {each.students} student
              {each.students === 1 ? '' : 's'}
            </span>
          </p>
          <p className="text-[15px] text-ink-soft" suppressHydrationWarning>
            {closingText(each.closesAt)} ·{' '}
            {each.tries === null ? 'unlimited tries' : `${each.tries} tr${each.tries === 1 ? 'y' : 'ies'}`} ·{' '}
            {each.madeUpNames ? 'made-up names' : 'own names'}
            {each.hidden && ` · hidden scores ${each.revealed ? 'revealed' : 'not revealed'}`}
          </p>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
            <Link className={LINK} href={`/classes/${classId}/standings/${each.id}`} prefetch={false}>
              Standings for the projector
            </Link>
            <a className={LINK} href={handInsAddress(classId, each.id)} download>
              Hand-ins as CSV
            </a>
            {each.hidden && !each.revealed && (
              <Button
                disabled={busy}
                onClick={() => change(() => changeAssignment(classId, each.id, { change: 'reveal' }))}
              >
                Reveal hidden scores
              </Button>
            )}
            <Button look="quiet" onClick={() => setChanging(changing === each.id ? null : each.id)}>
              Change …
            </Button>
            {withdrawing === each.id ? (
              <>
                <span className="text-[13px]">Students will no longer see it.</span>
                <Button
                  disabled={busy}
                  onClick={() => change(() => changeAssignment(classId, each.id, { change: 'withdraw' }))}
                >
                  Withdraw it
                </Button>
                <Button look="quiet" onClick={() => setWithdrawing(null)}>
                  Keep it
                </Button>
              </>
            ) : (
              <Button look="quiet" onClick={() => setWithdrawing(each.id)}>
                Withdraw …
              </Button>
            )}
          </div>
          {changing === each.id && (
            <TermsFields
              terms={each}
              label="Change it"
              busy={busy}
              onTerms={(terms) =>
                change(async () => {
                  await changeAssignment(classId, each.id, { change: 'terms', terms })
                  setChanging(null)
                })
              }
            />
          )}
        </li>
      ))}
    </ul>
  )
}
