'use client'

import { useStore } from 'zustand'
import { SCORE_IDS, scoreOf } from '../../../core/compare/scores'
import { LineSelect } from '../../parts/Select'
import { useCovered, useModel, useParts } from '../../study/study-context'
import { shownScore } from '../../views/shown-told'

/** By what the runs are judged. */
export function ScoreSelect() {
  const { compare } = useParts()
  const { score, picture } = useStore(compare.store, ({ comparison }) => comparison.view)
  const covered = useCovered()
  const measures = useModel((state) => state.compiled?.measures ?? NONE)
  const ids = [...SCORE_IDS, ...measures.map(({ name }) => `measure ${name}`)].filter(
    (id) => (!covered || !scoreOf(id).exact) && (picture !== 'trials' || scoreOf(id).trials),
  )
  const shown = shownScore(score, covered)
  return (
    <div className="text-[13px]">
      <LineSelect
        label="By the"
        labelled
        hint={scoreOf(shown).hint}
        value={ids.includes(shown) ? shown : ids[0]}
        options={ids.map((id) => [id, scoreOf(id).title] as const)}
        onChange={(value) => compare.look({ score: value })}
      />
    </div>
  )
}
const NONE: readonly { readonly name: string }[] = []
