import { modelOfRun } from '../../core/environment/problem-of-run'
import { linkedComparison } from '../compare/comparison-link'
import { follow } from '../follow'
import { findPolicy } from '../plan/policy-sources'
import { stateAt } from './cursor'
import type { Study } from './study'

/** Keeps the run with the model on the board and with the selected state. */
export function wireLearning({
  study,
  model,
  learn,
  seeds,
  diagnosis,
  agents,
  compare,
  jobs,
  trials,
  course,
}: Study): () => void {
  const compiledNow = () => model.store.getState().compiled
  const stops = [
    follow(
      [model.store, study],
      // Compare takes its settings and the optimum from there.
      () => [compiledNow(), ['learn', 'compare'].includes(study.getState().stage)] as const,
      (compiled, shown) => {
        if (!compiled || !shown) return
        const { document } = study.getState()
        learn.open(
          compiled.model,
          (source) => findPolicy(source, compiled, study.getState().document, learn),
          (seed, run) => modelOfRun(document, compiled.model, seed, run),
        )
        seeds.open(compiled.model)
        agents.open(document, learn.store.getState().choice)
      },
    ),
    follow(
      [study],
      () => [study.getState().stage === 'compare'] as const,
      (shown) => {
        if (!shown) return
        void compare
          .open(linkedComparison(window.location.href))
          .then(() =>
            jobs.watch({ known: (job) => compare.store.getState().taken[job] ?? 0, take: compare.take }),
          )
      },
    ),
    // Trials belong to a model; what goes on in the run puts the trial that is watched away.
    follow(
      [model.store],
      () => [compiledNow()] as const,
      (_compiled) => trials.clear(),
    ),
    // What was found belongs to a run on a model.
    follow(
      [model.store, learn.store],
      () => [compiledNow()?.model, learn.store.getState().running] as const,
      (_model, _running) => diagnosis.clear(),
    ),
    learn.store.subscribe((state, before) => {
      if (state.frame?.steps !== before.frame?.steps) trials.watch(null)
    }),
    follow(
      [model.store, study, learn.store],
      () => [stateAt(compiledNow(), study.getState().cursor), learn.store.getState().running] as const,
      (state) => learn.watch(state),
    ),
  ]
  // Jobs that go on are told in the head.
  void jobs.watch()
  return () => {
    for (const stop of stops) stop()
    learn.close()
    seeds.stop()
    diagnosis.close()
    agents.stop()
    compare.stop()
    jobs.stop()
    void compare.shelf.save()
    trials.stop()
    course.stop()
  }
}
