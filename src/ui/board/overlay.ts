/** What can lie over the board. */
export const LAYERS = {
  values: 'Values',
  policy: 'Policy',
  actionValues: 'Action values',
  visits: 'Visits',
} as const
export type Layer = keyof typeof LAYERS

/** Numbers to draw over a board, all indexed by the model's states and rows. */
export interface Overlay {
  readonly values?: Float64Array
  readonly rowValues?: Float64Array
  /** True when `rowValues` are no values but preferences, which have a scale of their own. */
  readonly preferences?: boolean
  readonly policy?: Float64Array
  readonly rowVisits?: Float64Array
}
