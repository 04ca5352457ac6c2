/** What can lie in the bin. */
export type BinKind = 'environment' | 'table' | 'comparison' | 'lesson' | 'exercise'

/** Something that was deleted and can be brought back. */
export interface BinItem {
  readonly kind: BinKind
  readonly id: string
  readonly name: string
  /** The name of the environment it belongs to; null for environments, lessons and exercises. */
  readonly of: string | null
  /** ISO 8601 */
  readonly deletedAt: string
  /** ISO 8601: when it is deleted for good. */
  readonly goneAt: string
}
