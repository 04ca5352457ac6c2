'use client'

import { useEffect } from 'react'
import { STAGE_NAMES } from '../../core/lesson/names'
import { KIND_KEYS } from '../kinds/kinds'
import { STAGES } from '../stages/stages'
import type { StageView } from '../stages/stage'
import type { StudyParts } from './study-context'
import { historyOf } from './use-stage'

/** Every key that works anywhere in an open environment, for the list under `?`. */
export const KEYS: readonly (readonly [keys: string, what: string])[] = [
  [STAGE_NAMES.map((_, i) => i + 1).join(' '), STAGE_NAMES.map((name) => STAGES[name].title).join(', ')],
  ['Arrow keys', 'walk the board'],
  ...KIND_KEYS,
  ...Object.values<StageView>(STAGES).flatMap(({ keys }) =>
    keys.map(({ keys: listed, what }) => [listed, what] as const),
  ),
  ['T', 'the next view: board, table, text …'],
  ['C', 'in Plan and Learn: the curve large in the board’s place, and back'],
  ['Ctrl + Z, Ctrl + Shift + Z', 'undo, redo'],
  ['?', 'this sheet'],
]

export function useStudyKeys(parts: StudyParts): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (
        target.closest(
          'input:not([type=range], [type=checkbox]), textarea, select, [role=dialog], [role=menu], .cm-editor',
        )
      )
        return
      const state = parts.study.getState()
      const key = event.key.toLowerCase()
      if ((event.ctrlKey || event.metaKey) && (key === 'z' || key === 'y')) {
        event.preventDefault()
        const history = historyOf(parts, STAGES[state.stage])
        if (key === 'y' || event.shiftKey) history.redo()
        else history.undo()
        return
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const stage: StageView = STAGES[state.stage]
      const named = STAGE_NAMES[Number(key) - 1]
      if (named) state.show(named)
      else if (key === 't') {
        const views = stage.views(parts)
        state.setView(views[(views.indexOf(state.view) + 1) % views.length])
      } else if (key === 'c' && stage.Strip) state.setSpread(!state.spread)
      else if (!stage.keys.some((each) => each.press(parts, key))) return
      event.preventDefault()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [parts])
}
