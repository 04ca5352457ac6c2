import type { SweepChain, SweepForm } from './sweep-form'

/** Makes the sweeps of a form: in TypeScript, or by its twin in WebAssembly, to the same bits. */
export interface Sweeper {
  /** The form; its arrays may have moved. */
  readonly form: SweepForm
  /** The chain of the actions chosen last. */
  readonly chain: SweepChain
  /**
   * [states] two tables of zeros where the sweeps are made: values that live in them need not be carried in and out.
   */
  readonly tables: readonly [Float64Array, Float64Array]
  /** Best backups on `from`, into `to`; in place when they are the same. @returns the largest change */
  best(from: Float64Array, to: Float64Array): number
  /** Best backups in place, the chosen actions written into the chain's `choice`. */
  bestAndChoose(values: Float64Array): number
  /** A sweep in place along the chosen actions, the first one after choosing. */
  followFirst(values: Float64Array): number
  /** A sweep in place along the chosen actions, after a first one. */
  follow(values: Float64Array): number
}
