'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { ClassRecord, ExerciseSummary } from '../../server/contract/classes'
import { changeClass, deleteClass, putOut } from '../../session/api/classes'
import { askClass } from '../../session/api/questions'
import { Button } from '../parts/Button'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { ProblemList } from '../parts/ProblemList'
import { AskForm } from './AskForm'
import { AssignmentList } from './AssignmentList'
import { HandOutForm } from './HandOutForm'
import { useChange } from '../parts/use-change'

/** How often it is looked who entered and handed in, in milliseconds. */
const LOOKING = 4_000

/** A class, as its instructor sees it: how to enter, who is there, what is handed out. */
export function ClassPage({
  record,
  exercises,
  entry,
}: {
  record: ClassRecord
  exercises: readonly ExerciseSummary[]
  /** Where students enter; null while it is closed. */
  entry: {
    readonly address: string
    /** The address as a QR code, SVG. */
    readonly qr: string
    /** Whether only this machine can reach it. */
    readonly alone: boolean
  } | null
}) {
  const router = useRouter()
  const { busy, problems, change } = useChange()
  const [deleting, setDeleting] = useState(false)
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), LOOKING)
    return () => clearInterval(timer)
  }, [router])
  const { id, name, code, members, assignments } = record
  return (
    <div className="min-h-dvh">
      <PageHeader
        title={name}
        back="/classes"
        backWords="Back to the classes"
        actions={
          <>
            <ButtonLink href={`/classes/${id}/log`}>Change log</ButtonLink>
            <ButtonLink href="/classes">Classes</ButtonLink>
          </>
        }
      >
        {code === null ? 'Closed: students reach nothing of it.' : 'Open.'}
      </PageHeader>
      <main className="grid max-w-6xl gap-x-12 gap-y-8 px-4 pt-6 pb-16 sm:px-8 lg:grid-cols-[19rem_minmax(0,1fr)]">
        <div className="space-y-8">
          <section aria-label="How to enter" className="space-y-2">
            {entry && code !== null ? (
              <>
                <p className="font-mono text-[46px] leading-[52px] font-semibold tracking-[0.12em]">{code}</p>
                {/* Black on white in both themes: phones read nothing else well. */}
                <div
                  className="w-full max-w-60 bg-white p-2"
                  role="img"
                  aria-label={`QR code of ${entry.address}`}
                  dangerouslySetInnerHTML={{ __html: entry.qr }}
                />
                <p className="text-[15px] break-all">{entry.address}</p>
                {entry.alone && (
                  <p className="border-l-2 border-alert pl-2.5 text-[13px] text-ink-soft">
                    Only this machine can reach it now. Start the server with HOST=0.0.0.0 for a class:
                    docs/class.md says how.
                  </p>
                )}
                <div className="flex flex-wrap gap-2 pt-1">
                  <Button
                    disabled={busy}
                    title="Those who are in stay in; the code of before opens nothing any more"
                    onClick={() => change(() => changeClass(id, { change: 'new-code' }))}
                  >
                    New code
                  </Button>
                  <Button disabled={busy} onClick={() => change(() => changeClass(id, { change: 'close' }))}>
                    Close the class
                  </Button>
                </div>
              </>
            ) : (
              <Button
                look="ink"
                disabled={busy}
                onClick={() => change(() => changeClass(id, { change: 'open' }))}
              >
                Open it again, with a new code
              </Button>
            )}
          </section>
          <section>
            <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
              Students <span className="text-[15px] font-normal text-ink-soft">{record.students}</span>
            </h2>
            <ul aria-label="Students" className="max-h-96 overflow-y-auto">
              {members.map((member) => (
                <li key={member.id} className="flex items-baseline gap-2 border-b border-rule py-1">
                  <span
                    className={`mr-auto min-w-0 truncate ${member.putOut ? 'text-ink-soft line-through' : ''}`}
                  >
                    {member.name}
                  </span>
                  {member.alias !== member.name && (
                    <span className="shrink-0 text-[13px] text-ink-soft">{member.alias}</span>
                  )}
                  <Button
                    look="quiet"
                    className="text-[13px]"
                    disabled={busy}
                    aria-label={`${member.putOut ? 'Let back in' : 'Remove'}: ${member.name}`}
                    onClick={() => change(() => putOut(id, member.id, !member.putOut))}
                  >
                    {member.putOut ? 'Let back in' : 'Remove'}
                  </Button>
                </li>
              ))}
            </ul>
            {!members.length && <p className="pt-2 text-ink-soft">Nobody has entered yet.</p>}
          </section>
          <section className="space-y-2">
            {deleting ? (
              <>
                <p className="text-[13px]">
                  Students, hand-ins, scores and answers of this class are gone for good then.
                </p>
                <Button
                  disabled={busy}
                  onClick={() =>
                    change(async () => {
                      await deleteClass(id)
                      router.push('/classes')
                    })
                  }
                >
                  Delete it for good
                </Button>
                <Button look="quiet" onClick={() => setDeleting(false)}>
                  Keep it
                </Button>
              </>
            ) : (
              <Button look="quiet" className="text-ink-soft" onClick={() => setDeleting(true)}>
                Delete the class …
              </Button>
            )}
          </section>
        </div>
        <div className="min-w-0 space-y-6">
          <ProblemList problems={problems} />
          <section>
            <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
              Handed out
            </h2>
            {!assignments.length && <p className="py-3 text-ink-soft">Nothing yet.</p>}
            <AssignmentList classId={id} assignments={assignments} busy={busy} change={change} />
          </section>
          {code !== null && (
            <section className="space-y-3">
              <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">
                Ask the class
              </h2>
              <AskForm
                busy={busy}
                onAsk={(question, truth) =>
                  change(async () => {
                    const asked = await askClass(id, question, truth)
                    router.push(`/classes/${id}/question/${asked}`)
                  })
                }
              />
            </section>
          )}
          {code !== null && <HandOutForm classId={id} exercises={exercises} busy={busy} change={change} />}
        </div>
      </main>
    </div>
  )
}
