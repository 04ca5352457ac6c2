import { CheckHost } from '../hosts/check-host'
import { CompileHost } from '../hosts/compile-host'
import { DiagnoseHost } from '../hosts/diagnose-host'
import { LearnHost } from '../hosts/learn-host'
import { LearningRunsHost } from '../hosts/learning-runs-host'
import { PlanHost } from '../hosts/plan-host'
import { PullsHost } from '../hosts/pulls-host'
import { SeedsHost } from '../hosts/seeds-host'
import { TrialsHost } from '../hosts/trials-host'
import { serve } from '../hosts/browser/serve'
import type { WorkerName } from '../hosts/browser/launcher'

const SERVE: Readonly<Record<WorkerName, () => void>> = {
  compile: () => serve(CompileHost.create),
  check: () => serve(CheckHost.create),
  diagnose: () => serve(DiagnoseHost.create),
  plan: () => serve(PlanHost.create),
  learn: () => serve(LearnHost.create),
  seeds: () => serve(SeedsHost.create),
  learningRuns: () => serve(LearningRunsHost.create),
  pulls: () => serve(PullsHost.create),
  trials: () => serve(TrialsHost.create),
}

/** All workers are one script: which of them this is, its name says. */
export function startWorker(): void {
  SERVE[self.name as WorkerName]()
}
