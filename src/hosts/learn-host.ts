import { EXACT_STATES } from '../core/limits'
import { explainEpisode, type EpisodeTable } from '../core/learn/episode-table'
import { episodeGradient, exactGradient, GradientMeasure, matchGradients } from '../core/learn/gradient-truth'
import { Landscape } from '../core/learn/landscape'
import { createLearner } from '../core/learn/methods/learners'
import type { LearnMethod } from '../core/learn/methods/method'
import { learnMethod, pseudoPlaceOf } from '../core/learn/methods/methods'
import { tableRowOf, World } from '../core/learn/world'
import { modelFingerprint } from '../core/model/fingerprint'
import { startValue } from '../core/model/model'
import { evaluatePolicy } from '../core/plan/evaluate'
import { OptimumSearch } from '../core/plan/solve'
import { LearnRecording } from '../core/recording/learn-recording'
import { ExactMarks } from './exact-marks'
import { failure, pause, type Clock, type Host, type Post } from './host'
import { frameArrays, learnFrame } from './learn-frame'
import { Pacer } from './pacer'
import type { EpisodeTruth, LearnReply, LearnRequest, SavedRun } from './protocol/learn'

/** Steps between looks at the clock. */
const CHUNK = 4096
/** How long the optimum is worked on at a time, in milliseconds. */
const OPTIMUM_SLICE = 8
/** How long episodes are played for a measurement at a time, in milliseconds. */
const MEASURE_SLICE = 60
/** While a run goes on, the exact value is found anew so often at the most, in milliseconds: between frames, as it takes its time. */
const EXACT_PAUSE = 250
/** Between two keyframes that are handed out, in milliseconds; runs with more episodes than this hand out none. */
const KEEP_PAUSE = 4000
const KEEP_EPISODES = 200_000
/** A run has to go on for so long before its speed is told, in milliseconds. */
const RATE_AFTER = 200

/** Requests that change nothing about where the run is going. */
const ASIDE: ReadonlySet<LearnRequest['type']> = new Set([
  'shown',
  'watch',
  'window',
  'episode',
  'measure',
  'landscape',
])

/** A run with what belongs to it. */
interface Run {
  readonly recording: LearnRecording
  readonly method: LearnMethod
  readonly marks: ExactMarks
}

/** Lets one agent learn at a time, in slices, and tells how it stands. */
export class LearnHost implements Host<LearnRequest> {
  private session = 0
  private run: Run | undefined
  private watched: number | null = null
  private rollingWindow = 50
  /** When the run was set going last, and how many steps it had then. */
  private since = { time: 0, steps: 0 }
  private keptAt = 0
  /** A run that is taken up goes on to where it was, and back to the moment that was looked at. */
  private goal: { readonly reached: number; readonly at: number } | undefined
  /** The measurement of a gradient that goes on; another number gives it up. */
  private measuring = 0
  /** The landscape that is worked out; likewise. */
  private surveying = 0
  private readonly pacer: Pacer

  private constructor(
    private readonly post: Post<LearnReply>,
    private readonly clock: Clock,
  ) {
    this.pacer = new Pacer(
      (count, until) => this.work(count, until),
      () => this.send(),
      clock,
    )
  }

  static readonly create = (post: Post<LearnReply>, clock: Clock) => new LearnHost(post, clock)

  hear(request: LearnRequest): void {
    try {
      this.handle(request)
    } catch (error) {
      this.pacer.running = false
      this.post(failure(this.session, error))
    }
  }

  private work(count: number, until: number): number {
    const { run, goal } = this
    if (!run) return 0
    const { recording, marks } = run
    const { learner } = recording
    const most = goal ? Math.min(count, goal.reached - learner.steps) : count
    let did = 0
    while (did < most) {
      // Single steps may have come to a mark as well.
      if (learner.log.count >= marks.next) marks.add(learner)
      const taken = recording.forward(Math.min(CHUNK, most - did), marks.next)
      did += taken
      if (taken === 0 || this.clock.now() >= until) break
    }
    if (did > 0 && recording.finished) marks.note(learner)
    else marks.refresh(learner, EXACT_PAUSE)
    this.keepNow(did > 0 && recording.finished)
    if (goal && did === 0) {
      recording.goTo(goal.at)
      this.goal = undefined
    }
    return did
  }

  private send(): void {
    if (!this.run) return
    const { recording, method, marks } = this.run
    const { learner } = recording
    const { running } = this.pacer
    const elapsed = this.clock.now() - this.since.time
    const frame = learnFrame(recording, {
      method,
      marks,
      session: this.session,
      running,
      rate: running && elapsed > RATE_AFTER ? ((learner.steps - this.since.steps) / elapsed) * 1000 : 0,
      watched: this.watched,
      rollingWindow: this.rollingWindow,
      place: pseudoPlaceOf(method, learner),
    })
    this.post(frame, frameArrays(frame))
  }

  private handle(request: LearnRequest): void {
    const { pacer } = this
    if (!ASIDE.has(request.type)) this.goal = undefined
    switch (request.type) {
      case 'open':
        return this.open(request)
      case 'reach':
        this.goal = { reached: request.reached, at: request.at }
        this.sinceNow()
        return pacer.run('flat out')
      case 'run':
        this.sinceNow()
        return pacer.run(request.speed)
      case 'pause':
        return pacer.pause()
      case 'step':
        return this.move((recording) => step(recording, request))
      case 'go':
        return this.move((recording) => {
          if (request.unit === 'step') recording.goTo(request.count)
          else recording.goToEpisode(request.count)
        })
      case 'watch':
        this.watched = request.state
        return pacer.frame()
      case 'window':
        this.rollingWindow = request.episodes
        return pacer.frame()
      case 'take':
        return this.give()
      case 'episode':
        return this.tellEpisode()
      case 'measure':
        return void this.measure(request.episodes).catch((error: unknown) =>
          this.post(failure(this.session, error)),
        )
      case 'landscape':
        return void this.tellLandscape(request).catch((error: unknown) =>
          this.post(failure(this.session, error)),
        )
      case 'shown':
        return pacer.acknowledge()
      default:
        request satisfies never
    }
  }

  private open(request: Extract<LearnRequest, { type: 'open' }>): void {
    const { pacer } = this
    this.session = request.session
    pacer.running = false
    const method = learnMethod(request.method)
    const learner = createLearner(request.method, new World(request.model), request.settings)
    if (request.table) learner.begin(request.table)
    if (request.saved) {
      learner.log.returns.set(request.saved.returns)
      learner.log.lengths.set(request.saved.lengths)
      learner.restore(request.saved.snapshot)
    }
    const recording = new LearnRecording(learner)
    this.run = {
      recording,
      method,
      marks: new ExactMarks(learner, EXACT_STATES, this.clock, method.tableHolds === 'preferences'),
    }
    this.keptAt = this.clock.now()
    this.tellOptimum(this.run, request.session).catch((error: unknown) =>
      this.post(failure(request.session, error)),
    )
    // What it begins with is not in its settings: it must be kept.
    if (request.table) this.keepNow(true)
    pacer.acknowledge()
    pacer.frame()
    if (request.identify) void this.identify(request)
  }

  /** After the first frame: of a large model it takes a while. */
  private async identify({ session, model }: Extract<LearnRequest, { type: 'open' }>): Promise<void> {
    await pause(this.clock)
    if (this.session === session)
      this.post({ type: 'fingerprint', session, fingerprint: modelFingerprint(model) })
  }

  private sinceNow(): void {
    this.since = { time: this.clock.now(), steps: this.run?.recording.learner.steps ?? 0 }
  }

  private move(change: (recording: LearnRecording) => void): void {
    this.pacer.running = false
    if (this.run) change(this.run.recording)
    this.pacer.frame()
  }

  /** Hands the table out as it is. */
  private give(): void {
    if (!this.run) return
    const { learner } = this.run.recording
    const { world } = learner
    this.post({
      type: 'table',
      session: this.session,
      table: learner.table.slice(),
      visits: learner.visits.slice(),
      policy: world.toModelRows(learner.policy()),
      behaviour: world.toModelRows(learner.behaviour()),
      steps: learner.steps,
      episodes: learner.log.count,
    })
  }

  /** Goes to the beginning of the episode and takes its steps again, one by one. */
  private tellEpisode(): void {
    const { run, session } = this
    if (!run || this.pacer.running) return
    const { recording } = run
    const { learner } = recording
    const { world, log, steps } = learner
    const before = learner.state < 0 ? log.count - 1 : log.count
    const begin = before < 0 ? -1 : log.stepsAfter(before)
    if (begin < recording.first || begin >= steps)
      return this.post({ type: 'episode', session, table: null, truth: null })
    recording.goTo(begin)
    const table = explainEpisode(learner, steps)
    this.post({
      type: 'episode',
      session,
      table: {
        ...table,
        before: world.toModelRows(table.before),
        after: world.toModelRows(table.after),
      },
      truth: this.truthOf(run, table),
    })
  }

  private truthOf({ recording, method }: Run, table: EpisodeTable): EpisodeTruth | null {
    const { world, settings } = recording.learner
    if (method.tableHolds !== 'preferences' || world.model.states > EXACT_STATES) return null
    if (table.omitted > 0 || !table.steps.some(({ update }) => update)) return null
    const exact = exactGradient(world, table.before, settings.discount, settings.temperature)
    return (
      exact && {
        start: exact.start,
        norm: Math.hypot(...exact.gradient),
        match: matchGradients(episodeGradient(world, table, settings.temperature), exact.gradient),
      }
    )
  }

  /** Plays many episodes with the policy as it is, in slices, and tells what they say of the gradient. */
  private async measure(wanted: number): Promise<void> {
    const { run, session } = this
    const ticket = ++this.measuring
    if (!run || wanted === 0) return
    const { learner } = run.recording
    const { world, settings, steps } = learner
    const known = learner.baseline()
    const measure = GradientMeasure.of(world, learner.policy(), settings, {
      baseline: run.method.critic ? null : known,
      critic: run.method.critic ? known : null,
    })
    if (!measure)
      throw new Error('The policy has no finite value at this discount, or the model is too large.')
    const norm = Math.hypot(...measure.exact.gradient)
    while (measure.episodes < wanted && this.measuring === ticket && this.session === session) {
      for (
        const until = this.clock.now() + MEASURE_SLICE;
        this.clock.now() < until && measure.episodes < wanted;
      )
        measure.advance(1)
      const { episodes } = measure
      this.post({
        type: 'measured',
        session,
        step: steps,
        episodes,
        wanted,
        norm,
        summaries: measure.summaries(),
      })
      await pause(this.clock)
    }
  }

  /** Works out a landscape around the policy as it is, in slices. */
  private async tellLandscape({
    rows,
    size,
    scale,
  }: Extract<LearnRequest, { type: 'landscape' }>): Promise<void> {
    const { run, session } = this
    const ticket = ++this.surveying
    if (!run) return
    const { learner } = run.recording
    const { world, settings, steps } = learner
    const axes = rows.map((row) => tableRowOf(world, row))
    const landscape = new Landscape(world, learner.policy(), axes, size, settings.discount, scale)
    const path = run.marks.policies.map(
      (policy, i) => [run.marks.value[i], ...axes.map((row) => policy[row])] as const,
    )
    while (!landscape.finished && this.surveying === ticket && this.session === session) {
      for (const until = this.clock.now() + MEASURE_SLICE; this.clock.now() < until && !landscape.finished;)
        landscape.advance(1)
      const { finished } = landscape
      const values = landscape.values.slice()
      this.post({ type: 'landscape', session, step: steps, rows, size, scale, values, finished, path })
      await pause(this.clock)
    }
  }

  /** Hands a keyframe out now and then, so that the run outlives this host. */
  private keepNow(atOnce = false): void {
    if (!this.run || (!atOnce && this.clock.now() - this.keptAt < KEEP_PAUSE)) return
    const { learner } = this.run.recording
    this.keptAt = this.clock.now()
    if (learner.log.count > KEEP_EPISODES) return
    const saved: SavedRun = {
      snapshot: learner.snapshot(),
      returns: learner.log.returns.slice(0, learner.log.count),
      lengths: learner.log.lengths.slice(0, learner.log.count),
    }
    this.post({ type: 'kept', session: this.session, saved }, savedArrays(saved))
  }

  /**
   * Finds out what the best policy gets from the start (or the one that is followed), in slices beside the learning,
   * and tells; nothing is told when no value is finite or it would take too long.
   */
  private async tellOptimum({ recording, method }: Run, session: number): Promise<void> {
    const { world, settings } = recording.learner
    const { model } = world
    if (model.states > EXACT_STATES) return
    const tell = (optimum: number, values: Float64Array) =>
      this.post({ type: 'optimum', session, optimum, values: values.slice() })
    if (method.purpose === 'prediction') {
      const policy = world.toModelRows(world.toTableRows(settings.policy))
      const result = evaluatePolicy(model, policy, settings.discount)
      if (result.outcome === 'solved') tell(startValue(model, result.values), result.values)
      return
    }
    const search = new OptimumSearch(model, settings.discount)
    while (search.status.outcome === 'running') {
      for (const until = this.clock.now() + OPTIMUM_SLICE; this.clock.now() < until;) search.advance()
      await pause(this.clock)
      if (this.session !== session) return
    }
    const { optimum } = search
    if (optimum) tell(optimum.start, optimum.values)
  }
}

/** What of a keyframe is handed over instead of copied: all of it was made for it. */
function savedArrays({ snapshot, returns, lengths }: SavedRun): Transferable[] {
  return [...Object.values(snapshot.arrays), returns, lengths].map(({ buffer }) => buffer as ArrayBuffer)
}

/** One step, or to the end of an episode. */
function step(recording: LearnRecording, { unit, way }: Extract<LearnRequest, { type: 'step' }>): void {
  const { learner } = recording
  if (way === 'on')
    recording.forward(
      unit === 'step' ? 1 : learner.settings.cap,
      unit === 'step' ? Infinity : learner.log.count + 1,
    )
  else if (unit === 'step') recording.goTo(learner.steps - 1)
  // To the end of the episode before, or of this one's before it began.
  else recording.goToEpisode(learner.state < 0 ? learner.log.count - 1 : learner.log.count)
}
