import type { Stage } from '../../core/lesson/names'
import { buildStage } from './building/stage'
import { checkStage } from './checking/stage'
import { compareStage } from './compare/stage'
import { learnStage } from './learn/stage'
import { planStage } from './plan/stage'
import type { StageView } from './stage'

/** Every stage, once; in the head they stand in the order of their names. */
export const STAGES = {
  build: buildStage,
  check: checkStage,
  plan: planStage,
  learn: learnStage,
  compare: compareStage,
} as const satisfies Readonly<Record<Stage, StageView>>
