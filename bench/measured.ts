import type { Keeping } from '../src/core/learn/learner'
import type { PlanMethodId } from '../src/core/plan/plan-methods'

/** What a kernel does, once it is set up and has warmed up. */
export interface Measured {
  readonly unit: string
  /** What a round does, in `unit` without its "a second". */
  readonly amount: number
  round(): void
  /** How large the model is, where that is not what was asked for. */
  readonly states?: number
}

/** What was measured in a number of rounds. */
export interface Figures {
  /** The median over the rounds. */
  readonly rate: number
  readonly unit: string
  /** Of the median round. */
  readonly seconds: number
  /** The rates of the rounds, from the lowest. */
  readonly rounds: readonly number[]
}

/** What the command line asks of every kernel. */
export interface Asked {
  readonly states: number
  /** Steps, sweeps or runs a round. */
  readonly amount: number | undefined
  /** Kernels of learners: what is kept of the run. */
  readonly keeps: Keeping
  /** Solve: by which method. */
  readonly method: PlanMethodId | undefined
  /** Sweeps: in TypeScript, not in WebAssembly. */
  readonly plain: boolean
}

/** Measures some rounds, one after the other. */
export function figuresOf({ unit, amount, round }: Measured, rounds: number): Figures {
  const rates = Array.from({ length: rounds }, () => amount / timed(round)).sort((a, b) => a - b)
  const rate = rates[rounds >> 1]
  return { rate, unit, seconds: amount / rate, rounds: rates }
}

export function timed(work: () => void): number {
  const started = performance.now()
  work()
  return (performance.now() - started) / 1000
}
