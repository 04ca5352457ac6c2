'use client'

import dynamic from 'next/dynamic'
import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { workingText } from '../../core/explain/working'
import { formatNumber } from '../../core/formats/number'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import { followedClass } from '../../session/lesson/followed-class'
import { questionAboutNumber, questionsAbout, type Suggestion } from '../../session/lesson/to-ask'
import { useParts } from '../study/study-context'
import { Covers } from './Covers'
import { usePlacesOf, type Cover } from './covering'

/** Loaded when something is first asked. */
const AskDialog = dynamic(() => import('../class/AskDialog').then((module) => module.AskDialog), {
  loading: () => null,
})
const AskedPanel = dynamic(() => import('../class/AskedPanel').then((module) => module.AskedPanel), {
  loading: () => null,
})

/** Covers of a presentation. Where a class follows, it can be asked what is under them; its answers lie beside the place. */
export function AskableCovers({
  covering,
  covers,
  facts,
  onCovers,
}: {
  covering: boolean
  covers: readonly Cover[]
  facts: ViewFacts | null
  onCovers(covers: readonly Cover[]): void
}) {
  const followed = useStore(followedClass, (state) => state.followed)
  const [asking, setAsking] = useState<Cover | null>(null)
  const [asked, setAsked] = useState<{ id: string; cover: Cover } | null>(null)
  const [place = null] = usePlacesOf(useMemo(() => (asked ? [asked.cover] : []), [asked]))
  const suggest = useSuggestions(facts)
  return (
    <>
      <Covers
        covering={covering}
        covers={covers}
        asked={asked && asked.cover}
        onCovers={onCovers}
        onAsk={followed && setAsking}
      />
      {followed && asking && (
        <AskDialog
          followed={followed}
          suggestions={suggest(asking)}
          onAsked={(id) => {
            setAsked({ id, cover: asking })
            setAsking(null)
          }}
          onClose={() => setAsking(null)}
        />
      )}
      {followed && asked && (
        <AskedPanel
          key={asked.id}
          classId={followed.id}
          id={asked.id}
          place={place}
          onReveal={() => onCovers(covers.filter((each) => each !== asked.cover))}
          onClose={() => setAsked(null)}
        />
      )}
    </>
  )
}

/** What can be asked of a cover, from what is shown now. */
function useSuggestions(facts: ViewFacts | null): (cover: Cover) => readonly Suggestion[] {
  const { plan } = useParts()
  return ({ what, state, says }) => {
    if (what?.on === 'table' && says) return [questionAboutNumber(what.row, what.column, says)]
    if (state === undefined || !facts) return []
    const working = plan.store.getState().frame?.working
    const chosen = facts.selected !== null && facts.model.labels[facts.selected] === state
    return questionsAbout(
      state,
      facts,
      working && chosen ? workingText(working, (value) => formatNumber(value, working.digits ?? 3)) : '',
    )
  }
}
