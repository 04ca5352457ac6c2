import { tryCompile, type CompileResult, type EnvironmentDocument } from '../../core/environment/document'
import { roughOutcomes } from '../../core/environment/rough-size'

/** Work, in rough outcomes, that a page can do between two frames without anybody noticing. */
const AT_ONCE = 150_000

/** Whether a document is small enough to be compiled on the page. */
export function compilesAtOnce(document: EnvironmentDocument): boolean {
  return roughOutcomes(document) <= AT_ONCE
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
  const result = tryCompile(document)
  known.set(part, { cap: document.cap, result })
  return result
}

/** True when two documents have the same model: plans and runs on one are plans and runs on the other. */
export function sameModel(one: EnvironmentDocument | undefined, other: EnvironmentDocument): boolean {
  if (one?.cap !== other.cap || one.kind !== other.kind) return false
  if (one.kind === 'rulebook' && other.kind === 'rulebook')
    return one.rulebook.text === other.rulebook.text && one.rulebook.knobs === other.rulebook.knobs
  // Where a table's states are drawn is no part of its model, nor whether a class sees a bandit's truth.
  if (one.kind === 'table' && other.kind === 'table')
    return (['transitions', 'starts', 'observations'] as const).every(
      (key) => one.table[key] === other.table[key],
    )
  if (one.kind === 'bandit' && other.kind === 'bandit')
    return (['arms', 'contexts', 'pulls', 'drift'] as const).every(
      (key) => one.bandit[key] === other.bandit[key],
    )
  return partOf(one) === partOf(other)
}

/** The part of a document that is of its kind. */
function partOf(document: EnvironmentDocument): object {
  switch (document.kind) {
    case 'grid':
      return document.grid
    case 'bandit':
      return document.bandit
    case 'table':
      return document.table
    case 'rulebook':
      return document.rulebook
  }
}
