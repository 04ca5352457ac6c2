import { exponential } from '../random/exponential'
import { formatCount, formatNumber, significantNumber } from '../formats/number'
import { logarithm } from '../random/logarithm'

/** What a schedule counts: finished episodes, or steps. */
export type Pace = 'episode' | 'step'

/** A number that may change as learning goes on: an exploration, a temperature, a learning rate. */
export type Schedule =
  | { readonly kind: 'constant'; readonly from: number }
  /** Is at `to` in episode or step number `over`, and stays there: it goes by equal amounts, or by equal factors. */
  | {
      readonly kind: 'linear' | 'exponential'
      readonly from: number
      readonly to: number
      readonly over: number
      readonly per: Pace
    }
  /**
   * For a learning rate: from × slowness / (slowness + n − 1) at the n-th update of a cell (Darken & Moody 1992).
   * With `from` 1 and `slowness` 1 it is 1/n, and the cell the plain mean of its targets.
   */
  | { readonly kind: 'visits'; readonly from: number; readonly slowness: number }
  /** For a learning rate: `from` until exploration has reached its final value, then `to`. */
  | { readonly kind: 'drop'; readonly from: number; readonly to: number }

export type ScheduleKind = Schedule['kind']

/** Every kind of schedule, once: its name, what it does, and where it makes sense. */
export const SCHEDULES: {
  readonly [K in ScheduleKind]: {
    readonly title: string
    readonly hint: string
    /** Whether it is for learning rates only. */
    readonly ratesOnly: boolean
  }
} = {
  constant: { title: 'constant', hint: 'The same in every step.', ratesOnly: false },
  linear: {
    title: 'linear decay',
    hint: 'Changes by the same amount each time, linearly, until it reaches its final value.',
    ratesOnly: false,
  },
  exponential: {
    title: 'exponential decay',
    hint: 'Changes by the same factor each time, exponentially, until it reaches its final value.',
    ratesOnly: false,
  },
  visits: {
    title: 'decays with visits (1/n)',
    hint: 'Each cell of the table has its own: the more often it was updated, the smaller. What convergence proofs ask for.',
    ratesOnly: true,
  },
  drop: {
    title: 'drops when exploration ends',
    hint: 'Stays until exploration has reached its final value, then takes a smaller value.',
    ratesOnly: true,
  },
}

export function constant(from: number): Schedule {
  return { kind: 'constant', from }
}

/**
 * A schedule when `count` episodes or steps, as its pace asks, are over. Of one by visits, and of one that drops, the
 * value it begins with.
 */
export function scheduleAt(schedule: Schedule, count: number): number {
  if (schedule.kind !== 'linear' && schedule.kind !== 'exponential') return schedule.from
  const { from, to, over } = schedule
  if (count >= over - 1) return to
  const part = count / (over - 1)
  return schedule.kind === 'linear'
    ? from + (to - from) * part
    : from * exponential(logarithm(to / from) * part)
}

/** After how many of `pace` a schedule stands still; 0 when it always does or goes by something else. */
export function standsAfter(schedule: Schedule): number {
  return schedule.kind === 'linear' || schedule.kind === 'exponential' ? schedule.over - 1 : 0
}

/** A schedule of a learning rate at the `count`-th update of a cell, from 1. */
export function rateOfVisit(schedule: Schedule, count: number): number {
  return schedule.kind === 'visits'
    ? (schedule.from * schedule.slowness) / (schedule.slowness + count - 1)
    : schedule.from
}

/** Says what a schedule comes to in a run of so many episodes. */
export function scheduleSentence(schedule: Schedule, episodes: number): string {
  const shown = (value: number) => significantNumber(value)
  switch (schedule.kind) {
    case 'constant':
      return `Stays at ${shown(schedule.from)} throughout.`
    case 'visits':
      return schedule.from === 1 && schedule.slowness === 1
        ? '1/n: a cell is the plain mean of its targets so far.'
        : `${shown(schedule.from)} at the first update of a cell, half of it at update ${formatCount(schedule.slowness + 1)}.`
    case 'drop':
      return `${shown(schedule.from)} until exploration has reached its final value, then ${shown(schedule.to)}.`
    default: {
      const { kind, from, to, over, per } = schedule
      const changes = Math.max(1, over - 1)
      const by =
        kind === 'linear'
          ? `${from >= to ? 'Falls' : 'Rises'} by ${shown(Math.abs(from - to) / changes)} each ${per}`
          : `Times ${formatNumber(exponential(logarithm(to / from) / changes), 6)} each ${per}`
      if (per === 'step') return `${by}; reaches its final value in step ${formatCount(over)}.`
      return over <= episodes
        ? `${by}; reaches its final value in episode ${formatCount(over)} of ${formatCount(episodes)}.`
        : `${by}; the run ends before its final value, at ${shown(scheduleAt(schedule, episodes - 1))}.`
    }
  }
}

/** A schedule in a few letters: `0.1`, `1 → 0.05`, `1/n`. */
export function scheduleInBrief(schedule: Schedule): string {
  if (schedule.kind === 'visits') return schedule.slowness === 1 ? '1/n' : 'by visits'
  return 'to' in schedule && schedule.to !== schedule.from
    ? `${significantNumber(schedule.from)} → ${significantNumber(schedule.to)}`
    : significantNumber(schedule.from)
}
