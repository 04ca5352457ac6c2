import type { EChartsCoreOption } from 'echarts/core'
import { formatCount, significantNumber } from '../../core/formats/number'
import { scheduleAt, standsAfter, type Schedule } from '../../core/learn/schedule'
import { houseAxes, type Inks } from './house'

const POINTS = 80

/** A schedule that moves, with episodes or with steps. */
export type MovingSchedule = Extract<Schedule, { per: unknown }>

/** A schedule as a small curve over the run, with the place where it reaches its final value. */
export function scheduleChart(schedule: MovingSchedule, episodes: number): (inks: Inks) => EChartsCoreOption {
  const { from, to, per } = schedule
  const floorAt = standsAfter(schedule)
  // How many steps a run will have nobody knows: of those a little more than it takes to the final value is shown.
  const end = per === 'episode' ? episodes : Math.ceil(floorAt * 1.25)
  const top = Math.max(from, to) || 1
  const points = Array.from({ length: POINTS + 1 }, (_, i) => {
    const count = (i / POINTS) * end
    return [count, scheduleAt(schedule, count)]
  })
  return (inks) => ({
    ...houseAxes(
      inks,
      { name: `${per}s`, min: 0, max: end },
      {
        type: 'value',
        min: 0,
        max: top,
        interval: top,
        axisLabel: { color: inks('ink-soft'), formatter: (value: number) => significantNumber(value) },
      },
    ),
    grid: { left: 44, right: 12, top: 8, bottom: 34 },
    tooltip: { show: false },
    series: [
      {
        type: 'line',
        data: points,
        showSymbol: false,
        silent: true,
        lineStyle: { color: inks('slate'), width: 2 },
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          lineStyle: { color: inks('ink-soft'), type: 'dotted' },
          label: {
            color: inks('ink-soft'),
            position: floorAt > end / 2 ? 'insideEndTop' : 'insideEndBottom',
            rotate: 0,
            formatter: `final from ${per} ${formatCount(floorAt + 1)}`,
          },
          data: floorAt < end ? [{ xAxis: floorAt }] : [],
        },
      },
    ],
  })
}
