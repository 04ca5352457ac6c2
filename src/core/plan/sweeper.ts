import { emptyChain, layOutAndSweep, sweepBest, sweepChain, type SweepForm } from './sweep-form'
import type { Sweeper } from './sweeper-kind'
import { wasmSweeper } from './wasm/wasm-sweeper'

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
    bestAndChoose: (values) => sweepBest(form, values, values, chain.choice),
    followFirst: (values) => layOutAndSweep(form, chain, values),
    follow: (values) => sweepChain(chain, values),
  }
}
