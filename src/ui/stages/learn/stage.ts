import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import { learnMethod } from '../../../core/learn/methods/methods'
import { isBandit } from '../../../session/learn/agents-session'
import { isDone } from '../../../session/learn/run-state'
import type { StudyParts } from '../../study/study-context'
import type { StageView } from '../stage'
import { runOverlay } from './overlay'

export const learnStage: StageView = {
  title: 'Learn',
  // Loaded when the stage is first shown.
  Panel: dynamic(() => import('./LearnPanel').then((module) => module.LearnPanel), { loading: Waiting }),
  Strip: dynamic(() => import('./LearnTimeline').then((module) => module.LearnTimeline), {
    loading: Waiting,
  }),
  Bar: null,
  edits: () => null,
  writes: false,
  sources: ({ learn, trials, diagnosis }) => [learn.store, trials.store, diagnosis.store],
  overlay: (parts, model, covered) => runOverlay(parts, model, covered),
  views: ({ learn, study }) => {
    const { running, choice } = learn.store.getState()
    const { tableHolds } = learnMethod((running ?? choice).method)
    return [
      'board',
      'table',
      'text',
      'curve',
      ...(tableHolds === 'preferences' ? (['landscape'] as const) : []),
      ...(isBandit(study.getState().document) ? (['agents'] as const) : []),
    ]
  },
  keys: [
    {
      keys: 'P',
      what: 'in Learn: play or pause',
      press: ({ learn }, key) => {
        const { frame } = learn.store.getState()
        if (key !== 'p' || isDone(frame)) return false
        if (frame?.running) learn.pause()
        else learn.run()
        return true
      },
    },
    {
      keys: '. and ,',
      what: 'in Learn: one step on; one back',
      press: (parts, key) => step(parts, key, '.', ',', 'step'),
    },
    {
      keys: 'N, B',
      what: 'in Learn: on to the end of the episode; back to the end of the one before',
      press: (parts, key) => step(parts, key, 'n', 'b', 'episode'),
    },
  ],
  lastChange({ learn }) {
    const { frame } = learn.store.getState()
    if (!frame || frame.last.state < 0) return null
    const { last, lastAction, lastBefore, rowValues } = frame
    return { state: last.state, action: rowValues ? lastAction : -1, before: lastBefore }
  },
  numbers({ learn }) {
    const { frame, running } = learn.store.getState()
    if (!frame || !running) return null
    const { values, policy, rowValues, curve } = frame
    const { discount } = running
    // Prediction keeps no action values.
    const holdsValues = learnMethod(running.method).tableHolds === 'values'
    return { values, policy, discount, curve, ...(holdsValues || !rowValues ? {} : { rowValues }) }
  },
}

function step(
  { learn }: StudyParts,
  key: string,
  on: string,
  back: string,
  unit: 'step' | 'episode',
): boolean {
  if (key === back) learn.step(unit, 'back')
  else if (key === on && !isDone(learn.store.getState().frame)) learn.step(unit)
  else return false
  return true
}
