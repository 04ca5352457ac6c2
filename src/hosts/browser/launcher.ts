import type { CheckReply, CheckRequest } from '../protocol/check'
import type { CompileReply, CompileRequest } from '../protocol/compile'
import type { DiagnoseReply, DiagnoseRequest } from '../protocol/diagnose'
import type { SeedsReply, SeedsRequest } from '../protocol/seeds'
import type { LearningRunsReply, LearningRunsRequest } from '../protocol/learning-runs'
import type { LearnReply, LearnRequest } from '../protocol/learn'
import type { PlanReply, PlanRequest } from '../protocol/plan'
import type { PullsReply, PullsRequest } from '../protocol/pulls'
import type { TrialsReply, TrialsRequest } from '../protocol/trials'

/** A worker with typed messages; the only place that starts any. */
export interface Connection<Request, Reply> {
  post(request: Request): void
  /** The one who listens; a new one takes the old one's place. `broken` is told when the worker itself gives up. */
  listen(listener: (reply: Reply) => void, broken?: () => void): void
  close(): void
}

export function startCompileWorker(): Connection<CompileRequest, CompileReply> {
  return connect(new Worker(new URL('./compile.worker.ts', import.meta.url)))
}

export function startCheckWorker(): Connection<CheckRequest, CheckReply> {
  return connect(new Worker(new URL('./check.worker.ts', import.meta.url)))
}

export function startDiagnoseWorker(): Connection<DiagnoseRequest, DiagnoseReply> {
  return connect(new Worker(new URL('./diagnose.worker.ts', import.meta.url)))
}

export function startPlanWorker(): Connection<PlanRequest, PlanReply> {
  return connect(new Worker(new URL('./plan.worker.ts', import.meta.url)))
}

export function startLearnWorker(): Connection<LearnRequest, LearnReply> {
  return connect(new Worker(new URL('./learn.worker.ts', import.meta.url)))
}

export function startSeedsWorker(): Connection<SeedsRequest, SeedsReply> {
  return connect(new Worker(new URL('./seeds.worker.ts', import.meta.url)))
}

export function startLearningRunsWorker(): Connection<LearningRunsRequest, LearningRunsReply> {
  return connect(new Worker(new URL('./learning-runs.worker.ts', import.meta.url)))
}

export function startPullsWorker(): Connection<PullsRequest, PullsReply> {
  return connect(new Worker(new URL('./pulls.worker.ts', import.meta.url)))
}

export function startTrialsWorker(): Connection<TrialsRequest, TrialsReply> {
  return connect(new Worker(new URL('./trials.worker.ts', import.meta.url)))
}

function connect<Request, Reply>(worker: Worker): Connection<Request, Reply> {
  return {
    post: (request) => worker.postMessage(request),
    listen: (listener, broken) => {
      worker.onmessage = ({ data }: MessageEvent<Reply>) => listener(data)
      worker.onerror = () => broken?.()
    },
    close() {
      // One that is closed while it is still being loaded says that it failed; nobody waits for it any more.
      worker.onmessage = null
      worker.onerror = null
      worker.terminate()
    },
  }
}
