import type { Model } from '../core/model/model'
import { greedyPolicy } from '../core/plan/backup'
import { carryValues } from '../core/plan/carry'
import {
  actionValuesAt,
  backupsAt,
  lastBackedUp,
  policyAt,
  policyBeforeAt,
  valuesAt,
} from '../core/plan/moment'
import { planMethod, pseudoPlace, type PlanMethodId } from '../core/plan/plan-methods'
import { planStages } from '../core/plan/stages'
import { backupWorking } from '../core/plan/working'
import { PlanRecording, type PlanGoal } from '../core/recording/plan-recording'
import { Pacer } from './pacer'
import type { PlanFrame, PlanReply, PlanRequest, PlanUnit } from './protocol'

/** Plans one environment at a time, in slices, with a recording that goes both ways. */
const scope = self as unknown as { postMessage(message: PlanReply, transfer?: Transferable[]): void }

/** Up to this many rows a frame says what the policy was before. */
const COMPARED = 300_000
/** How long a plan that follows a change may take before a first picture of it is sent, in milliseconds. */
const FOLLOWING = 25

let session = 0
let model: Model | undefined
let method: PlanMethodId = 'value-iteration'
let recording: PlanRecording | undefined
let watched: number | null = null
let sent = 0
let unit: PlanUnit = 'sweep'
let goal: PlanGoal = 'end'
/** Whether the plan is gone through backup by backup: then the state at hand is shown. */
let single = false

const pacer = new Pacer(
  (count, until) => {
    let did = 0
    while (did < count && recording) {
      if (!(unit === 'backup' ? recording.forwardBackup() : recording.forward())) break
      did++
      if (recording.done === null && goal !== 'end' && recording.isAt(goal)) {
        pacer.pause()
        break
      }
      if (performance.now() >= until) break
    }
    return did
  },
  () => {
    if (!recording) return
    const frame = frameOf(recording)
    sent = recording.changes.length
    scope.postMessage(frame, [
      frame.values.buffer,
      frame.before.buffer,
      frame.rowValues.buffer,
      frame.policy.buffer,
      ...(frame.policyBefore ? [frame.policyBefore.buffer] : []),
      frame.changes.buffer,
      frame.work.buffer,
    ])
  },
)

function frameOf(recording: PlanRecording): PlanFrame {
  const { iteration: planner, done, reached, changes, work } = recording
  const { staged = false, finds } = planMethod(method)
  // A plan that is finished shows its ties as ties, whichever of them was followed.
  const held = recording.finished && finds === 'best' ? null : policyAt(planner, done)
  const rowValues = actionValuesAt(planner, done, staged)
  return {
    type: 'frame',
    session,
    method,
    sweep: planner.sweeps,
    done,
    length: planner.sequence.length,
    reached,
    running: pacer.running,
    finished: recording.finished,
    status: planner.status,
    values: valuesAt(planner, done),
    before: planner.before.slice(),
    rowValues,
    policy: held ?? greedyPolicy(planner.model.rowStart, rowValues),
    holdsPolicy: planner.policy !== null,
    policyBefore: planner.model.rows <= COMPARED ? policyBeforeAt(planner, staged) : null,
    phase: planner.phase,
    place: pseudoPlace(planner, done !== null),
    current: single || done !== null ? lastBackedUp(planner, done) : -1,
    working:
      watched !== null && watched < planner.model.states ? backupWorking(planner, watched, done) : null,
    backups: backupsAt(planner, done),
    change: planner.change,
    bound: planner.bound,
    settled: recording.settled,
    fromSweep: sent,
    changes: Float64Array.from(changes.slice(sent)),
    work: Float64Array.from(work.slice(sent)),
  }
}

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
      return open(request)
    case 'run':
      unit = request.unit
      single = unit === 'backup'
      goal = request.goal
      return pacer.run(request.speed)
    case 'pause':
      return pacer.pause()
    case 'step':
      return move((plan) => {
        single = request.unit === 'backup'
        if (single) {
          if (request.way === 'on') plan.forwardBackup()
          else plan.backBackup()
        } else if (request.way === 'on') plan.forward()
        else plan.goTo(plan.iteration.sweeps - 1)
      })
    case 'go':
      single = request.done !== null
      return move((plan) => plan.goTo(request.sweep, request.done))
    case 'match':
      return move((plan) => plan.goToWork(request.backups))
    case 'watch':
      watched = request.state
      return pacer.frame()
    case 'stages':
      return sendStages()
    case 'shown':
      return pacer.acknowledge()
    default:
      request satisfies never
  }
}

function sendStages(): void {
  if (!model || !recording) return
  const { discount, horizon } = recording.iteration.settings
  const stages = planStages(model, discount, horizon)
  scope.postMessage({ type: 'stages', session, ...stages }, [stages.values.buffer, stages.policy.buffer])
}

function move(step: (plan: PlanRecording) => void): void {
  pacer.running = false
  if (recording) step(recording)
  pacer.frame()
}

function open(request: Extract<PlanRequest, { type: 'open' }>): void {
  const before = recording && model ? { model, values: recording.iteration.values } : undefined
  session = request.session
  model = request.model ?? model
  method = request.method
  sent = 0
  pacer.running = false
  unit = 'sweep'
  goal = 'end'
  single = false
  const initial = request.follow && before ? carryValues(before.model, before.values, model!) : null
  recording = new PlanRecording(model!, { ...request.settings, initial }, method)
  pacer.acknowledge()
  if (!request.follow) return pacer.frame()
  const until = performance.now() + FOLLOWING
  while (performance.now() < until && recording.forward());
  if (recording.finished) pacer.frame()
  else pacer.run('flat out')
}
