import dynamic from 'next/dynamic'
import { possibleActions } from '../../../core/check/hand'
import { stateWalked } from '../../../session/check/check-session'
import { NOTHING_SHOWN } from '../../board/overlay'
import { Waiting } from '../../parts/Waiting'
import type { StudyParts } from '../../study/study-context'
import type { StageView } from '../stage'
import { ACTION_KEYS } from './action-keys'
import { ErrorMark } from './ErrorMark'

export const checkStage: StageView = {
  title: 'Check',
  Mark: ErrorMark,
  // Loaded when the stage is first shown.
  Panel: dynamic(() => import('./CheckPanel').then((module) => module.CheckPanel), { loading: Waiting }),
  Strip: dynamic(() => import('./CheckTimeline').then((module) => module.CheckTimeline), {
    loading: Waiting,
  }),
  Bar: dynamic(() => import('./CheckBar').then((module) => module.CheckBar), { loading: () => null }),
  edits: () => null,
  writes: false,
  sources: ({ check }) => [check.store],
  overlay({ check }, model) {
    const state = check.store.getState()
    const { report, chosen } = state
    // A finding of a model that is gone has numbers of its own.
    const finding = chosen !== null && report?.states === model.states ? report.findings[chosen] : null
    return {
      shown: {
        ...NOTHING_SHOWN,
        agent: stateWalked(model, state),
        reads: finding?.states ?? [],
        cells: finding?.cells ?? [],
      },
      source: null,
    }
  },
  views: () => ['board', 'table', 'text'],
  keys: [
    {
      keys: ACTION_KEYS.join(' ').toUpperCase(),
      what: 'in Check: the first, second … possible action',
      press: (parts, key) => act(parts, ACTION_KEYS.indexOf(key)),
    },
    {
      keys: '. and ,',
      what: 'in Check: one step on; one back',
      press({ check }, key) {
        if (key !== '.' && key !== ',') return false
        check.go(check.store.getState().at + (key === '.' ? 1 : -1))
        return true
      },
    },
    {
      keys: 'B',
      what: 'in Check: begin again',
      press({ check }, key) {
        if (key !== 'b') return false
        check.begin(check.store.getState().hand.start)
        return true
      },
    },
  ],
  numbers: () => null,
}

/** Takes a possible action by its place in the list. */
function act({ check, model }: StudyParts, place: number): boolean {
  const { compiled } = model.store.getState()
  const state = check.store.getState()
  if (place < 0 || !compiled || state.walked.kind !== 'hand') return false
  const at = stateWalked(compiled.model, state)
  const action = at === null ? undefined : possibleActions(compiled.model, at)[place]
  if (action === undefined) return false
  check.act(action)
  return true
}
