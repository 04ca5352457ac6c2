import { cursorAfter } from './cursor'
import { followDocument } from './follow-document'
import type { Study } from './study'

/** The model follows the document at once, so that a board never mixes the two, and the selection the model. */
export function wireModel({ study, model, plan, beside, learn }: Study): () => void {
  model.open(study.getState().document)
  const stops = [
    study.subscribe((state, before) => {
      if (state.document !== before.document)
        followDocument(before.document, state.document, { plan, beside, learn })
      model.open(state.document)
    }),
    model.store.subscribe((state, before) => {
      if (state.compiled === before.compiled) return
      const { cursor, select } = study.getState()
      const after = cursorAfter(before.compiled, state.compiled, cursor)
      if (after !== cursor) select(after)
    }),
  ]
  return () => {
    for (const stop of stops) stop()
    model.close()
  }
}
