import type { Scene } from '../../core/lesson/scene'
import type { Study } from '../../session/study/study'

/** How long a view may take, in milliseconds: then it is taken as it is. */
const PATIENCE = 90_000

/** Runs something once a study shows what a scene says, or does not come to it in time. @returns stops waiting */
export function whenShown(parts: Study, scene: Scene, run: () => void): () => void {
  const { model, plan, learn, check, compare } = parts
  const isShown = () => {
    if (!model.store.getState().compiled) return false
    const planned = plan.store.getState().frame
    if (scene.plan && !(planned && !planned.running && (scene.plan.finished ? planned.finished : true)))
      return false
    const learned = learn.store.getState().frame
    if (scene.learn && !(learned && !learned.running && (learned.done || learned.steps >= scene.learn.steps)))
      return false
    if (scene.stage === 'check' && !check.store.getState().report) return false
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
