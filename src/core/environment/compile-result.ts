import type { Compiled } from '../kinds/kinds'
import { ProblemError, type Problem } from '../problem'

/** A document's model, or why it has none. */
export type CompileResult =
  | { readonly ok: true; readonly compiled: Compiled }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** What came of compiling; never throws: a failure of the compiler itself is one of the problems. */
export function resultOf(compile: () => Compiled): CompileResult {
  try {
    return { ok: true, compiled: compile() }
  } catch (error) {
    return {
      ok: false,
      problems: error instanceof ProblemError ? error.problems : [compilerProblem(error)],
    }
  }
}

/** What is said when the compiler fails, which is a fault of the program and never the reader's. */
export function compilerProblem(error: unknown): Problem {
  return {
    place: 'the program',
    cause: `The compiler stopped: ${error instanceof Error ? error.message : String(error)}.`,
    remedy:
      'This is a fault of the program; what you wrote is kept. Undo the last change, or say it in another way.',
  }
}
