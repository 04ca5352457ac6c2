/** One line of a transition list: state, action, next state, probability, expected reward. */
export type Transition = readonly [
  state: string,
  action: string,
  next: string,
  probability: number,
  reward: number,
  /** What comes after counts times this, besides the discount; 1 when left out. */
  discount?: number,
]

/** All that a transition list says. */
export interface TransitionList {
  readonly transitions: readonly Transition[]
  /** Where episodes start, with weights; empty when the list does not say. */
  readonly starts: readonly { readonly state: string; readonly weight: number }[]
  /** What states look like to the agent, where they do not look like themselves. */
  readonly observations: Readonly<Record<string, string>>
}

export const COLUMNS = ['state', 'action', 'next_state', 'probability', 'reward'] as const
/** Columns that a list may have besides: each speaks of the state or the outcome of its line, and may be empty. */
export const EXTRA_COLUMNS = ['start', 'observation', 'discount'] as const
export type Column = (typeof COLUMNS)[number] | (typeof EXTRA_COLUMNS)[number]
export const ALL_COLUMNS: readonly Column[] = [...COLUMNS, ...EXTRA_COLUMNS]
/** Characters of a name. */
export const NAME_LIMIT = 1000
