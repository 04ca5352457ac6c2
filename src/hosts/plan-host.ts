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
import { planHorizon } from '../core/plan/horizon'
import { backupWorking } from '../core/plan/working'
import { PlanRecording, type PlanGoal } from '../core/recording/plan-recording'
import { failure, type Clock, type Host, type Post } from './host'
import { Pacer } from './pacer'
import type { PlanFrame, PlanReply, PlanRequest, PlanUnit } from './protocol/plan'

/** Up to this many rows a frame says what the policy was before. */
const COMPARED = 300_000
/** How long a plan that follows a change may take before a first picture of it is sent, in milliseconds. */
const FOLLOWING = 25

/** Plans one environment at a time, in slices, with a recording that goes both ways. */
export class PlanHost implements Host<PlanRequest> {
  private session = 0
  private model: Model | undefined
  private method: PlanMethodId = 'value-iteration'
  private recording: PlanRecording | undefined
  private watched: number | null = null
  private sent = 0
  private unit: PlanUnit = 'sweep'
  private goal: PlanGoal = 'end'
  /** Whether the plan is gone through backup by backup: then the state at hand is shown. */
  private single = false
  private readonly pacer: Pacer

  private constructor(
    private readonly post: Post<PlanReply>,
    private readonly clock: Clock,
  ) {
    this.pacer = new Pacer(
      (count, until) => this.work(count, until),
      () => this.send(),
      clock,
    )
  }

  static readonly create = (post: Post<PlanReply>, clock: Clock) => new PlanHost(post, clock)

  hear(request: PlanRequest): void {
    try {
      this.handle(request)
    } catch (error) {
      this.pacer.running = false
      this.post(failure(this.session, error))
    }
  }

  private work(count: number, until: number): number {
    const { recording, goal } = this
    let did = 0
    while (did < count && recording) {
      if (!(this.unit === 'backup' ? recording.forwardBackup() : recording.forward())) break
      did++
      if (recording.done === null && goal !== 'end' && recording.isAt(goal)) {
        this.pacer.pause()
        break
      }
      if (this.clock.now() >= until) break
    }
    return did
  }

  private send(): void {
    if (!this.recording) return
    const frame = this.frameOf(this.recording)
    this.sent = this.recording.changes.length
    this.post(frame, [
      frame.values.buffer,
      frame.before.buffer,
      frame.rowValues.buffer,
      frame.policy.buffer,
      ...(frame.policyBefore ? [frame.policyBefore.buffer] : []),
      frame.changes.buffer,
      frame.work.buffer,
    ] as ArrayBuffer[])
  }

  private frameOf(recording: PlanRecording): PlanFrame {
    const { iteration: planner, done, reached, changes, work } = recording
    const { staged = false, purpose } = planMethod(this.method)
    // A plan that is finished shows its ties as ties, whichever of them was followed.
    const held = recording.finished && purpose === 'control' ? null : policyAt(planner, done)
    const rowValues = actionValuesAt(planner, done, staged)
    return {
      type: 'frame',
      session: this.session,
      method: this.method,
      sweep: planner.sweeps,
      done,
      length: planner.sequence.length,
      reached,
      running: this.pacer.running,
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
      current: this.single || done !== null ? lastBackedUp(planner, done) : -1,
      working:
        this.watched !== null && this.watched < planner.model.states
          ? backupWorking(planner, this.watched, done)
          : null,
      backups: backupsAt(planner, done),
      change: planner.change,
      bound: planner.bound,
      settled: recording.settled,
      fromSweep: this.sent,
      changes: Float64Array.from(changes.slice(this.sent)),
      work: Float64Array.from(work.slice(this.sent)),
    }
  }

  private handle(request: PlanRequest): void {
    switch (request.type) {
      case 'open':
        return this.open(request)
      case 'run':
        this.unit = request.unit
        this.single = this.unit === 'backup'
        this.goal = request.goal
        return this.pacer.run(request.speed)
      case 'pause':
        return this.pacer.pause()
      case 'step':
        return this.move((plan) => {
          this.single = request.unit === 'backup'
          if (this.single) {
            if (request.way === 'on') plan.forwardBackup()
            else plan.backBackup()
          } else if (request.way === 'on') plan.forward()
          else plan.goTo(plan.iteration.sweeps - 1)
        })
      case 'go':
        this.single = request.done !== null
        return this.move((plan) => plan.goTo(request.sweep, request.done))
      case 'match':
        return this.move((plan) => plan.goToWork(request.backups))
      case 'watch':
        this.watched = request.state
        return this.pacer.frame()
      case 'horizon':
        return this.sendHorizon()
      case 'shown':
        return this.pacer.acknowledge()
      default:
        request satisfies never
    }
  }

  private sendHorizon(): void {
    if (!this.model || !this.recording) return
    const { discount, horizon } = this.recording.iteration.settings
    const plan = planHorizon(this.model, discount, horizon)
    this.post({ type: 'horizon', session: this.session, ...plan }, [
      plan.values.buffer as ArrayBuffer,
      plan.policy.buffer as ArrayBuffer,
    ])
  }

  private move(step: (plan: PlanRecording) => void): void {
    this.pacer.running = false
    if (this.recording) step(this.recording)
    this.pacer.frame()
  }

  private open(request: Extract<PlanRequest, { type: 'open' }>): void {
    const before =
      this.recording && this.model
        ? { model: this.model, values: this.recording.iteration.values }
        : undefined
    this.session = request.session
    const model = (request.model ?? this.model)!
    this.model = model
    this.method = request.method
    this.sent = 0
    this.pacer.running = false
    this.unit = 'sweep'
    this.goal = 'end'
    this.single = false
    const initial = request.follow && before ? carryValues(before.model, before.values, model) : null
    const recording = new PlanRecording(model, { ...request.settings, initial }, request.method)
    this.recording = recording
    this.pacer.acknowledge()
    if (!request.follow) return this.pacer.frame()
    const until = this.clock.now() + FOLLOWING
    while (this.clock.now() < until && recording.forward());
    if (recording.finished) this.pacer.frame()
    else this.pacer.run('flat out')
  }
}
