'use client'

import { useCallback } from 'react'
import { readStandings } from '../../session/api/classes'
import { ButtonLink, PageHeader } from '../parts/PageHeader'
import { StandingsTable } from './StandingsTable'
import { useStandings } from './use-standings'

/** The standings of an exercise, for the projector: they grow as students hand in. */
export function StandingsPage({
  classId,
  className,
  assignment,
  name,
}: {
  classId: string
  className: string
  assignment: string
  name: string
}) {
  const standings = useStandings(useCallback(() => readStandings(classId, assignment), [classId, assignment]))
  return (
    <div className="min-h-dvh">
      <PageHeader
        title={name}
        back={`/classes/${classId}`}
        backWords="Back to the class"
        actions={<ButtonLink href={`/classes/${classId}`}>{className}</ButtonLink>}
      >
        Standings
        {standings && (
          <>
            {': '}
            {standings.standings.length} student{standings.standings.length === 1 ? '' : 's'} with a score
            {standings.waiting > 0 && `, ${standings.waiting} hand-ins wait`}
            {standings.revealed ? '; ranked by the hidden seed' : ''}
          </>
        )}
      </PageHeader>
      <main className="px-4 pt-6 pb-16 sm:px-8">
        {standings && <StandingsTable standings={standings} large />}
      </main>
    </div>
  )
}
