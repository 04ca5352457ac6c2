import type { TableHolds } from '../../../core/learn/learner'
import { learnMethod } from '../../../core/learn/methods/methods'
import type { Model } from '../../../core/model/model'
import { NOTHING_SHOWN } from '../../board/overlay'
import type { StudyParts } from '../../study/study-context'
import type { StageOverlay } from '../stage'

/** What the values of a learned table are. */
const HELD: Record<TableHolds, { values: string; rows: string }> = {
  'action values': { values: 'largest action value', rows: 'action values' },
  values: { values: 'value', rows: 'action values' },
  preferences: { values: 'exact value of the policy', rows: 'preferences' },
}

/** What a run lays over the board, with the agent on it; null where there is no run. */
export function runOverlay(
  { learn, trials, diagnosis }: StudyParts,
  model: Model,
  covered: boolean,
): StageOverlay | null {
  const { frame, running, optimum, episode, episodeStep } = learn.store.getState()
  if (!frame || !running || frame.values.length !== model.states) return null
  const { tableHolds, purpose, critic } = learnMethod(running.method)
  const preferences = tableHolds === 'preferences'
  const titles = { ...HELD[tableHolds], ...(critic ? { values: 'value by the critic' } : {}) }
  // While a trial is watched the agent is the one of the trial.
  const { watched } = trials.store.getState()
  const { report, pointed } = diagnosis.store.getState()
  const looked = episode && episodeStep !== null ? episode.steps[episodeStep] : undefined
  return {
    shown: {
      ...NOTHING_SHOWN,
      overlay: {
        // The exact value of a policy would give the hidden pay-offs away.
        values: preferences && covered ? undefined : frame.values,
        rowValues: frame.rowValues ?? undefined,
        policy: frame.policy,
        rowVisits: frame.rowVisits,
        bounds: frame.bounds ?? undefined,
        preferences,
      },
      agent: watched
        ? watched.episode.states[watched.at]
        : looked
          ? looked.state
          : frame.state >= 0
            ? frame.state
            : frame.steps > 0
              ? frame.last.next
              : null,
      reads: (pointed !== null && report?.findings[pointed]?.states) || [],
      titles,
    },
    source: {
      of: 'run',
      model,
      frame,
      predicts: purpose === 'prediction',
      optimum: optimum?.values,
      before: episode?.before ?? null,
      covered,
    },
  }
}
