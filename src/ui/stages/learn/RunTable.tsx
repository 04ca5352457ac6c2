'use client'

import { useStore } from 'zustand'
import { cursorOf, stateAt } from '../../../session/study/cursor'
import { StateTable } from '../../board/StateTable'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { useOverlay } from '../../study/use-overlay'
import { useLastChange } from '../../study/use-stage'

/** The table of the run beside the board: the last change marked; it follows the agent while the run stands still. */
export function RunTable() {
  const { learn } = useParts()
  const compiled = useModel((state) => state.compiled)
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const select = useStudy((state) => state.select)
  const running = useStore(learn.store, (state) => state.frame?.running === true)
  const { overlay, titles } = useOverlay()
  const change = useLastChange()
  if (!compiled || !overlay) return null
  const { preferences = false } = overlay
  const what = overlay.rowValues ? titles.rows : titles.values
  return (
    <div className="space-y-1">
      <p className="text-[13px] text-ink-soft">
        Of each state the {what}; ▸ marks{' '}
        {preferences ? 'the most likely action' : 'what the greedy policy picks'}, the frame what the last
        step changed.
      </p>
      <div className="h-64">
        <StateTable
          compact
          label="Table of the run"
          model={compiled.model}
          overlay={overlay}
          rowTitle={titles.rows}
          selected={stateAt(compiled, cursor)}
          pointed={pointed}
          change={change}
          follows={!running}
          onSelect={(state) => select(cursorOf(compiled, state))}
        />
      </div>
    </div>
  )
}
