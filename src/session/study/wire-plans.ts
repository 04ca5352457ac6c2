import { follow } from '../follow'
import { choiceOf, type PlanChoice } from '../plan/plan-session'
import type { PolicyFinder } from '../plan/policy-source'
import { findPolicy } from '../plan/policy-sources'
import { cursorOf, stateAt } from './cursor'
import type { Study } from './study'

/** Keeps the plans with the model on the board, with the selected state, and with each other. */
export function wirePlans({ study, model, plan, beside, drive, learn }: Study): () => void {
  const stops = [
    follow(
      [model.store, study, plan.store],
      () => {
        const { stage, planned, document } = study.getState()
        return [
          model.store.getState().compiled,
          stage === 'plan',
          stage === 'build' && planned,
          plan.store.getState().beside,
          document.policy,
        ] as const
      },
      (compiled, shown, building, second) => {
        if (!compiled || !(shown || building)) return
        const find: PolicyFinder = (source) => findPolicy(source, compiled, study.getState().document, learn)
        plan.open(compiled.model, find)
        if (building) plan.follow()
        if (building || second === null) return
        const openSecond = () => {
          const choice: PlanChoice = { ...choiceOf(plan.store.getState()), method: second }
          const differing = Object.entries(choice).filter(
            ([key, value]) => beside.store.getState()[key as keyof PlanChoice] !== value,
          )
          if (differing.length) beside.choose(Object.fromEntries(differing))
          beside.open(compiled.model, find)
        }
        openSecond()
        const followed = [plan.store.subscribe(openSecond), drive.keep()]
        return () => followed.forEach((stop) => stop())
      },
    ),
    follow(
      [model.store, study],
      () => [stateAt(model.store.getState().compiled, study.getState().cursor)] as const,
      (state) => plan.watch(state),
    ),
    // Going by single backups, the selection goes along, and the working with it.
    plan.store.subscribe(({ frame }, before) => {
      const { compiled } = model.store.getState()
      if (!compiled || !frame || frame.current < 0 || frame.current === before.frame?.current) return
      const { stage, cursor, select } = study.getState()
      const next = cursorOf(compiled, frame.current)
      if (stage === 'plan' && next !== cursor) select(next)
    }),
  ]
  return () => {
    for (const stop of stops) stop()
    plan.close()
    beside.close()
  }
}
