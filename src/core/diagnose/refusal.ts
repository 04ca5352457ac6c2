import { formatCount } from '../formats/number'
import { learnMethod } from '../learn/methods/methods'
import { EXACT_STATES } from '../limits'
import type { Problem } from '../problem'
import type { LearnChoice } from '../settings/choice'

/** Why runs with these settings cannot be looked at in an environment of so many states; null where they can. */
export function refusalOf({ method }: LearnChoice, states: number): Problem | null {
  const { purpose, title } = learnMethod(method)
  if (purpose !== 'control')
    return {
      place: 'method',
      cause: `${title} looks for no policy: it finds out what one is worth.`,
      remedy: 'Choose a method of control.',
    }
  if (states > EXACT_STATES)
    return {
      place: 'environment',
      cause: `It has ${formatCount(states)} states; with more than ${formatCount(EXACT_STATES)} the exact values take too long.`,
      remedy: 'Look for what is wrong in a smaller one of the same kind.',
    }
  return null
}
