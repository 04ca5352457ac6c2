import type { Model } from '../../core/model/model'
import type { HeldPlan } from '../../core/plan/difference'
import type { LearnFrame } from '../../hosts/protocol/learn'
import type { PlanFrame } from '../../hosts/protocol/plan'
import type { View } from '../../core/lesson/names'
import type { BoardLegend, Laid } from '../board/legends'
import type { ShownOverlay } from '../board/overlay'

/** What a stage has to lay over a board: a layer takes from it what it shows. */
export type LayerSource =
  | {
      readonly of: 'plan'
      readonly model: Model
      readonly frame: PlanFrame
      /** A plan that others are compared with. */
      readonly held: HeldPlan | null
    }
  | {
      readonly of: 'run'
      readonly model: Model
      readonly frame: LearnFrame
      /** Whether the run evaluates a policy that is given. */
      readonly predicts: boolean
      /** [states] what the best policy is worth, or the one that is evaluated; undefined until it is known */
      readonly optimum: Float64Array | undefined
      /** [rows] the policy before the episode that is looked at; null while none is */
      readonly before: Float64Array | null
      /** The truth is hidden from the class. */
      readonly covered: boolean
    }

/** A layer of the board: when there is something for it, and what it does to what lies over the board. */
export interface LayerView {
  readonly title: string
  /** Instead of the title, where what is shown has another name. */
  titleFor?(shown: ShownOverlay): string
  /** Whether it can be chosen. */
  when(source: LayerSource, view: View): boolean
  /** What changes over the board when it is on; layers that only show what is there already leave this out. */
  lay?(shown: ShownOverlay, source: LayerSource): ShownOverlay
  /** What its colours stand for; null where another layer that is on says it, left out where there are none of its own. */
  legend?(laid: Laid): BoardLegend | null
}
