import { isDone, type Learner } from '../core/learn/learner'
import { LEARN_METHODS, type LearnMethod } from '../core/learn/methods'
import { World } from '../core/learn/world'
import { startValue } from '../core/model/model'
import { evaluatePolicy } from '../core/plan/evaluate'
import { defaultPlanMethod, planMethod } from '../core/plan/plan-methods'
import { PLAN_DEFAULTS } from '../core/plan/planner'
import { Pacer } from './pacer'
import type { LearnFrame, LearnReply, LearnRequest } from './protocol'

/** Lets one agent learn at a time, in slices, and tells how it stands. */
const scope = self as unknown as { postMessage(message: LearnReply, transfer?: Transferable[]): void }

/** Steps between looks at the clock. */
const CHUNK = 4096
/** Points of the learning curve sent to the page. */
const CURVE_POINTS = 600
/** The optimum and the exact value of the policy are computed alongside up to so many states, … */
const EXACT_LIMIT = 5000
/** … and the latter so often at the most, in milliseconds. */
const EXACT_PAUSE = 250
/** How long the optimum is worked on at a time, in milliseconds. */
const OPTIMUM_SLICE = 8

let session = 0
let learner: Learner | undefined
let method: LearnMethod | undefined
let watched: number | null = null
let rollingWindow = 50
let exact: Float64Array | undefined
let exactAt = -Infinity
let runStarted = 0
let runSteps = 0

const pacer = new Pacer(
  (count, until) => {
    let did = 0
    while (learner && did < count) {
      const taken = learner.advance(Math.min(CHUNK, count - did))
      did += taken
      if (taken === 0 || performance.now() >= until) break
    }
    return did
  },
  () => {
    if (!learner || !method) return
    const frame = frameOf(learner, method)
    scope.postMessage(frame, [
      frame.rowValues.buffer,
      frame.policy.buffer,
      frame.rowVisits.buffer,
      frame.values.buffer,
    ])
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
  switch (request.type) {
    case 'open': {
      session = request.session
      pacer.running = false
      method = LEARN_METHODS[request.method]
      learner = method.create(new World(request.model), request.settings)
      exact = undefined
      exactAt = -Infinity
      void tellOptimum(learner, session)
      pacer.acknowledge()
      pacer.frame()
      break
    }
    case 'run':
      runStarted = performance.now()
      runSteps = learner?.steps ?? 0
      pacer.run(request.speed)
      break
    case 'pause':
      exactAt = -Infinity
      pacer.pause()
      break
    case 'step':
      pacer.running = false
      exactAt = -Infinity
      learner?.advance(request.unit === 'step' ? 1 : learner.settings.cap, request.unit === 'episode')
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
    case 'shown':
      pacer.acknowledge()
      break
    default:
      request satisfies never
  }
}

function frameOf(current: Learner, { tableHolds }: LearnMethod): LearnFrame {
  const { world, settings, log } = current
  const { model } = world
  const policy = world.modelPolicy(current.policy())
  const done = isDone(current)
  if (model.states <= EXACT_LIMIT && (done || performance.now() - exactAt >= EXACT_PAUSE)) {
    const result = evaluatePolicy(model, policy, settings.discount, {
      initial: exact ?? new Float64Array(model.states),
      tolerance: 1e-6,
      sweeps: 2000,
    })
    exact = result.outcome === 'solved' ? result.values : undefined
    exactAt = performance.now()
  }
  const rowValues = world.modelPolicy(current.table)
  const elapsed = performance.now() - runStarted
  return {
    type: 'frame',
    session,
    running: pacer.running,
    done,
    steps: current.steps,
    episodes: log.count,
    state: current.state,
    age: current.age,
    last: { ...current.last },
    lastAction: current.last.row < 0 ? -1 : world.tableAction[current.last.row],
    rowValues,
    policy,
    rowVisits: world.modelPolicy(current.visits),
    values:
      tableHolds === 'action values'
        ? largestOfRows(model.rowStart, rowValues)
        : (exact?.slice() ?? new Float64Array(model.states).fill(NaN)),
    curve: log.curve(CURVE_POINTS, rollingWindow),
    working: watched === null ? null : (current.working(model.observation[watched]) ?? null),
    exactValue: exact ? startValue(model, exact) : null,
    rate: pacer.running && elapsed > 200 ? ((current.steps - runSteps) / elapsed) * 1000 : 0,
  }
}

function largestOfRows(rowStart: Int32Array, rowValues: Float64Array): Float64Array {
  return Float64Array.from({ length: rowStart.length - 1 }, (_, s) => {
    let most = rowStart[s] === rowStart[s + 1] ? 0 : -Infinity
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++) if (rowValues[r] > most) most = rowValues[r]
    return most
  })
}

/**
 * Finds out what the best policy gets from the start, in slices beside the learning, and tells the page; nothing is
 * told when no value is finite or it would take too long.
 */
async function tellOptimum({ world, settings }: Learner, asked: number): Promise<void> {
  const { model } = world
  if (model.states > EXACT_LIMIT) return
  const iteration = planMethod(defaultPlanMethod(model)).create(model, {
    ...PLAN_DEFAULTS,
    discount: settings.discount,
    tolerance: 1e-6,
    sweeps: 200_000,
  })
  while (iteration.status.outcome === 'running') {
    for (const until = performance.now() + OPTIMUM_SLICE; performance.now() < until;) iteration.sweep()
    await new Promise((resolve) => setTimeout(resolve))
    if (session !== asked) return
  }
  if (iteration.status.outcome === 'converged')
    scope.postMessage({ type: 'optimum', session, optimum: startValue(model, iteration.values) })
}
