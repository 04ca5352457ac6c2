import type { LearnScene, PlanScene, Scene } from '../../core/lesson/scene'
import type { LearnFrame } from '../../hosts/protocol/learn'
import type { PlanFrame } from '../../hosts/protocol/plan'
import type { Study } from '../../session/study/study'

/** How long a view may take, in milliseconds: then it is taken as it is. */
const PATIENCE = 90_000

function isPlanned({ finished, sweep }: PlanScene, frame: PlanFrame | null): boolean {
  if (!frame || frame.running) return false
  // One that has become shorter ends before that sweep.
  return frame.finished || (!finished && frame.sweep === sweep)
}

function isLearned({ steps, reached }: LearnScene, frame: LearnFrame | null): boolean {
  if (!frame || frame.running) return false
  return frame.done || (frame.reached >= reached && frame.steps === steps)
}

/** Runs something once a study shows what a scene says, or does not come to it in time. @returns stops waiting */
export function whenShown(parts: Study, scene: Scene, run: () => void): () => void {
  const { model, plan, learn, check, compare } = parts
  const isShown = () => {
    const { compiled, problems } = model.store.getState()
    if (scene.stage === 'check' && !check.store.getState().report) return false
    // Without a model nothing more comes.
    if (!compiled) return problems.length > 0
    if (scene.plan && !isPlanned(scene.plan, plan.store.getState().frame)) return false
    if (scene.learn && !isLearned(scene.learn, learn.store.getState().frame)) return false
    return !(scene.stage === 'compare' && compare.store.getState().running)
  }
  const sources = [model.store, plan.store, learn.store, check.store, compare.store]
  let over = false
  const look = () => {
    if (over || !isShown()) return
    stop()
    run()
  }
  const unsubscribe = sources.map((source) => source.subscribe(look))
  const timer = setTimeout(() => {
    stop()
    run()
  }, PATIENCE)
  const stop = () => {
    over = true
    clearTimeout(timer)
    unsubscribe.forEach((each) => each())
  }
  // What begins at once is not there yet in the first moment.
  const soon = setTimeout(look, 300)
  return () => {
    clearTimeout(soon)
    stop()
  }
}
