import type { EnvironmentDocument } from '../kinds/kinds'
import type { Comparison } from './comparison'
import type { Contestant } from './contestant'
import type { RunAsk } from './learning-runs'
import { runMeasure } from './run-measures'
import { askFor, scoreOf } from './scores'
import { sweepOf } from './sweep'

/** What the runs of a comparison must tell, as it is looked at. */
export function askOf({ view, trials }: Pick<Comparison, 'view' | 'trials'>): RunAsk {
  const { picture, measure, beneath, score } = view
  const extra = (id: string | null) => (id && runMeasure(id)?.source !== 'log' ? [id] : [])
  const scored = askFor(scoreOf(score), trials)
  return {
    measures: [
      ...new Set([
        ...(picture === 'curves' ? [...extra(measure), ...extra(beneath)] : []),
        ...scored.measures,
      ]),
    ],
    trials: picture === 'trials' ? trials : scored.trials,
  }
}

/**
 * Whose runs a picture needs: the contestants that are shown, or each of them at all values of the sweep.
 * @throws ProblemError for values of a sweep that cannot be read
 */
export function wantedContestants(
  { contestants, hidden, view }: Pick<Comparison, 'contestants' | 'hidden' | 'view'>,
  document: EnvironmentDocument,
): readonly Contestant[] {
  const shown = contestants.filter(({ id }) => !hidden.includes(id))
  return view.picture === 'sweep'
    ? shown.flatMap((each) => sweepOf(each, view.sweep, document).map(({ contestant }) => contestant))
    : shown
}
