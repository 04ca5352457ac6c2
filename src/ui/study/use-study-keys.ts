'use client'

import { useEffect } from 'react'
import { SHAPES, TOOLS } from '../stages/build/brush'
import { planMethod } from '../../core/plan/plan-methods'
import { isDone } from './run-state'
import type { StudyParts } from './study-context'
import { STAGES, type Stage, type View } from './study-store'
import { viewsOf } from './use-views'

/** Every key that works anywhere in an open environment, for the list under `?`. */
export const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['1 2 3', 'Build, Plan, Learn'],
  ['Arrow keys', 'walk the board'],
  ['Space or Enter', 'on the board in Build: paint the cell'],
  ['Shift + arrow keys', 'on the board in Build: paint while walking'],
  ...(['TOOLS', 'SHAPES'] as const).map((list) => toolKeys(list)),
  ['G', 'in Build: the next ground'],
  ['Ctrl + C, Ctrl + V', 'in Build: copy the marked part of a grid, paste it'],
  ['P', 'play or pause'],
  ['. and ,', 'one sweep or step on; one back'],
  ['> and <', 'in Plan: one backup on, one back'],
  ['E, I', 'in Plan: evaluate the policy to the end; on to the next improvement'],
  ['N, B', 'in Learn: on to the end of the episode; back to the end of the one before'],
  ['T', 'board, table, text or curve'],
  ['Ctrl + Z, Ctrl + Shift + Z', 'undo, redo'],
  ['?', 'this list'],
]

function toolKeys(list: 'TOOLS' | 'SHAPES'): readonly [string, string] {
  const entries = Object.values(list === 'TOOLS' ? TOOLS : SHAPES)
  return [
    entries.map(({ key }) => key.toUpperCase()).join(' '),
    `in Build: ${entries.map(({ title }) => title.toLowerCase()).join(', ')}`,
  ]
}

function nextView(view: View, views: readonly View[]): View {
  return views[(views.indexOf(view) + 1) % views.length]
}

export function useStudyKeys({ study, plan, drive, learn }: StudyParts): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (
        target.closest(
          'input:not([type=range], [type=checkbox]), textarea, select, [role=dialog], [role=menu], .cm-editor',
        )
      )
        return
      const state = study.getState()
      const key = event.key.toLowerCase()
      if ((event.ctrlKey || event.metaKey) && (key === 'z' || key === 'y')) {
        event.preventDefault()
        if (key === 'y' || event.shiftKey) state.redo()
        else state.undo()
        return
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const stages = Object.keys(STAGES) as Stage[]
      if (stages[Number(key) - 1]) state.show(stages[Number(key) - 1])
      else if (key === 't')
        state.setView(nextView(state.view, viewsOf(state.stage, plan.store.getState().method)))
      else if (state.stage === 'plan') {
        const frame = plan.store.getState().frame
        const alternates = frame !== null && planMethod(frame.method).alternates
        if (key === 'p') (frame?.running ? drive.pause : drive.run)()
        else if (key === '.') drive.step('on', 'sweep')
        else if (key === ',') drive.step('back', 'sweep')
        else if (key === '>') drive.step('on', 'backup')
        else if (key === '<') drive.step('back', 'backup')
        else if (key === 'e' && alternates) drive.finish('evaluated')
        else if (key === 'i' && alternates) drive.finish('improved')
        else return
      } else if (state.stage === 'learn') {
        const { frame } = learn.store.getState()
        const over = isDone(frame)
        if (key === ',') learn.step('step', 'back')
        else if (key === 'b') learn.step('episode', 'back')
        else if (over) return
        else if (key === 'p') (frame?.running ? learn.pause : learn.run)()
        else if (key === '.') learn.step('step')
        else if (key === 'n') learn.step('episode')
        else return
      } else return
      event.preventDefault()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [study, plan, drive, learn])
}
