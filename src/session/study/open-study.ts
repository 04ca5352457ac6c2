import type { EnvironmentRecord } from '../../server/contract/environments'
import { serverComparisons, type ComparisonStore } from '../api/comparisons'
import { readEnvironment, saveEnvironment } from '../api/environments'
import { jobServer, type JobServer } from '../api/jobs'
import { createCheckSession } from '../check/check-session'
import { createCheckpointShelf } from '../learn/checkpoint-shelf'
import { createCourse } from '../learn/course'
import { browserKeptRuns, type KeptRuns } from '../learn/kept-run'
import { createLearnSession } from '../learn/learn-session'
import type { RunLink } from '../learn/run-link'
import { createCompareSession } from '../compare/compare-session'
import { createJobsSession } from '../compare/jobs-session'
import { createAgentsSession } from '../learn/agents-session'
import { createDiagnosisSession } from '../learn/diagnosis-session'
import { createSeedsSession } from '../learn/seeds-session'
import { createTrialsSession } from '../learn/trials-session'
import { createPlanDrive } from '../plan/plan-drive'
import { createPlanSession } from '../plan/plan-session'
import { compilesAtOnce } from './compiled'
import { createModelSession } from './model-session'
import type { Layer, Stage } from '../../core/lesson/names'
import type { Study } from './study'
import { createStudyStore } from './study-store'
import { wireCheck } from './wire-check'
import { wireLearning } from './wire-learning'
import { wireModel } from './wire-model'
import { wirePlans } from './wire-plans'

/** Where what a study makes is kept. */
export interface Keeping {
  readonly save: typeof saveEnvironment
  readonly read: typeof readEnvironment
  readonly runs: KeptRuns
  readonly comparisons: ComparisonStore
  readonly jobs: JobServer
}

/** On the shelf, and in the browser. */
const onTheShelf = (): Keeping => ({
  save: saveEnvironment,
  read: readEnvironment,
  runs: browserKeptRuns(),
  comparisons: serverComparisons,
  jobs: jobServer,
})

/**
 * @param link  the settings of learning that an address asks for
 * @param layers  those that are on at first, where they are others than usual
 */
export function openStudy(
  record: EnvironmentRecord,
  stage: Stage,
  link: RunLink | null,
  layers?: readonly Layer[],
  keeping: Keeping = onTheShelf(),
): Study {
  const model = createModelSession()
  // What needs no worker is there from the first picture on.
  if (compilesAtOnce(record.document)) model.open(record.document)
  const plan = createPlanSession(record.document.discount)
  const beside = createPlanSession(record.document.discount)
  return {
    study: createStudyStore(record, stage, layers, keeping.save, keeping.read),
    model,
    plan,
    beside,
    drive: createPlanDrive(plan, beside),
    learn: createLearnSession(record.id, record.document, link, keeping.runs),
    seeds: createSeedsSession(record.id, keeping.runs),
    diagnosis: createDiagnosisSession(),
    agents: createAgentsSession(record.id, keeping.runs),
    compare: createCompareSession(record.id, keeping.runs, keeping.comparisons),
    jobs: createJobsSession(record.id, keeping.jobs),
    trials: createTrialsSession(),
    held: createTrialsSession(),
    check: createCheckSession(),
    kept: createCheckpointShelf(record.id),
    course: createCourse(),
  }
}

/** Keeps everything in a study with everything else in it. @returns stops it, and all that is at work */
export function wireStudy(study: Study): () => void {
  const stops = [wireModel(study), wirePlans(study), wireLearning(study), wireCheck(study)]
  return () => stops.forEach((stop) => stop())
}
