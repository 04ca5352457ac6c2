import { ProblemError, type Problem } from '../../core/problem'
import { DESK_TASKS, type DeskTask } from './desk-tasks'

export interface DeskRequest {
  readonly task: DeskTask
  readonly input: unknown
}

/** Errors lose what they carry between threads: problems come as an answer. */
export type DeskAnswer = { readonly output: unknown } | { readonly problems: readonly Problem[] }

// What Piscina calls in its threads; bundled by scripts/workers.mjs.
export default function answer({ task, input }: DeskRequest): DeskAnswer {
  try {
    return { output: (DESK_TASKS[task] as (input: unknown) => unknown)(input) }
  } catch (error) {
    if (error instanceof ProblemError) return { problems: error.problems }
    throw error
  }
}
