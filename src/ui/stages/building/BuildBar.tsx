'use client'

import { Checkbox } from '../../parts/Checkbox'
import { kindView } from '../../kinds/kinds'
import { useCovered, useStudy } from '../../study/study-context'

/** Above the board in Build: how to draw on it, and whether the plan lies over it. */
export function BuildBar() {
  const kind = useStudy((state) => state.document.kind)
  const planned = useStudy((state) => state.planned)
  const setPlanned = useStudy((state) => state.setPlanned)
  const covered = useCovered()
  const { buildHint } = kindView(kind)
  return (
    <>
      {buildHint && <span className="text-[13px] text-ink-soft">{buildHint}</span>}
      {!covered && (
        <Checkbox
          title="Values and policy follow every edit."
          checked={planned}
          onChange={(checked) => setPlanned(checked)}
        >
          Show the plan
        </Checkbox>
      )}
    </>
  )
}
