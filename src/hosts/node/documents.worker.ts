import { ProblemError, type Problem } from '../../core/problem'
import { DOCUMENT_TASKS, type DocumentTask } from './document-tasks'

export interface DocumentTaskRequest {
  readonly task: DocumentTask
  readonly input: unknown
}

/** Errors lose what they carry between threads: problems come as an answer. */
export type DocumentTaskAnswer = { readonly output: unknown } | { readonly problems: readonly Problem[] }

// What Piscina calls in its threads; bundled by scripts/workers.mjs.
export default function answer({ task, input }: DocumentTaskRequest): DocumentTaskAnswer {
  try {
    return { output: (DOCUMENT_TASKS[task] as (input: unknown) => unknown)(input) }
  } catch (error) {
    if (error instanceof ProblemError) return { problems: error.problems }
    throw error
  }
}
