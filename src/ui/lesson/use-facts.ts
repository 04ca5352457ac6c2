import { useMemo } from 'react'
import { useStore } from 'zustand'
import { contestantNames } from '../../core/compare/contestant'
import { scoreOf, scoresOf } from '../../core/compare/scores'
import { knobsOf } from '../../core/environment/knobs'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import { runsOf } from '../../session/compare/compare-runs'
import { stateAt } from '../../session/study/cursor'
import { STAGES } from '../stages/stages'
import type { StageView } from '../stages/stage'
import type { StudyParts } from '../study/study-context'

/** What is known of what a study shows now; null until there is a model. */
export function useFacts(parts: StudyParts): ViewFacts | null {
  const document = useStore(parts.study, (state) => state.document)
  const name = useStore(parts.study, (state) => state.stage)
  const cursor = useStore(parts.study, (state) => state.cursor)
  const compiled = useStore(parts.model.store, (state) => state.compiled)
  const plan = useStore(parts.plan.store)
  const learn = useStore(parts.learn.store)
  const compare = useStore(parts.compare.store)
  return useMemo((): ViewFacts | null => {
    if (!compiled) return null
    const stage: StageView = STAGES[name]
    // In Build the plan may lie on the board.
    const numbers = stage.numbers(parts) ?? (name === 'build' ? STAGES.plan.numbers(parts) : null)
    const planned = name === 'plan' || name === 'build' ? plan.frame : null
    const frame = name === 'learn' ? learn.frame : null
    return {
      model: compiled.model,
      discount: numbers?.discount ?? document.discount,
      selected: stateAt(compiled, cursor),
      knobs: Object.fromEntries(knobsOf(document, compiled).map((knob) => [knob.name, knob.value])),
      values: numbers?.values ?? null,
      policy: numbers?.policy ?? null,
      rowValues: numbers?.rowValues ?? null,
      change: planned && planned.sweep > 0 ? (plan.changes[planned.sweep - 1] ?? null) : null,
      sweeps: planned?.sweep ?? null,
      backups: planned?.backups ?? null,
      steps: frame?.steps ?? null,
      episodes: frame?.episodes ?? null,
      recent: frame?.meanReturn ?? null,
      learned: frame?.exactValue ?? null,
      optimum: learn.optimum?.optimum ?? null,
      scores: name === 'compare' ? scoresNow(parts, compare) : {},
    }
  }, [parts, document, name, cursor, compiled, plan, learn, compare])
}

/** The mean score of each contestant that has runs, by its name. */
function scoresNow({ study }: StudyParts, state: ReturnType<StudyParts['compare']['store']['getState']>) {
  const { contestants, view } = state.comparison
  const names = contestantNames(contestants)
  const score = scoreOf(view.score)
  const scores: Record<string, number> = {}
  for (const [i, contestant] of contestants.entries()) {
    const { runs } = runsOf(state, study.getState().document, contestant)
    const each = scoresOf(runs, score)
    if (each.length) scores[names[i]] = each.reduce((sum, value) => sum + value, 0) / each.length
  }
  return scores
}
