/** Numbers to draw over a board, all indexed by the model's states and rows. */
export interface Overlay {
  readonly values?: Float64Array
  readonly rowValues?: Float64Array
  /** True when `rowValues` are no values but preferences, which have a scale of their own. */
  readonly preferences?: boolean
  /** Numbers of another board that has the same scale, so that equal colours mean equal numbers. */
  readonly scaledWith?: Pick<Overlay, 'values' | 'rowValues'>
  readonly policy?: Float64Array
  readonly rowVisits?: Float64Array
  /** [rows] how good each action may still be: infinity for what was never tried */
  readonly bounds?: Float64Array
  /** [rows] the policy that was: of the step before, or of a plan that is compared with */
  readonly was?: Float64Array
  /** [states] by how much each value moved in the last step */
  readonly moved?: Float64Array
  /** [states] 1 where the best actions are others than those of a plan that is compared with */
  readonly turned?: Uint8Array
}

/** What lies over a board, and how its numbers are called. */
export interface ShownOverlay {
  readonly overlay: Overlay | undefined
  /** The state the agent is in. */
  readonly agent: number | null
  /** The states that the last single backup looked ahead to. */
  readonly reads: readonly number[]
  /** Cells that are marked by their names, where there may be no state. */
  readonly cells: readonly string[]
  readonly titles: { readonly values: string; readonly rows: string }
}

export const NOTHING_SHOWN: ShownOverlay = {
  overlay: undefined,
  agent: null,
  reads: [],
  cells: [],
  titles: { values: 'value', rows: 'action values' },
}
