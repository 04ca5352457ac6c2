'use client'

import { useMemo, useState, type ReactNode } from 'react'
import { useStore } from 'zustand'
import { formatNumber } from '../../../core/formats/number'
import { runName, type Level } from '../../charts/band-chart'
import { useParts, useStudy } from '../../study/study-context'
import { drawnContestants, type Drawn } from '../comparison-lines'

/** The value of the optimum and of the random policy, where all contestants that are drawn have the same. */
export function levelsOf(drawn: readonly Drawn[]): Level[] {
  const common = (of: (run: Drawn['runs'][number]) => number | null): number | null => {
    const all = drawn.flatMap(({ runs }) => runs.map(of))
    const [first] = all
    return first !== undefined &&
      first !== null &&
      all.every((each) => each !== null && Math.abs(each - first) < 1e-9)
      ? first
      : null
  }
  const [optimum, random] = [common((run) => run.optimum), common((run) => run.random)]
  const has = (kind: string) => drawn.some(({ contestant }) => contestant.follows?.kind === kind)
  return [
    ...(optimum === null || has('optimum')
      ? []
      : [{ title: `optimum ${formatNumber(optimum, 2)}`, value: optimum }]),
    ...(random === null || has('random')
      ? []
      : [{ title: `random ${formatNumber(random, 2)}`, value: random, optional: true }]),
  ]
}

/** Opens a single run in Learn, by the name it is drawn under; says why where it cannot. */
export function useOpenRun(drawn: readonly Drawn[]): { open(name: string): void; readonly note: ReactNode } {
  const [said, setSaid] = useState<string | null>(null)
  const { learn, study, compare } = useParts()
  const tried = (name: string): string | null => {
    for (const { contestant, name: title, runs, stale } of drawn)
      for (const { run } of runs) {
        if (runName(title, run) !== name) continue
        if (stale) return 'Its settings or its environment were changed since: run it again first.'
        const { follows, environment, knobs, options = {}, choice } = contestant
        if (follows) return 'It does not learn: there is nothing to go through in Learn.'
        if (environment) return `It learns in another environment, “${environment.name}”: open that one.`
        if (Object.keys(knobs).length)
          return `It learns with ${Object.keys(knobs).join(', ')} turned: turn it in Build first.`
        if (Object.keys(options).length)
          return `It learns with another ${Object.keys(options).join(', ')}: change that in Build first.`
        void compare.shelf.save()
        learn.choose({ ...choice, run })
        learn.restart()
        study.getState().show('learn')
        return null
      }
    return null
  }
  return {
    open: (name) => setSaid(tried(name)),
    note: said && (
      <p role="status" className="shrink-0 text-[13px] text-ink-soft">
        {said}
      </p>
    ),
  }
}

/** The contestants that are drawn. */
export function useDrawn(): readonly Drawn[] {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  return useMemo(() => drawnContestants(state, document), [state, document])
}
