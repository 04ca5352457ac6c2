'use client'

import { useMemo } from 'react'
import { significantNumber } from '../../../core/formats/number'
import { EChart } from '../../charts/EChart'
import { scheduleChart, type MovingSchedule } from '../../charts/schedule-chart'

/** A schedule as a small curve over the run. */
export function SchedulePreview({
  of,
  schedule,
  episodes,
}: {
  of: string
  schedule: MovingSchedule
  episodes: number
}) {
  const build = useMemo(() => scheduleChart(schedule, episodes), [schedule, episodes])
  const { from, to } = schedule
  return (
    <div className="h-24">
      <EChart
        small
        build={build}
        label={`${of} over the run, from ${significantNumber(from)} to ${significantNumber(to)}`}
      />
    </div>
  )
}
