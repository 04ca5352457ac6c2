/** One of the numbers a state is made of, for drawing and for tables. */
export interface Axis {
  readonly name: string
  /** How each value is written, in order. */
  readonly texts: readonly string[]
  /** True when the values are numbers, evenly spaced. */
  readonly numeric: boolean
}

/** How the states of a model lie in the space of their variables. */
export interface StateSpace {
  readonly axes: readonly Axis[]
  /** [states x axes] the number of each value; -1 for states that stand for an ending only. */
  readonly index: Int32Array
}

/** Something counted beside the reward: what each row gives of it, expected. */
export interface Measure {
  readonly name: string
  /** [rows] */
  readonly perRow: Float64Array
}
