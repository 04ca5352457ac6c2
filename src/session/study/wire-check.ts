import { actionToward } from '../../core/check/hand'
import { linkedFinding } from '../check/finding-link'
import { follow } from '../follow'
import { stateWalked } from '../check/check-session'
import { cursorOf, stateAt } from './cursor'
import type { Study } from './study'

/** Checks follow the environment; in Check the selection follows the walk, and an action the selection. */
export function wireCheck({ study, model, check, held }: Study): () => void {
  const shown = () => study.getState().stage === 'check'
  // What a link asks for, until there is a report to look it up in.
  let linked = shown() && globalThis.location ? linkedFinding(location.href) : null
  const stops = [
    follow(
      [model.store, study],
      () => {
        const { compiled, problems, progress } = model.store.getState()
        const { document } = study.getState()
        return [compiled, problems, progress, document, shown()] as const
      },
      (compiled, problems, progress, document, wanted) => {
        // While a model is made the one before is still there.
        if (!progress) check.open(document, compiled, problems, wanted)
      },
    ),
    follow(
      [check.store, study],
      () => {
        const { compiled } = model.store.getState()
        return [shown() && compiled ? stateWalked(compiled.model, check.store.getState()) : null] as const
      },
      (state) => {
        if (state !== null) study.getState().select(cursorOf(model.store.getState().compiled, state))
      },
    ),
    follow(
      [study],
      () => [study.getState().cursor] as const,
      (cursor) => {
        const { compiled } = model.store.getState()
        const state = check.store.getState()
        if (!shown() || !compiled || state.walked.kind !== 'hand') return
        const at = stateWalked(compiled.model, state)
        const chosen = stateAt(compiled, cursor)
        if (at === null || chosen === null || chosen === at) return
        const action = actionToward(compiled.model, at, chosen)
        if (action !== null) check.act(action)
      },
    ),
  ]
  stops.push(
    follow(
      [check.store],
      () => {
        const { report, stale } = check.store.getState()
        return [stale ? null : report] as const
      },
      (report) => {
        if (!report || linked === null) return
        check.follow(linked)
        linked = null
      },
    ),
  )
  // What was played belongs to the model that it was played on.
  stops.push(
    follow(
      [model.store],
      () => [model.store.getState().compiled] as const,
      (_compiled) => held.clear(),
    ),
  )
  return () => {
    for (const stop of stops) stop()
    check.stop()
    held.stop()
  }
}
