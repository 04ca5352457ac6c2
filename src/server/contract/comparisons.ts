/** A comparison that was kept, without what is in it. */
export interface ComparisonSummary {
  readonly id: string
  readonly name: string
  /** ISO 8601 */
  readonly updatedAt: string
}
