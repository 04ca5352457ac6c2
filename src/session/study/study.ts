import type { StoreApi } from 'zustand'
import type { CheckSession } from '../check/check-session'
import type { CompareSession } from '../compare/compare-session'
import type { JobsSession } from '../compare/jobs-session'
import type { AgentsSession } from '../learn/agents-session'
import type { CheckpointShelf } from '../learn/checkpoint-shelf'
import type { Course } from '../learn/course'
import type { DiagnosisSession } from '../learn/diagnosis-session'
import type { LearnSession } from '../learn/learn-session'
import type { SeedsSession } from '../learn/seeds-session'
import type { TrialsSession } from '../learn/trials-session'
import type { PlanDrive } from '../plan/plan-drive'
import type { PlanSession } from '../plan/plan-session'
import type { ModelSession } from './model-session'
import type { StudyState } from './study-store'

/** All that belongs to one open environment, without its picture. Knows no React. */
export interface Study {
  readonly study: StoreApi<StudyState>
  readonly model: ModelSession
  readonly plan: PlanSession
  /** A second plan of the same model, to compare methods with. */
  readonly beside: PlanSession
  /** What moves the one plan, or both of them. */
  readonly drive: PlanDrive
  readonly learn: LearnSession
  /** Many runs with the settings of that one. */
  readonly seeds: SeedsSession
  /** What is wrong with that run. */
  readonly diagnosis: DiagnosisSession
  /** Many agents on many runs, where the environment is a bandit. */
  readonly agents: AgentsSession
  /** Agents that learn, compared on many runs. */
  readonly compare: CompareSession
  /** What the server is at work on. */
  readonly jobs: JobsSession
  /** Episodes without learning. */
  readonly trials: TrialsSession
  /** Episodes of a policy that is held in Check. */
  readonly held: TrialsSession
  /** Trying it by hand, and what is wrong with it. */
  readonly check: CheckSession
  /** Learned tables that were kept. */
  readonly kept: CheckpointShelf
  readonly course: Course
}
