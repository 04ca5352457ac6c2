import type { Budget } from '../kinds/kind'
import { kindOf, type Compiled, type CompiledOf, type EnvironmentDocument } from '../kinds/kinds'
import { ProblemError, type Problem } from '../problem'

/**
 * The model of a document, made in one go.
 * @param budget  work after which it is given up; as much as a model can hold when left out
 * @throws ProblemError when the document is well formed but is no environment (see the kind's compiler)
 */
export function compileEnvironment<D extends EnvironmentDocument>(
  document: D,
  budget?: Budget,
): CompiledOf<D['kind']> {
  const compilation = kindOf(document).compile(document, budget)
  while (!compilation.advance(100_000));
  return compilation.finish() as CompiledOf<D['kind']>
}

/** A document's model, or why it has none. */
export type CompileResult =
  | { readonly ok: true; readonly compiled: Compiled }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** As {@link compileEnvironment}, but never throws: a failure of the compiler itself is one of the problems. */
export function tryCompile(document: EnvironmentDocument, budget?: Budget): CompileResult {
  try {
    return { ok: true, compiled: compileEnvironment(document, budget) }
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

/** True when two documents have the same model: plans and runs on one are plans and runs on the other. */
export function sameModel(one: EnvironmentDocument | undefined, other: EnvironmentDocument): boolean {
  return one?.cap === other.cap && one.kind === other.kind && kindOf(one).sameModel(one, other)
}
