import { compileEnvironment, type Compiled, type EnvironmentDocument } from '../../core/environment/document'
import { ProblemError, type Problem } from '../../core/problem'

/** A document's model, or why it has none. */
export type CompileResult =
  | { readonly ok: true; readonly compiled: Compiled }
  | { readonly ok: false; readonly problems: readonly Problem[] }

const known = new WeakMap<EnvironmentDocument, CompileResult>()

/** Compiles a document, once: documents are values and never change. */
export function compiledOf(document: EnvironmentDocument): CompileResult {
  let result = known.get(document)
  if (!result) {
    try {
      result = { ok: true, compiled: compileEnvironment(document) }
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      result = { ok: false, problems: error.problems }
    }
    known.set(document, result)
  }
  return result
}
