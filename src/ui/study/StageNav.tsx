'use client'

import { STAGE_NAMES, type Stage } from '../../core/lesson/names'
import type { StageView } from '../stages/stage'
import { STAGES } from '../stages/stages'
import { useStudy } from './study-context'

/** The stages, and which one is shown. */
export function StageNav() {
  const stage = useStudy((state) => state.stage)
  const show = useStudy((state) => state.show)
  return (
    <nav className="order-1 flex grow md:order-none md:mx-auto md:grow-0 md:gap-1" aria-label="Stages">
      {STAGE_NAMES.map((each) => (
        <button
          key={each}
          type="button"
          aria-current={stage === each ? 'page' : undefined}
          className={`h-11 border-b-4 px-2 pt-1 text-[16px] md:h-12 md:px-4 ${stage === each ? 'border-brass-bright font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
          onClick={() => show(each)}
        >
          {STAGES[each].title}
          <StageMark stage={each} />
        </button>
      ))}
    </nav>
  )
}

function StageMark({ stage }: { stage: Stage }) {
  const { Mark: Beside }: StageView = STAGES[stage]
  return Beside ? <Beside /> : null
}
