import { knobsOf } from '../../core/environment/knobs'
import { nameInLink } from '../check/finding-link'
import { choiceOf } from '../plan/plan-session'
import { stateAt } from '../study/cursor'
import type { CheckScene, LearnScene, PlanScene, Scene } from '../../core/lesson/scene'
import type { Study } from '../study/study'

/** What is on the screen of a study now. */
export function takeScene(parts: Study): Scene {
  const { stage, view, layers, cursor, spread, planned, tabs, folds, document } = parts.study.getState()
  const { compiled } = parts.model.store.getState()
  const selected = stateAt(compiled, cursor)
  return {
    stage,
    view,
    layers: [...layers],
    selected: selected === null ? null : compiled!.model.labels[selected],
    spread,
    planned,
    knobs: Object.fromEntries(knobsOf(document, compiled).map(({ name, value }) => [name, value])),
    tabs,
    folds,
    plan: stage === 'plan' || (stage === 'build' && planned) ? planScene(parts) : null,
    learn: stage === 'learn' || parts.plan.store.getState().source === 'learned' ? learnScene(parts) : null,
    compare: stage === 'compare' ? parts.compare.store.getState().comparison : null,
    check: stage === 'check' ? checkScene(parts) : null,
  }
}

function planScene({ plan }: Study): PlanScene {
  const state = plan.store.getState()
  const { frame, unit, beside } = state
  return {
    ...choiceOf(state),
    unit,
    beside,
    finished: frame?.finished ?? false,
    sweep: frame?.sweep ?? 0,
    done: frame?.done ?? null,
    backups: frame?.backups ?? 0,
  }
}

/** Null where the run cannot be played again, as it began with a table that was given to it. */
function learnScene({ learn }: Study): LearnScene | null {
  const { choice, running, frame, window, episodeStep, given } = learn.store.getState()
  return given
    ? null
    : {
        choice: running ?? choice,
        steps: frame?.steps ?? 0,
        reached: frame?.reached ?? 0,
        window,
        episodeStep,
      }
}

function checkScene({ check }: Study): CheckScene | null {
  const { report, chosen, at } = check.store.getState()
  return report && chosen !== null ? { finding: nameInLink(report, chosen), at } : null
}
