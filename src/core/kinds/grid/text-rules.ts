import type { Grid, ThingList } from './document'

/** How a rule of moving is written below a map, for each of them. */
export const RULES = {
  moves: { name: 'moves', read: Number },
  stay: { name: 'stay', read: readTruth },
  // Anything else is refused with the grid.
  sees: { name: 'sees', read: (text) => text as Grid['sees'] },
  diagonalCosts: { name: 'diagonals cost their length', read: readTruth },
  stepReward: { name: 'step reward', read: Number },
  veer: { name: 'veer', read: Number },
  stall: { name: 'stall', read: Number },
  reverse: { name: 'reverse', read: Number },
} as const satisfies {
  readonly [K in Exclude<keyof Grid, 'floor' | 'grounds' | ThingList>]: {
    readonly name: string
    read(text: string): number | boolean | string
  }
}
export type RuleName = keyof typeof RULES
export const RULE_NAMES = Object.keys(RULES) as RuleName[]
/** What a map may say of the environment that it is of. */
export const HEAD = ['discount', 'cap'] as const

function readTruth(text: string): boolean {
  // Anything else is refused with the grid, as a value of the wrong kind.
  return text === 'yes' ? true : text === 'no' ? false : (text as never)
}
