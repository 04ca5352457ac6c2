import { findPolicy } from '../plan/policy-sources'
import type { PolicySource } from '../plan/policy-source'
import type { Study } from '../study/study'

/** Plays runs with the settings that are chosen in Learn, each with other random numbers. */
export function startSeeds({ study, model, learn, seeds }: Study, size: number): void {
  const { compiled } = model.store.getState()
  if (!compiled) return
  const { document } = study.getState()
  const { choice, given, window } = learn.store.getState()
  seeds.start(compiled.model, choice, size, {
    policy: findPolicy(choice.source as PolicySource, compiled, document, learn),
    table: given?.table ?? null,
    window,
    document,
  })
}
