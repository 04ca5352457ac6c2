import { Waiting } from '../../parts/Waiting'
import dynamic from 'next/dynamic'
import { planMethod } from '../../../core/plan/plan-methods'
import { isDrawing } from '../../../session/plan/policy-source'
import type { StudyParts } from '../../study/study-context'
import type { StageView } from '../stage'
import { planOverlay } from './overlay'
import { BesideCaption, PlanCaption } from './PlanCaption'

export const planStage: StageView = {
  title: 'Plan',
  // Loaded when the stage is first shown.
  Panel: dynamic(() => import('./PlanPanel').then((module) => module.PlanPanel), { loading: Waiting }),
  Strip: dynamic(() => import('./PlanTimeline').then((module) => module.PlanTimeline), { loading: Waiting }),
  Bar: null,
  edits: ({ plan }) => (isDrawing(plan.store.getState()) ? 'policy' : null),
  writes: false,
  sources: ({ plan, beside }) => [plan.store, beside.store],
  boards: ({ plan }) =>
    plan.store.getState().beside === null
      ? []
      : [
          { slot: 'board', label: 'Left board', Caption: PlanCaption },
          { slot: 'beside', label: 'Right board', Caption: BesideCaption },
        ],
  overlay: ({ plan, beside }, model, covered, board) =>
    planOverlay(board === 0 ? plan : beside, plan.store.getState().held, model, covered),
  views: ({ plan }) => [
    'board',
    'table',
    'text',
    'curve',
    ...(planMethod(plan.store.getState().method).staged ? (['horizon'] as const) : []),
  ],
  keys: [
    {
      keys: 'P',
      what: 'in Plan: play or pause',
      press: ({ plan, drive }, key) =>
        key === 'p' && done((plan.store.getState().frame?.running ? drive.pause : drive.run)()),
    },
    {
      keys: '. and ,',
      what: 'in Plan: one sweep on; one back',
      press: ({ drive }, key) =>
        (key === '.' && done(drive.step('on', 'sweep'))) ||
        (key === ',' && done(drive.step('back', 'sweep'))),
    },
    {
      keys: '> and <',
      what: 'in Plan: one backup on, one back',
      press: ({ drive }, key) =>
        (key === '>' && done(drive.step('on', 'backup'))) ||
        (key === '<' && done(drive.step('back', 'backup'))),
    },
    {
      keys: 'E, I',
      what: 'in Plan: evaluate the policy to the end; on to the next improvement',
      press: (parts, key) =>
        alternates(parts) &&
        ((key === 'e' && done(parts.drive.finish('evaluated'))) ||
          (key === 'i' && done(parts.drive.finish('improved')))),
    },
  ],
  numbers({ plan }) {
    const { frame, discount } = plan.store.getState()
    if (!frame) return null
    const { values, rowValues, policy } = frame
    return { values, rowValues, policy, discount }
  },
}

function alternates({ plan }: StudyParts): boolean {
  const { frame } = plan.store.getState()
  return frame !== null && planMethod(frame.method).alternates === true
}

function done(_: void): true {
  return true
}
