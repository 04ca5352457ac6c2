import {
  emptyChain,
  layOutAndSweep,
  sweepAndChoose,
  sweepBest,
  sweepChain,
  type SweepChain,
  type SweepForm,
} from './sweep-form'
import { wasmSweeper } from './wasm/wasm-sweeper'

/** Makes the sweeps of a form: in TypeScript, or by its twin in WebAssembly, to the same bits. */
export interface Sweeper {
  /** The form; its arrays may have moved. */
  readonly form: SweepForm
  /** The chain of the actions chosen last. */
  readonly chain: SweepChain
  /** Best backups on `from`, into `to`; in place when they are the same. @returns the largest change */
  best(from: Float64Array, to: Float64Array): number
  /** Best backups in place, the chosen actions written into the chain's `choice`. */
  bestAndChoose(values: Float64Array): number
  /** A sweep in place along the chosen actions, the first one after choosing. */
  followFirst(values: Float64Array): number
  /** A sweep in place along the chosen actions, after a first one. */
  follow(values: Float64Array): number
}

/** Below so many places calling out costs more than it brings. */
const SMALL = 128

/** @param follows  whether actions will be chosen and followed, which takes room */
export function createSweeper(form: SweepForm, follows = false): Sweeper {
  return (form.order.length >= SMALL ? wasmSweeper(form, follows) : null) ?? plainSweeper(form)
}

export function plainSweeper(form: SweepForm): Sweeper {
  const chain = emptyChain(form)
  return {
    form,
    chain,
    best: (from, to) => sweepBest(form, from, to),
    bestAndChoose: (values) => sweepAndChoose(form, values, chain),
    followFirst: (values) => layOutAndSweep(form, chain, values),
    follow: (values) => sweepChain(chain, values),
  }
}
