import type { EnvironmentDocument } from '../kinds/kinds'
import { kindOf } from '../kinds/kinds'
import { EXERCISE_FORMAT, EXERCISE_VERSION, type Exercise } from './exercise'
import { HAND_INS, type HandInKind } from './hand-in'

/** An exercise to begin with: one level, as the environment stands. @param hidden  a seed that nobody guesses */
export function newExercise(environment: EnvironmentDocument, hidden: number): Exercise {
  const files = (Object.keys(HAND_INS) as HandInKind[]).filter(
    (kind) => kind !== 'rule' || kindOf(environment).withPolicy,
  )
  return {
    format: EXERCISE_FORMAT,
    version: EXERCISE_VERSION,
    name: environment.name,
    note: 'Find a policy that gets as much as you can.',
    environment,
    levels: [{ name: 'Standard', knobs: {}, points: 100 }],
    episodes: 1000,
    seeds: { open: 1, hidden },
    accepts: [...files, 'program'],
    shows: kindOf(environment).isCovered(environment) ? 'names' : 'board',
    reference: null,
  }
}
