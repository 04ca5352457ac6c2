import { compilerOf } from '../kinds/compiler-of'
import type { Budget } from '../kinds/kind'
import type { Compiled, CompiledOf, EnvironmentDocument } from '../kinds/kinds'
import { resultOf, type CompileResult } from './compile-result'

/**
 * The model of a document, made in one go.
 * @param budget  work after which it is given up; as much as a model can hold when left out
 * @throws ProblemError when the document is well formed but is no environment (see the kind's compiler)
 */
export function compileEnvironment<D extends EnvironmentDocument>(
  document: D,
  budget?: Budget,
): CompiledOf<D['kind']> {
  const compilation = compilerOf(document).compile(document, budget)
  while (!compilation.advance(100_000));
  return compilation.finish() as CompiledOf<D['kind']>
}

/** As {@link compileEnvironment}, but never throws: a failure of the compiler itself is one of the problems. */
export function tryCompile(document: EnvironmentDocument, budget?: Budget): CompileResult {
  return resultOf(() => compileEnvironment(document, budget))
}

/**
 * What a changed document is compiled to, with the very same model, where the change leaves that as it is.
 * @param before  the document that `compiled` was made from
 * @returns null where it has to be compiled as a whole
 */
export function renewEnvironment(
  before: EnvironmentDocument,
  compiled: Compiled,
  after: EnvironmentDocument,
): Compiled | null {
  if (before.kind !== after.kind || before.cap !== after.cap) return null
  return compilerOf(after).renew?.(before, compiled, after) ?? null
}
