import { formatCount, significantNumber } from '../../../core/formats/number'
import { scheduleAt, standsAfter, type Schedule } from '../../../core/learn/schedule'

const WIDTH = 360
const HEIGHT = 64
const LEFT = 34
const BOTTOM = 16
const POINTS = 80

/** A schedule as a small curve over the run, with the place where it reaches its floor. */
export function SchedulePreview({
  of,
  schedule,
  episodes,
}: {
  of: string
  schedule: Extract<Schedule, { per: unknown }>
  episodes: number
}) {
  const { from, to, per } = schedule
  const floorAt = standsAfter(schedule)
  // How many steps a run will have nobody knows: of those a little more than it takes to the floor is shown.
  const end = per === 'episode' ? episodes : Math.ceil(floorAt * 1.25)
  const top = Math.max(from, to)
  const x = (count: number) => LEFT + (count / end) * (WIDTH - LEFT - 8)
  const y = (value: number) => 6 + (1 - value / (top || 1)) * (HEIGHT - BOTTOM - 8)
  const points = Array.from({ length: POINTS + 1 }, (_, i) => {
    const count = (i / POINTS) * end
    return `${x(count).toFixed(1)},${y(scheduleAt(schedule, count)).toFixed(1)}`
  })
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full text-ink-soft"
      role="img"
      aria-label={`${of} over the run, from ${significantNumber(from)} to ${significantNumber(to)}`}
    >
      <line x1={LEFT} x2={WIDTH - 8} y1={y(0)} y2={y(0)} className="stroke-rule-strong" />
      <line x1={LEFT} x2={LEFT} y1={4} y2={y(0)} className="stroke-rule-strong" />
      {floorAt < end && (
        <line
          x1={x(floorAt)}
          x2={x(floorAt)}
          y1={4}
          y2={y(0)}
          strokeDasharray="2 3"
          className="stroke-ink-soft"
        />
      )}
      <polyline points={points.join(' ')} fill="none" strokeWidth={2} className="stroke-slate" />
      <g className="fill-current text-[11px]">
        <text x={LEFT - 4} y={y(top) + 4} textAnchor="end">
          {significantNumber(top)}
        </text>
        <text x={LEFT - 4} y={y(0)} textAnchor="end">
          0
        </text>
        <text x={LEFT} y={HEIGHT - 3}>
          {per} 1
        </text>
        <text x={WIDTH - 8} y={HEIGHT - 3} textAnchor="end">
          {formatCount(end)}
        </text>
        {floorAt < end && floorAt > end * 0.16 && floorAt < end * 0.86 && (
          <text x={x(floorAt)} y={HEIGHT - 3} textAnchor="middle">
            floor at {formatCount(floorAt + 1)}
          </text>
        )}
      </g>
    </svg>
  )
}
