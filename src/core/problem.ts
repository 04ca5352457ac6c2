/** What an environment breaks of which no model can be made, where it is one of the things that are looked for. */
export type ProblemRule = 'bounds' | 'probabilities' | 'no-action'

/** One thing that is wrong with what a person gave us: where, what, and the way out. */
export interface Problem {
  /** Where it stands, in the words of the input: `line 7, column probability`, `grid.floor[2]`, `cell C4`. */
  readonly place: string
  /** What is wrong, as a full sentence without the place. */
  readonly cause: string
  /** What to do about it, as a full sentence. */
  readonly remedy: string
  /** Where it stands in a text, as offsets, so that an editor can mark it: `from` included, `to` not. */
  readonly span?: { readonly from: number; readonly to: number }
  /** How it comes about, where it does so only after some steps: the states passed, and what happened in each. */
  readonly path?: readonly StoryStep[]
  readonly breaks?: ProblemRule
}

/** A step of a story: the action taken in a state, and what chance did. */
export interface StoryStep {
  readonly state: string
  readonly action: string
  /** `sold = 2, wind = north`; empty where there is no chance. */
  readonly chances: string
}

/** A story in one line: `left 2, order 1 (sold = no); left 3, …`; of a long one the first and the last steps. */
export function tellStory(path: readonly StoryStep[], most = 6): string {
  const told = ({ state, action, chances }: StoryStep) =>
    `${state}, ${action}${chances ? ` (${chances})` : ''}`
  if (path.length <= most) return path.map(told).join('; ')
  const half = Math.floor(most / 2)
  return [
    ...path.slice(0, half).map(told),
    `${path.length - 2 * half} more steps`,
    ...path.slice(-half).map(told),
  ].join('; ')
}

/** Thrown for bad input, and only for that. Carries every problem found, at least one. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError'

  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(describeProblem).join('\n'))
  }
}

/** The sentence a person reads: `line 7: The probability is NaN. Write a number from 0 to 1.` */
export function describeProblem(problem: Problem): string {
  return `${problem.place}: ${problem.cause} ${problem.remedy}`
}

/** Throws a single problem. */
export function refuse(place: string, cause: string, remedy: string): never {
  throw new ProblemError([{ place, cause, remedy }])
}

/** Runs something on a part; its problems are told with the place of the part in front. */
export function within<T>(place: string, run: () => T): T {
  try {
    return run()
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    throw new ProblemError(
      error.problems.map((problem) => ({ ...problem, place: `${place}, ${problem.place}` })),
    )
  }
}

/** At most `limit` names in a row, with how many more there are: `A1, B1, C1 and 12 more`. */
export function listNames(names: readonly string[], limit = 5): string {
  const shown = names.slice(0, limit).join(', ')
  return names.length > limit ? `${shown} and ${names.length - limit} more` : shown
}
