import {
  compileEnvironment,
  type Compiled,
  type EnvironmentDocument,
  type GridEnvironment,
  type TableEnvironment,
} from '../../core/environment/document'
import { ProblemError, type Problem } from '../../core/problem'

/** A document's model, or why it has none. */
export type CompileResult =
  | { readonly ok: true; readonly compiled: Compiled }
  | { readonly ok: false; readonly problems: readonly Problem[] }

const known = new WeakMap<object, { readonly cap: number; readonly result: CompileResult }>()

/**
 * Compiles a document, once: documents are values and never change. Documents that differ only in what the model
 * does not depend on (name, note, discount) share their result.
 */
export function compiledOf(document: GridEnvironment | TableEnvironment): CompileResult {
  const part = document.kind === 'grid' ? document.grid : document.table
  const entry = known.get(part)
  if (entry?.cap === document.cap) return entry.result
  let result: CompileResult
  try {
    result = { ok: true, compiled: compileEnvironment(document) }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    result = { ok: false, problems: error.problems }
  }
  known.set(part, { cap: document.cap, result })
  return result
}

/** True when two documents have the same model: plans and runs on one are plans and runs on the other. */
export function sameModel(one: EnvironmentDocument | undefined, other: EnvironmentDocument): boolean {
  if (one?.cap !== other.cap) return false
  if (one.kind === 'grid') return other.kind === 'grid' && one.grid === other.grid
  if (one.kind === 'table') return other.kind === 'table' && one.table === other.table
  return (
    other.kind === 'rulebook' &&
    one.rulebook.text === other.rulebook.text &&
    one.rulebook.knobs === other.rulebook.knobs
  )
}
