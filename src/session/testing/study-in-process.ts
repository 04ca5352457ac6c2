import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { Stage } from '../../core/lesson/names'
import { CheckHost } from '../../hosts/check-host'
import { CompileHost } from '../../hosts/compile-host'
import { LearnHost } from '../../hosts/learn-host'
import { PlanHost } from '../../hosts/plan-host'
import { LearningRunsHost } from '../../hosts/learning-runs-host'
import { PullsHost } from '../../hosts/pulls-host'
import { DiagnoseHost } from '../../hosts/diagnose-host'
import { SeedsHost } from '../../hosts/seeds-host'
import { inProcess } from '../../hosts/testing/in-process'
import { TrialsHost } from '../../hosts/trials-host'
import { createCheckSession } from '../check/check-session'
import { createCheckpointShelf } from '../learn/checkpoint-shelf'
import { createCourse } from '../learn/course'
import type { KeptRuns } from '../learn/kept-run'
import { createLearnSession } from '../learn/learn-session'
import { createCompareSession } from '../compare/compare-session'
import { createJobsSession } from '../compare/jobs-session'
import type { JobServer } from '../api/jobs'
import { createAgentsSession } from '../learn/agents-session'
import { createDiagnosisSession } from '../learn/diagnosis-session'
import { createSeedsSession } from '../learn/seeds-session'
import { createTrialsSession } from '../learn/trials-session'
import { createPlanDrive } from '../plan/plan-drive'
import { createPlanSession } from '../plan/plan-session'
import { createModelSession } from '../study/model-session'
import { wireStudy } from '../study/open-study'
import type { Study } from '../study/study'
import { createStudyStore } from '../study/study-store'

const NOWHERE: KeptRuns = { read: async () => undefined, write: async () => {}, forget: async () => {} }

/** A server without jobs. */
const NO_JOBS: JobServer = {
  list: async () => ({ jobs: [], notice: null }),
  submit: async () => 'j',
  change: async () => {},
  remove: async () => {},
  results: async () => ({ chunks: [], last: 0, more: false }),
}

/**
 * A whole study with its hosts in this thread, wired as on a page.
 * @param wired  false to leave that to the caller
 * @returns the study, and what stops it
 */
export function studyInProcess(
  document: EnvironmentDocument,
  stage: Stage,
  wired = true,
): { study: Study; stop(): void } {
  const plan = createPlanSession(document.discount, inProcess(PlanHost.create))
  const beside = createPlanSession(document.discount, inProcess(PlanHost.create))
  const record = { id: 'e', document, revision: 1, base: null, createdAt: '', updatedAt: '' }
  const study: Study = {
    study: createStudyStore(
      record as never,
      stage,
      undefined,
      async () => ({ revision: 2, updatedAt: '' }) as never,
    ),
    model: createModelSession(inProcess(CompileHost.create)),
    plan,
    beside,
    drive: createPlanDrive(plan, beside),
    learn: createLearnSession('e', document, null, NOWHERE, inProcess(LearnHost.create)),
    seeds: createSeedsSession('e', NOWHERE, () => 2, inProcess(SeedsHost.create)),
    diagnosis: createDiagnosisSession(inProcess(DiagnoseHost.create)),
    jobs: createJobsSession('e', NO_JOBS),
    held: createTrialsSession(inProcess(TrialsHost.create)),
    check: createCheckSession(inProcess(CheckHost.create)),
    compare: createCompareSession('e', NOWHERE, undefined, () => 2, inProcess(LearningRunsHost.create)),
    agents: createAgentsSession('e', NOWHERE, () => 2, inProcess(PullsHost.create)),
    trials: createTrialsSession(inProcess(TrialsHost.create)),
    kept: createCheckpointShelf('e'),
    course: createCourse(),
  }
  return { study, stop: wired ? wireStudy(study) : () => {} }
}
