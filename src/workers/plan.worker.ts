import { actionValues } from '../core/plan/backup'
import { PlanRecording } from '../core/recording/plan-recording'
import { Pacer } from './pacer'
import type { PlanFrame, PlanReply, PlanRequest } from './protocol'

/** Plans one environment at a time, in slices, with a recording that goes both ways. */
const scope = self as unknown as { postMessage(message: PlanReply, transfer?: Transferable[]): void }

let session = 0
let recording: PlanRecording | undefined
let sent = 0

const pacer = new Pacer(
  (count, until) => {
    let did = 0
    while (did < count && recording?.forward()) {
      did++
      if (performance.now() >= until) break
    }
    return did
  },
  () => {
    if (!recording) return
    const { iteration, changes, reached } = recording
    const frame: PlanFrame = {
      type: 'frame',
      session,
      sweep: iteration.sweeps,
      reached,
      running: pacer.running,
      status: iteration.status,
      values: iteration.values.slice(),
      before: iteration.before.slice(),
      rowValues: actionValues(iteration.form, iteration.values),
      policy: iteration.policy?.slice() ?? null,
      phase: iteration.phase,
      backups: iteration.backups,
      change: iteration.change,
      bound: iteration.bound,
      changesFrom: sent,
      changes: Float64Array.from(changes.slice(sent)),
    }
    sent = changes.length
    scope.postMessage(frame, [
      frame.values.buffer,
      frame.before.buffer,
      frame.rowValues.buffer,
      ...(frame.policy ? [frame.policy.buffer] : []),
      frame.changes.buffer,
    ])
  },
)

self.onmessage = ({ data }: MessageEvent<PlanRequest>) => {
  try {
    handle(data)
  } catch (error) {
    pacer.running = false
    scope.postMessage({
      type: 'failed',
      session,
      message: error instanceof Error ? error.message : String(error),
    })
  }
}

function handle(request: PlanRequest): void {
  switch (request.type) {
    case 'open':
      session = request.session
      sent = 0
      pacer.running = false
      recording = new PlanRecording(request.model, request.settings, request.method)
      pacer.acknowledge()
      if (request.run) pacer.run('flat out')
      else pacer.frame()
      break
    case 'run':
      pacer.run(request.speed)
      break
    case 'pause':
      pacer.pause()
      break
    case 'sweep':
      pacer.running = false
      recording?.forward()
      pacer.frame()
      break
    case 'go':
      pacer.running = false
      recording?.goTo(request.sweep)
      pacer.frame()
      break
    case 'shown':
      pacer.acknowledge()
      break
    default:
      request satisfies never
  }
}
