/** The rulebook part of an environment document. */
export interface RulebookDocument {
  readonly text: string
  /** Knobs that are turned away from what the text says. */
  readonly knobs: Readonly<Record<string, number>>
  /** How the board shows the states. */
  readonly view: RulebookView
}

export interface RulebookView {
  /** The variables of the two axes; null for the ones chosen by themselves. */
  readonly across: string | null
  readonly up: string | null
  /** The other variables: the text of the value looked at, or null for the mean over all. */
  readonly others: Readonly<Record<string, string | null>>
  /** The part of the actions that needles show; null, or left out, for the first one. */
  readonly dial?: string | null
}

/** Characters of a rulebook: far more than a page that a class can read aloud. */
export const TEXT_LIMIT = 100_000
