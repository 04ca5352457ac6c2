import type { EnvironmentDocument } from '../kinds/kinds'
import type { Contestant } from './contestant'
import type { BandKind } from './run-statistics'
import type { Sweep } from './sweep'

export const COMPARISON_FORMAT = 'jaunty-pawn/comparison'
export const COMPARISON_VERSION = 1

/** What is drawn of the runs. */
export const PICTURES = {
  curves: 'curves',
  spread: 'spread of the runs',
  trials: 'after training',
  sweep: 'sweep',
} as const
export type Picture = keyof typeof PICTURES

/** How a comparison is looked at. */
export interface ComparisonView {
  readonly picture: Picture
  /** What the curves are of, see `RUN_MEASURES`. */
  readonly measure: string
  /** What is drawn beneath them on the same axis; null for nothing. */
  readonly beneath: 'level' | 'rate' | null
  readonly along: 'episodes' | 'steps'
  readonly logarithmic: boolean
  /** Over how many points a curve is smoothed, and whether that is their mean or the sum over their episodes. */
  readonly smooth: number
  readonly rolling: 'mean' | 'sum'
  readonly band: BandKind
  /** Whether every run is drawn besides. */
  readonly singles: boolean
  /** What runs are judged by, see `scoreOf`. */
  readonly score: string
  readonly sweep: Sweep
}

export const FIRST_VIEW: ComparisonView = {
  picture: 'curves',
  measure: 'return',
  beneath: null,
  along: 'episodes',
  logarithmic: false,
  smooth: 10,
  rolling: 'mean',
  band: 'quartiles',
  singles: false,
  score: 'mean',
  sweep: { axes: [{ varied: 'rate', values: '1/64..1*2' }] },
}

/** Contestants and how they are run: what is kept, exported and read. */
export interface Comparison {
  readonly format: typeof COMPARISON_FORMAT
  readonly version: typeof COMPARISON_VERSION
  readonly name: string
  /** A sentence that says what to look at. */
  readonly note: string
  /** Where it is taken away: the environment that contestants without one of their own act in. */
  readonly environment?: EnvironmentDocument
  /** Runs of each contestant. */
  readonly runs: number
  /** Episodes without learning after each run, where they are asked for. */
  readonly trials: number
  readonly contestants: readonly Contestant[]
  /** The numbers of those that are neither drawn nor run. */
  readonly hidden: readonly number[]
  readonly view: ComparisonView
}

export function newComparison(name: string): Comparison {
  return {
    format: COMPARISON_FORMAT,
    version: COMPARISON_VERSION,
    name,
    note: '',
    runs: 30,
    trials: 200,
    contestants: [],
    hidden: [],
    view: FIRST_VIEW,
  }
}
