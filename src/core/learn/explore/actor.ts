import type { WorkingLine } from '../../explain/working'

/** How an agent picks what it does. */
export interface Actor {
  /** Whether the last choice was a random action. */
  explored: boolean
  /** The number that its schedule moves, for those that have one. */
  level?: number
  /** A table row of the observation. */
  choose(observation: number): number
  /** A reward that followed a row; its visits are counted already. */
  hear?(row: number, reward: number): void
  /** How good a row may still be, for those that act by it; infinity where it was never tried. */
  bound?(observation: number, row: number): number
  /** Why it would choose what it chooses: the arithmetic of each row of an observation, in their order. */
  explain?(observation: number): Omit<WorkingLine, 'label'>[]
  /** What it has to remember, for snapshots. */
  kept?(): Readonly<Record<string, Float64Array>>
  /** Writes the chances of the observation's rows, in their order, to the front of `out`. */
  chances(observation: number, out: Float64Array): void
}

/** The entry that a draw from [0, 1) falls on; the last one catches what rounding leaves over. */
export function draw(chances: Float64Array, size: number, uniform: number): number {
  let k = 0
  for (let left = uniform; k < size - 1 && left >= chances[k]; k++) left -= chances[k]
  return k
}
