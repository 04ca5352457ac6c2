/** Up to so many states exact values are found beside a run, and of every run of many. */
export const EXACT_STATES = 5000

/** Rough outcomes of a model up to which its states are counted in passing, while it is saved. */
export const COUNTED_OUTCOMES = 1_000_000

/** Characters of a document up to which a list of documents brings it along, to draw its picture. */
export const PICTURED_LENGTH = 200_000
