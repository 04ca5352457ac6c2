import { resultOf, type CompileResult } from '../../core/environment/compile-result'
import { compileOnPage, compilesOnPage } from '../../core/environment/page-compile'
import { kindOf, partOf, type EnvironmentDocument } from '../../core/kinds/kinds'

/** Work, in rough outcomes, that a page can do between two frames without anybody noticing. */
const AT_ONCE = 150_000

/** Whether a document is small enough to be compiled on the page. */
export function compilesAtOnce(document: EnvironmentDocument): boolean {
  return compilesOnPage(document) && kindOf(document).roughOutcomes(document) <= AT_ONCE
}

const known = new WeakMap<object, { readonly cap: number; readonly result: CompileResult }>()

/**
 * Compiles a document, once: documents are values and never change. Documents that differ only in what the model
 * does not depend on (name, note, discount) share their result.
 */
export function compiledOf(document: EnvironmentDocument): CompileResult {
  const part = partOf(document)
  const entry = known.get(part)
  if (entry?.cap === document.cap) return entry.result
  const result = resultOf(() => compileOnPage(document))
  known.set(part, { cap: document.cap, result })
  return result
}
