import type { LearningRun } from '../compare/learning-runs'
import { PROGRAM } from '../program'

/** A run of which nothing is known. */
export function emptyRun(run: number): LearningRun {
  return {
    run,
    episodes: 1,
    curves: { return: new Float64Array(0), length: new Float64Array(0), steps: new Float64Array(0) },
    mean: NaN,
    late: NaN,
    first: NaN,
    next: NaN,
    last: NaN,
    exact: null,
    optimum: null,
    random: null,
    steps: 0,
    outcome: 'done',
    trials: null,
    fingerprint: 0,
    program: PROGRAM,
  }
}
