import { formatCount } from '../../formats/number'

/** Pairs of state and action of which every way they can go is looked at, at the most. */
export const LOOKED_AT = 20_000

/** Why a rule that looks at every way of every step does not: full sentences. */
export const TOO_MANY_ROWS = `There are more than ${formatCount(LOOKED_AT)} pairs of state and action.`
export const TOO_MANY_WAYS = 'A step can go too many ways to tell its chances apart.'
export const PASSING = 'Time passes by itself here, and what happens meanwhile is not told part by part.'
