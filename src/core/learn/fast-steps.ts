import type { LearnSettings } from '../settings/settings'
import type { Learner } from './learner'
import { standsAfter } from './schedule'

/** Below so many steps a call of a kernel is not worth while. */
const FEW = 64

/** Runs that cannot have more updates than this are not worth the memory of a kernel. */
const SHORT = 100_000

/** @param updates  of each step */
export function paysForKernel({ episodes, cap }: LearnSettings, updates = 1): boolean {
  return episodes * cap * updates > SHORT
}

/** How a learner with a kernel takes its steps. */
export interface FastSteps {
  /** As a learner without one does. */
  plain(limit: number, episodes: number): number
  /** Brings exploration and learning rate up to date, before an episode begins. */
  tick(): void
  /** By the kernel, with exploration and learning rate as they are: so many steps, or until so many episodes are finished. */
  many(limit: number, until: number): number
  /** Whether the run is over now. */
  check(): void
}

/** Takes up to `limit` steps, by the kernel where nothing changes meanwhile. @returns the steps taken */
export function advanceFast(learner: Learner, steps: FastSteps, limit: number, episodes: number): number {
  const { log, settings } = learner
  const { stop } = settings
  let taken = 0
  while (taken < limit && log.count < episodes && learner.status.outcome === 'learning') {
    const pace = paceOf(learner)
    if (pace === 'step' || limit - taken < FEW) {
      taken += steps.plain(Math.min(limit - taken, FEW), episodes)
      continue
    }
    if (learner.state < 0) steps.tick()
    const byEpisode = pace === 'episode' || stop.kind === 'mean-return'
    const until = Math.min(episodes, settings.episodes, byEpisode ? log.count + 1 : Infinity)
    const most = Math.min(
      limit - taken,
      stop.kind === 'steps' ? Math.max(1, stop.count - learner.steps) : Infinity,
      2 ** 31 - 1,
    )
    taken += steps.many(most, until)
    steps.check()
  }
  return taken
}

/** How long exploration and learning rate stay as they are: a step, an episode, or for good. */
function paceOf({ settings, steps, log }: Learner): 'step' | 'episode' | 'for good' {
  let pace: 'episode' | 'for good' = 'for good'
  for (const schedule of [settings.exploration.level, settings.learningRate]) {
    if (!('per' in schedule)) continue
    // The learner takes notice when an episode begins, or with the step after.
    const stands =
      schedule.per === 'step' ? steps > standsAfter(schedule) : log.count >= standsAfter(schedule)
    if (stands) continue
    if (schedule.per === 'step') return 'step'
    pace = 'episode'
  }
  return pace
}
