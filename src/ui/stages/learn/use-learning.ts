import { useEffect } from 'react'
import { useStore } from 'zustand'
import { stateAt } from '../../study/selection'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { findPolicy } from '../plan/policy-sources'

/** Keeps the run with the model on the board and with the selected state. */
export function useLearning(): void {
  const { study, learn, crowd, trials, course } = useParts()
  const compiled = useModel((state) => state.compiled)
  const shown = useStudy((state) => state.stage === 'learn')
  const cursor = useStudy((state) => state.cursor)
  const running = useStore(learn.store, (state) => state.running)

  useEffect(() => {
    if (!compiled || !shown) return
    learn.open(compiled.model, (source) => findPolicy(source, compiled, study.getState().document, learn))
    crowd.open(compiled.model)
  }, [study, learn, crowd, compiled, shown])

  // Trials belong to a model; what goes on in the run puts the trial that is watched away.
  useEffect(() => trials.clear(), [trials, compiled])
  useEffect(
    () =>
      learn.store.subscribe((state, before) => {
        if (state.frame?.steps !== before.frame?.steps) trials.watch(null)
      }),
    [learn, trials],
  )

  useEffect(() => {
    learn.watch(stateAt(compiled, cursor))
  }, [learn, compiled, cursor, running])

  useEffect(
    () => () => {
      learn.close()
      crowd.stop()
      trials.stop()
      course.stop()
    },
    [learn, crowd, trials, course],
  )
}
