import type { Scene } from '../../core/lesson/scene'
import { cursorOf } from '../study/cursor'
import type { Study } from '../study/study'

/** What of a scene is followed in place; when anything else differs, it is shown anew. */
const IN_PLACE = ['view', 'layers', 'selected', 'spread', 'planned', 'tabs', 'folds'] as const
const OF_PLAN = ['sweep', 'done', 'backups', 'finished'] as const
const OF_LEARN = ['steps', 'reached', 'episodeStep', 'window'] as const

const without = (value: object | null, names: readonly string[]) =>
  JSON.stringify(value && Object.fromEntries(Object.entries(value).filter(([name]) => !names.includes(name))))

/** Whether one scene comes to another by what is followed in place. */
export function isNear(before: Scene, after: Scene): boolean {
  return (
    without(before, [...IN_PLACE, 'plan', 'learn']) === without(after, [...IN_PLACE, 'plan', 'learn']) &&
    without(before.plan, OF_PLAN) === without(after.plan, OF_PLAN) &&
    without(before.learn, OF_LEARN) === without(after.learn, OF_LEARN)
  )
}

/** Brings a study from one scene to another that is near. */
export function followScene({ study, plan, learn, drive, model }: Study, before: Scene, after: Scene): void {
  const { view, layers, spread, planned, tabs, folds, selected } = after
  study.setState({ view, layers: new Set(layers), spread, planned, tabs, folds })
  const { compiled } = model.store.getState()
  if (selected !== before.selected && compiled) {
    const state = selected === null ? -1 : compiled.model.labels.indexOf(selected)
    study.getState().select(state < 0 ? null : cursorOf(compiled, state))
  }
  if (after.plan && JSON.stringify(after.plan) !== JSON.stringify(before.plan)) {
    const { finished, sweep, done, backups } = after.plan
    if (finished && !before.plan?.finished) drive.finish()
    else {
      if (backups > (plan.store.getState().frame?.backups ?? 0)) drive.match(backups)
      if (done === null) plan.go(sweep)
      else plan.go(sweep, done)
    }
  }
  if (after.learn && JSON.stringify(after.learn) !== JSON.stringify(before.learn)) {
    const { steps, reached, episodeStep, window } = after.learn
    learn.setWindow(window)
    learn.reach(reached, steps)
    if (episodeStep !== null) {
      learn.askEpisode()
      learn.showEpisodeStep(episodeStep)
    }
  }
}
