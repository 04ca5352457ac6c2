'use client'

import { useCallback } from 'react'
import { readOwnStandings } from '../../session/api/student'
import { StandingsTable } from '../class/StandingsTable'
import { useStandings } from '../class/use-standings'

/** The standings of the class, with the student's own line marked. @param count  how many hand-ins are scored */
export function OwnStandings({ id, count }: { id: string; count: number }) {
  const standings = useStandings(
    useCallback(() => readOwnStandings(id), [id]),
    count,
  )
  return (
    <section aria-label="Standings">
      <h2 className="border-b border-rule-strong pb-1 font-title text-[21px] font-semibold">Standings</h2>
      {standings && <StandingsTable standings={standings} />}
    </section>
  )
}
