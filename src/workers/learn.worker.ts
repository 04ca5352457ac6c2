import { learnMethod, pseudoPlaceOf, type LearnMethod } from '../core/learn/methods/methods'
import { World } from '../core/learn/world'
import { startValue } from '../core/model/model'
import { evaluatePolicy } from '../core/plan/evaluate'
import { OptimumSearch } from '../core/plan/solve'
import { LearnRecording } from '../core/recording/learn-recording'
import { ExactMarks } from './exact-marks'
import { frameArrays, learnFrame } from './learn-frame'
import { Pacer } from './pacer'
import type { LearnReply, LearnRequest, SavedRun } from './protocol'

/** Lets one agent learn at a time, in slices, and tells how it stands. */
const scope = self as unknown as { postMessage(message: LearnReply, transfer?: Transferable[]): void }

/** Steps between looks at the clock. */
const CHUNK = 4096
/** The optimum is computed alongside up to so many states, … */
const EXACT_LIMIT = 5000
/** … and worked on so long at a time, in milliseconds. */
const OPTIMUM_SLICE = 8
/** Between two keyframes that are handed out, in milliseconds; runs with more episodes than this hand out none. */
const KEEP_PAUSE = 4000
const KEEP_EPISODES = 200_000

let session = 0
let recording: LearnRecording | undefined
let method: LearnMethod | undefined
let marks: ExactMarks | undefined
let watched: number | null = null
let rollingWindow = 50
let runStarted = 0
let runSteps = 0
let keptAt = 0
/** A run that is taken up goes on to where it was, and back to the moment that was looked at. */
let goal: { readonly reached: number; readonly at: number } | undefined

const pacer = new Pacer(
  (count, until) => {
    let did = 0
    if (recording && goal) count = Math.min(count, goal.reached - recording.learner.steps)
    while (recording && marks && did < count) {
      // Single steps may have come to a mark as well.
      if (recording.learner.log.count >= marks.next) marks.add(recording.learner)
      const taken = recording.forward(Math.min(CHUNK, count - did), marks.next)
      did += taken
      if (taken === 0 || performance.now() >= until) break
    }
    keepNow(did > 0 && recording?.finished === true)
    if (recording && goal && did === 0) {
      recording.goTo(goal.at)
      goal = undefined
    }
    return did
  },
  () => {
    if (!recording || !method || !marks) return
    const elapsed = performance.now() - runStarted
    const { learner } = recording
    const frame = learnFrame(recording, {
      method,
      marks,
      session,
      running: pacer.running,
      rate: pacer.running && elapsed > 200 ? ((learner.steps - runSteps) / elapsed) * 1000 : 0,
      watched,
      rollingWindow,
      place: pseudoPlaceOf(method, learner),
    })
    scope.postMessage(frame, frameArrays(frame))
  },
)

self.onmessage = ({ data }: MessageEvent<LearnRequest>) => {
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

function handle(request: LearnRequest): void {
  if (request.type !== 'shown' && request.type !== 'watch' && request.type !== 'window') goal = undefined
  switch (request.type) {
    case 'open': {
      session = request.session
      pacer.running = false
      method = learnMethod(request.method)
      const learner = method.create(new World(request.model), request.settings)
      if (request.table) learner.begin(request.table)
      if (request.saved) {
        learner.log.returns.set(request.saved.returns)
        learner.log.lengths.set(request.saved.lengths)
        learner.restore(request.saved.snapshot)
      }
      recording = new LearnRecording(learner)
      marks = new ExactMarks(learner, EXACT_LIMIT)
      keptAt = performance.now()
      void tellOptimum(recording, method, session)
      // What it begins with is not in its settings: it must be kept.
      if (request.table) keepNow(true)
      pacer.acknowledge()
      pacer.frame()
      break
    }
    case 'reach':
      goal = { reached: request.reached, at: request.at }
      runStarted = performance.now()
      pacer.run('flat out')
      break
    case 'run':
      runStarted = performance.now()
      runSteps = recording?.learner.steps ?? 0
      pacer.run(request.speed)
      break
    case 'pause':
      pacer.pause()
      break
    case 'step': {
      pacer.running = false
      if (!recording) break
      const { learner } = recording
      if (request.way === 'on')
        recording.forward(
          request.unit === 'step' ? 1 : learner.settings.cap,
          request.unit === 'step' ? Infinity : learner.log.count + 1,
        )
      else if (request.unit === 'step') recording.goTo(learner.steps - 1)
      // To the end of the episode before, or of this one's before it began.
      else recording.goToEpisode(learner.state < 0 ? learner.log.count - 1 : learner.log.count)
      pacer.frame()
      break
    }
    case 'go':
      pacer.running = false
      if (request.unit === 'step') recording?.goTo(request.count)
      else recording?.goToEpisode(request.count)
      pacer.frame()
      break
    case 'watch':
      watched = request.state
      pacer.frame()
      break
    case 'window':
      rollingWindow = request.episodes
      pacer.frame()
      break
    case 'take':
      if (recording) {
        const { learner } = recording
        const { world } = learner
        scope.postMessage({
          type: 'table',
          session,
          table: learner.table.slice(),
          visits: learner.visits.slice(),
          policy: world.modelPolicy(learner.policy()),
          behaviour: world.modelPolicy(learner.behaviour()),
          steps: learner.steps,
          episodes: learner.log.count,
        })
      }
      break
    case 'shown':
      pacer.acknowledge()
      break
    default:
      request satisfies never
  }
}

/** Hands a keyframe out now and then, so that the run outlives this worker. */
function keepNow(atOnce = false): void {
  if (!recording || (!atOnce && performance.now() - keptAt < KEEP_PAUSE)) return
  const { learner } = recording
  keptAt = performance.now()
  if (learner.log.count > KEEP_EPISODES) return
  const saved: SavedRun = {
    snapshot: learner.snapshot(),
    returns: learner.log.returns.slice(0, learner.log.count),
    lengths: learner.log.lengths.slice(0, learner.log.count),
  }
  scope.postMessage({ type: 'kept', session, saved })
}

/**
 * Finds out what the best policy gets from the start (or the one that is followed), in slices beside the learning, and
 * tells the page; nothing is told when no value is finite or it would take too long.
 */
async function tellOptimum(
  { learner: { world, settings } }: LearnRecording,
  { finds }: LearnMethod,
  asked: number,
): Promise<void> {
  const { model } = world
  if (model.states > EXACT_LIMIT) return
  if (finds === 'worth') {
    const policy = world.modelPolicy(world.tablePolicy(settings.policy))
    const result = evaluatePolicy(model, policy, settings.discount)
    if (result.outcome === 'solved') tell(startValue(model, result.values), result.values)
    return
  }
  const search = new OptimumSearch(model, settings.discount)
  while (search.status.outcome === 'running') {
    for (const until = performance.now() + OPTIMUM_SLICE; performance.now() < until;) search.advance()
    await new Promise((resolve) => setTimeout(resolve))
    if (session !== asked) return
  }
  const { optimum } = search
  if (optimum) tell(optimum.start, optimum.values)

  function tell(start: number, values: Float64Array) {
    scope.postMessage({ type: 'optimum', session: asked, optimum: start, values: values.slice() })
  }
}
