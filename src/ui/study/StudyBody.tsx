'use client'

import { useState, type ReactNode } from 'react'
import { kindView } from '../kinds/kinds'
import { STAGES } from '../stages/stages'
import type { StageView } from '../stages/stage'
import { SpreadPlace } from '../timeline/spread-place'
import { BoardPane } from './BoardPane'
import { KnobPanel } from './KnobPanel'
import { PictureSlot } from './PictureSlot'
import { useStudy } from './study-context'

/**
 * What stands below the head: the board, the side column, the timeline.
 * @param bare   without the side column and what the document is written in
 * @param before  what stands before the board, in a column of its own
 * @param strip  with the timeline, where the stage has one
 */
export function StudyBody({
  bare = false,
  strip = true,
  before,
}: {
  bare?: boolean
  strip?: boolean
  before?: ReactNode
}) {
  const [place, setPlace] = useState<HTMLElement | null>(null)
  const name = useStudy((state) => state.stage)
  const document = useStudy((state) => state.document)
  const { title, Panel, Strip, writes }: StageView = STAGES[name]
  const { desk } = kindView(document.kind)
  const shownDesk = writes && !bare ? desk : null
  const columns = bare
    ? 'grid-rows-[26rem]'
    : shownDesk
      ? `grid-rows-[26rem_26rem_auto] ${shownDesk.columns}`
      : 'grid-rows-[26rem_auto] md:grid-cols-[minmax(0,1fr)_25.5rem]'
  return (
    <>
      <main
        className={
          before
            ? `grid min-h-0 flex-1 ${bare ? 'grid-cols-[auto_minmax(0,1fr)] grid-rows-1' : 'grid-cols-1 grid-rows-[auto_26rem_auto] md:grid-cols-[auto_minmax(0,1fr)_20rem] md:grid-rows-1'}`
            : `grid min-h-0 flex-1 grid-cols-1 md:grid-rows-1 ${columns}`
        }
      >
        {before}
        {shownDesk && <shownDesk.Desk document={document} />}
        <PictureSlot slot="board">
          <BoardPane bar={!(bare && writes)} onSpreadPlace={setPlace} />
        </PictureSlot>
        {!bare && (
          <aside
            className="min-h-0 space-y-4 overflow-y-auto border-l border-rule-strong bg-sheet px-4 py-3"
            aria-label={title}
          >
            {!shownDesk?.knobsInPanel && <KnobPanel document={document} />}
            <Panel />
          </aside>
        )}
      </main>
      <SpreadPlace value={place}>
        <PictureSlot slot="strip">{Strip && strip && <Strip />}</PictureSlot>
      </SpreadPlace>
    </>
  )
}
