'use client'

import type { Compiled } from '../../core/kinds/kinds'
import { cursorOf, stateAt } from '../../session/study/cursor'
import { StateTable } from '../board/StateTable'
import { BoardFrame } from '../study/BoardFrame'
import { useStudy } from '../study/study-context'
import { useOverlay } from '../study/use-overlay'
import { useLastChange } from '../study/use-stage'

/** The environment as a table: rows states, columns actions. */
export function TablePane({ compiled }: { compiled: Compiled | null }) {
  const cursor = useStudy((state) => state.cursor)
  const pointed = useStudy((state) => state.pointed)
  const select = useStudy((state) => state.select)
  const { overlay, titles } = useOverlay()
  const change = useLastChange()
  if (!compiled) return null
  return (
    <BoardFrame
      legends={
        overlay?.values && (
          <span className="text-[13px] text-ink-soft">
            {titles.values === 'value' ? '' : `Value: ${titles.values}; `}▸ marks what the policy picks.
          </span>
        )
      }
    >
      <StateTable
        model={compiled.model}
        overlay={overlay}
        rowTitle={titles.rows}
        selected={stateAt(compiled, cursor)}
        pointed={pointed}
        change={change}
        label="Table of states"
        onSelect={(state) => select(cursorOf(compiled, state))}
      />
    </BoardFrame>
  )
}
