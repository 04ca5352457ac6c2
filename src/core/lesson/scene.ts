import type { Comparison } from '../compare/comparison'
import type { NamedHeld } from '../plan/held-names'
import type { ChosenPlanSettings } from '../plan/plan-settings'
import type { PlanMethodId } from '../plan/plan-methods'
import type { LearnChoice } from '../settings/choice'
import type { Layer, Stage, View } from './names'

/** What is on the screen of one environment, as data: enough to put it there again. */
export interface Scene {
  readonly stage: Stage
  readonly view: View
  readonly layers: readonly Layer[]
  /** The label of the state that is selected; null for none. */
  readonly selected: string | null
  /** Whether the curve of the strip is spread over the board's place. */
  readonly spread: boolean
  /** Whether the plan is shown while building. */
  readonly planned: boolean
  /** By name, what the knobs are turned to. */
  readonly knobs: Readonly<Record<string, number>>
  /** By the label of tabs in the side column, the title of the one that is open. */
  readonly tabs: Readonly<Record<string, string>>
  /** By the name of what can be folded away in the side column, whether it is open. */
  readonly folds: Readonly<Record<string, boolean>>
  /** Null where no plan is on the screen. */
  readonly plan: PlanScene | null
  /** Null where there is no run. */
  readonly learn: LearnScene | null
  /** Null but in Compare; without its environment. */
  readonly compare: Comparison | null
  readonly check: CheckScene | null
}

/** A plan at a moment. */
export interface PlanScene extends ChosenPlanSettings {
  readonly method: PlanMethodId
  /** 0 to 1 */
  readonly discount: number
  /** Where a policy that is followed comes from, by name. */
  readonly source: string
  readonly unit: 'sweep' | 'backup'
  /** A plan that it is compared with; null for none. */
  readonly held: NamedHeld | null
  /** The method of a second plan beside it. */
  readonly beside: PlanMethodId | null
  /** Whether it is at its end, wherever that is. */
  readonly finished: boolean
  /** Else where it is: sweeps, and backups of the sweep at hand; null when all of them are made. */
  readonly sweep: number
  readonly done: number | null
  /** Backups up to there, in all. */
  readonly backups: number
}

/** A run at a moment. */
export interface LearnScene {
  readonly choice: LearnChoice
  /** Steps up to the moment on the board, and up to the furthest one. */
  readonly steps: number
  readonly reached: number
  /** Episodes that the mean return is of. */
  readonly window: number
  /** The step of the episode at hand that is looked at; null for none. */
  readonly episodeStep: number | null
  /** Runs with the same settings that are laid beside it; 0 for none. */
  readonly seeds: number
}

/** What is walked in Check: the story of a finding, or an episode by hand. */
export interface CheckScene {
  /** By its name in links; null for none. */
  readonly finding: string | null
  /** Steps that were walked. */
  readonly at: number
  readonly hand: HandScene | null
}

/** An episode by hand, by names. */
export interface HandScene {
  readonly seed: number
  readonly episode: number
  /** The state it begins in; null for a start that is drawn. */
  readonly start: string | null
  readonly moves: readonly {
    readonly action: string
    /** What was made to happen, by its place among what can happen, from 0; null where it was drawn. */
    readonly forced: number | null
  }[]
}
