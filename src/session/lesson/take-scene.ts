import type { Hand, HandState } from '../../core/check/hand'
import { knobsOf } from '../../core/environment/knobs'
import { rowOf, type Model } from '../../core/model/model'
import { heldByNames } from '../../core/plan/held-names'
import { nameInLink } from '../check/finding-link'
import { choiceOf } from '../plan/plan-session'
import { stateAt } from '../study/cursor'
import type { CheckScene, HandScene, LearnScene, PlanScene, Scene } from '../../core/lesson/scene'
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
  const { frame, unit, beside, held } = state
  return {
    ...choiceOf(state),
    unit,
    held: held && heldByNames(held),
    beside,
    finished: frame?.finished ?? false,
    sweep: frame?.sweep ?? 0,
    done: frame?.done ?? null,
    backups: frame?.backups ?? 0,
  }
}

/** Null where the run cannot be played again, as it began with a table that was given to it. */
function learnScene({ study, learn, seeds }: Study): LearnScene | null {
  const { runs, size } = seeds.store.getState()
  const { choice, running, frame, window, episodeStep, given } = learn.store.getState()
  return given
    ? null
    : {
        choice: running ?? choice,
        steps: frame?.steps ?? 0,
        reached: frame?.reached ?? 0,
        window,
        episodeStep,
        seeds: study.getState().stage === 'learn' && runs.length > 0 ? size : 0,
      }
}

/** Null where nothing is walked, and of episodes of a policy. */
function checkScene({ check, model }: Study): CheckScene | null {
  const { report, chosen, at, hand, played, walked } = check.store.getState()
  const { compiled } = model.store.getState()
  const finding = report && chosen !== null ? nameInLink(report, chosen) : null
  const byHand = compiled && played && walked.kind === 'hand' && hand.moves.length > 0
  return finding || byHand
    ? { finding, at, hand: byHand ? handScene(compiled.model, hand, played) : null }
    : null
}

function handScene(model: Model, { seed, episode, start, moves }: Hand, { walk }: HandState): HandScene {
  return {
    seed,
    episode,
    start: start === null ? null : model.labels[start],
    moves: moves.map(({ action, forced }, i) => {
      const state = i === 0 ? walk.start : model.outcomeState[walk.outcomes[i - 1]]
      const row = rowOf(model, state, action)
      return {
        action: model.actions[action],
        forced: forced === null ? null : forced - model.outcomeStart[row],
      }
    }),
  }
}
