/** The numbers that lie over a model: a plan's or a run's. */
export interface TableNumbers {
  /** [states] */
  readonly values: Float64Array
  /** [rows] */
  readonly rowValues: Float64Array
  /** [rows] */
  readonly policy: Float64Array
  /** By which they were made, 0 to 1. */
  readonly discount: number
  /** Of a run: episodes, and the rolling mean of returns at each of them. */
  readonly curve?: { readonly episode: Float64Array; readonly mean: Float64Array }
}
