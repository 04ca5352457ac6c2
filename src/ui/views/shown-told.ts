import { runMeasure } from '../../core/compare/run-measures'
import { scoreOf } from '../../core/compare/scores'

/** The score that is shown: not one that tells what a covered environment hides. */
export function shownScore(wanted: string, covered: boolean): string {
  return covered && scoreOf(wanted).exact ? 'mean' : wanted
}

/** The measure that is drawn, likewise. */
export function shownMeasure(wanted: string, covered: boolean): string {
  return covered && runMeasure(wanted)?.exact ? 'return' : wanted
}
