'use client'

import {
  SCHEDULES,
  scheduleSentence,
  type Pace,
  type Schedule,
  type ScheduleKind,
} from '../../../core/learn/schedule'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { SchedulePreview } from './SchedulePreview'

interface Props {
  /** What the schedule is of, such as `Exploration`. */
  readonly of: string
  readonly schedule: Schedule
  readonly episodes: number
  readonly min: number
  readonly max: number
  /** Whether `min` itself is too small. */
  readonly aboveMin?: boolean
  readonly isRate?: boolean
  /** A new schedule begins with this floor. */
  readonly floor: number
  onChange(schedule: Schedule): void
}

const PACES: Record<Pace, string> = { episode: 'each episode', step: 'each step' }

/** How a number changes as learning goes on: its kind, where it ends and when, and the curve of it. */
export function ScheduleFields({
  of,
  schedule,
  episodes,
  min,
  max,
  aboveMin,
  isRate = false,
  floor,
  onChange,
}: Props) {
  const kinds = (Object.keys(SCHEDULES) as ScheduleKind[]).filter(
    (kind) => isRate || !SCHEDULES[kind].ratesOnly,
  )
  const titles = Object.fromEntries(kinds.map((kind) => [kind, SCHEDULES[kind].title]))
  const falls = schedule.kind === 'linear' || schedule.kind === 'exponential'
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <Select
          label={`${of} in the run`}
          value={schedule.kind}
          options={titles}
          hint={SCHEDULES[schedule.kind].hint}
          onChange={(kind) => onChange(converted(schedule, kind as ScheduleKind, episodes, floor))}
        />
        {(falls || schedule.kind === 'drop') && (
          <NumberField
            label={schedule.kind === 'drop' ? 'Then' : 'Final value'}
            value={schedule.to}
            min={min}
            max={max}
            aboveMin={aboveMin || schedule.kind === 'exponential'}
            hint={`${of} decays to this and stays there.`}
            onChange={(to) => onChange({ ...schedule, to })}
          />
        )}
        {schedule.kind === 'visits' && (
          <NumberField
            label="Halves after (updates)"
            value={schedule.slowness}
            min={1}
            max={1e9}
            hint="After this many updates of a cell its learning rate is half the initial one."
            onChange={(slowness) => onChange({ ...schedule, slowness })}
          />
        )}
        {falls && (
          <>
            <NumberField
              label={`Final from ${schedule.per}`}
              whole
              value={schedule.over}
              min={1}
              max={1e9}
              hint={`The first ${schedule.per} with the final value.`}
              onChange={(over) => onChange({ ...schedule, over })}
            />
            <Select
              label="Falls"
              value={schedule.per}
              options={PACES}
              hint="What is counted: finished episodes, or steps."
              onChange={(per) => onChange({ ...schedule, per: per as Pace })}
            />
          </>
        )}
      </div>
      {falls && <SchedulePreview of={of} schedule={schedule} episodes={episodes} />}
      <p className="text-[13px] leading-[18px] text-ink-soft">{scheduleSentence(schedule, episodes)}</p>
    </div>
  )
}

/** The same numbers under another kind, as far as they mean something there. */
function converted(schedule: Schedule, kind: ScheduleKind, episodes: number, floor: number): Schedule {
  const { from } = schedule
  const to = 'to' in schedule ? schedule.to : Math.min(floor, from || floor)
  switch (kind) {
    case 'constant':
      return { kind, from }
    case 'linear':
      return { kind, from, to, over: overOf(schedule, episodes), per: paceOf(schedule) }
    case 'exponential':
      return {
        kind,
        from: from > 0 ? from : 1,
        to: to > 0 ? to : floor,
        over: overOf(schedule, episodes),
        per: paceOf(schedule),
      }
    case 'visits':
      return { kind, from: 1, slowness: 1 }
    case 'drop':
      return { kind, from, to }
  }
}

function overOf(schedule: Schedule, episodes: number): number {
  return 'over' in schedule ? schedule.over : Math.max(1, Math.round(episodes / 2))
}

function paceOf(schedule: Schedule): Pace {
  return 'per' in schedule ? schedule.per : 'episode'
}
