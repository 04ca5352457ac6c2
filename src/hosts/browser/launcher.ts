import { fromWire, toWire } from '../wire'
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

/** Every worker, once. */
const WORKERS = {
  compile: () => new Worker(new URL('./compile.worker.ts', import.meta.url)),
  check: () => new Worker(new URL('./check.worker.ts', import.meta.url)),
  diagnose: () => new Worker(new URL('./diagnose.worker.ts', import.meta.url)),
  plan: () => new Worker(new URL('./plan.worker.ts', import.meta.url)),
  learn: () => new Worker(new URL('./learn.worker.ts', import.meta.url)),
  seeds: () => new Worker(new URL('./seeds.worker.ts', import.meta.url)),
  learningRuns: () => new Worker(new URL('./learning-runs.worker.ts', import.meta.url)),
  pulls: () => new Worker(new URL('./pulls.worker.ts', import.meta.url)),
  trials: () => new Worker(new URL('./trials.worker.ts', import.meta.url)),
}

export type WorkerName = keyof typeof WORKERS

let start = (name: WorkerName): Worker => WORKERS[name]()

/** Has all workers started from one script that goes by their names: a page that stands alone has no files of its own. */
export function startWorkersFrom(script: string): void {
  start = (name) => new Worker(script, { name })
}

export function startCompileWorker(): Connection<CompileRequest, CompileReply> {
  return connect(start('compile'))
}

export function startCheckWorker(): Connection<CheckRequest, CheckReply> {
  return connect(start('check'))
}

export function startDiagnoseWorker(): Connection<DiagnoseRequest, DiagnoseReply> {
  return connect(start('diagnose'))
}

export function startPlanWorker(): Connection<PlanRequest, PlanReply> {
  return connect(start('plan'))
}

export function startLearnWorker(): Connection<LearnRequest, LearnReply> {
  return connect(start('learn'))
}

export function startSeedsWorker(): Connection<SeedsRequest, SeedsReply> {
  return connect(start('seeds'))
}

export function startLearningRunsWorker(): Connection<LearningRunsRequest, LearningRunsReply> {
  return connect(start('learningRuns'))
}

export function startPullsWorker(): Connection<PullsRequest, PullsReply> {
  return connect(start('pulls'))
}

export function startTrialsWorker(): Connection<TrialsRequest, TrialsReply> {
  return connect(start('trials'))
}

function connect<Request, Reply>(worker: Worker): Connection<Request, Reply> {
  return {
    post: (request) => worker.postMessage(toWire(request)),
    listen: (listener, broken) => {
      worker.onmessage = ({ data }: MessageEvent) => listener(fromWire(data) as Reply)
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
