import type { CompileReply, CompileRequest } from '../protocol/compile'
import type { SeedsReply, SeedsRequest } from '../protocol/seeds'
import type { LearnReply, LearnRequest } from '../protocol/learn'
import type { PlanReply, PlanRequest } from '../protocol/plan'
import type { TrialsReply, TrialsRequest } from '../protocol/trials'

/** A worker with typed messages; the only place that starts any. */
export interface WorkerLine<Request, Reply> {
  post(request: Request): void
  /** The one who listens; a new one takes the old one's place. `broken` is told when the worker itself gives up. */
  listen(listener: (reply: Reply) => void, broken?: () => void): void
  close(): void
}

export function startCompileWorker(): WorkerLine<CompileRequest, CompileReply> {
  return line(new Worker(new URL('./compile.worker.ts', import.meta.url)))
}

export function startPlanWorker(): WorkerLine<PlanRequest, PlanReply> {
  return line(new Worker(new URL('./plan.worker.ts', import.meta.url)))
}

export function startLearnWorker(): WorkerLine<LearnRequest, LearnReply> {
  return line(new Worker(new URL('./learn.worker.ts', import.meta.url)))
}

export function startSeedsWorker(): WorkerLine<SeedsRequest, SeedsReply> {
  return line(new Worker(new URL('./seeds.worker.ts', import.meta.url)))
}

export function startTrialsWorker(): WorkerLine<TrialsRequest, TrialsReply> {
  return line(new Worker(new URL('./trials.worker.ts', import.meta.url)))
}

function line<Request, Reply>(worker: Worker): WorkerLine<Request, Reply> {
  return {
    post: (request) => worker.postMessage(request),
    listen: (listener, broken) => {
      worker.onmessage = ({ data }: MessageEvent<Reply>) => listener(data)
      worker.onerror = () => broken?.()
    },
    close: () => worker.terminate(),
  }
}
