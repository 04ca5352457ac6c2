'use client'

import { useMemo, useState } from 'react'
import type { Compiled } from '../../core/kinds/kinds'
import { kindView } from '../kinds/kinds'
import type { ShownOverlay } from '../board/overlay'
import { Checkbox } from '../parts/Checkbox'
import { ProblemList } from '../parts/ProblemList'
import { PictureSlot } from '../study/PictureSlot'
import { useModel, useParts, useStudy } from '../study/study-context'
import { useOverlay } from '../study/use-overlay'
import { useStage } from '../study/use-stage'

/** The board, or several where the stage has more to show than one. */
export function BoardsPane({ compiled }: { compiled: Compiled | null }) {
  const parts = useParts()
  const { stage } = useStage()
  const boards = stage.boards?.(parts) ?? []
  const [common, setCommon] = useState(true)
  if (boards.length < 2) return <KindBoard compiled={compiled} board={0} />
  return (
    <>
      <Checkbox
        className="text-[13px]"
        checked={common}
        title="With one scale, equal colours mean equal numbers on all boards."
        onChange={setCommon}
      >
        One colour scale for all boards
      </Checkbox>
      <div className="grid min-h-0 flex-1 auto-cols-fr grid-flow-col gap-6">
        {boards.map(({ slot, label, Caption }, board) => (
          <div key={slot} className="flex min-h-0 min-w-0 flex-col gap-1" role="group" aria-label={label}>
            <Caption />
            <PictureSlot slot={slot}>
              <KindBoard
                compiled={compiled}
                board={board}
                beside={common ? (board + 1) % boards.length : undefined}
                name={label}
              />
            </PictureSlot>
          </div>
        ))}
      </div>
    </>
  )
}

/** The board of the environment's kind. */
function KindBoard({
  compiled,
  board,
  beside,
  name,
}: {
  compiled: Compiled | null
  board: number
  /** The board that has the same colour scale. */
  beside?: number
  name?: string
}) {
  const parts = useParts()
  const document = useStudy((state) => state.document)
  const problems = useModel((state) => state.problems)
  const own = useOverlay(board)
  const other = useOverlay(beside ?? board).overlay
  const shown = useMemo<ShownOverlay>(
    () =>
      beside !== undefined && own.overlay && other
        ? { ...own, overlay: { ...own.overlay, scaledWith: other } }
        : own,
    [own, other, beside],
  )
  const { stage } = useStage()
  const { Pane, drawsWithoutModel, desk } = kindView(document.kind)
  if (compiled?.kind === document.kind || drawsWithoutModel)
    return (
      <Pane document={document} compiled={compiled} shown={shown} edits={stage.edits(parts)} name={name} />
    )
  if (problems.length === 0) return <p className="mt-16 text-center text-ink-soft">Compiling the model …</p>
  // Where the document is written, its faults stand under the text or the sheet.
  if (stage.writes && desk) return <p className="mt-16 text-center text-ink-soft">{desk.waiting}</p>
  return <ProblemList problems={problems} />
}
