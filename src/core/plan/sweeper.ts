import { emptyChain, layOutAndSweep, sweepBest, sweepChain, type SweepForm } from './sweep-form'
import type { Sweeper } from './sweeper-kind'
import { wasmSweeper } from './wasm/wasm-sweeper'

/** Below so many places a sweep takes microseconds, and a memory of its own is not worth while. */
const SMALL = 1000

/** @param follows  whether actions will be chosen and followed, which takes room */
export function createSweeper(form: SweepForm, follows = false): Sweeper {
  return (form.order.length >= SMALL ? wasmSweeper(form, follows) : null) ?? plainSweeper(form)
}

export function plainSweeper(form: SweepForm): Sweeper {
  const chain = emptyChain(form)
  return {
    form,
    chain,
    tables: [new Float64Array(form.model.states), new Float64Array(form.model.states)],
    best: (from, to) => sweepBest(form, from, to),
    bestAndChoose: (values) => sweepBest(form, values, values, chain.choice),
    followFirst: (values) => layOutAndSweep(form, chain, values),
    follow: (values) => sweepChain(chain, values),
  }
}
