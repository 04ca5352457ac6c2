import type { Learner } from '../core/learn/learner'
import type { LearnMethod } from '../core/learn/methods/method'
import type { LearnRecording } from '../core/recording/learn-recording'
import type { ExactMarks } from './exact-marks'
import type { LearnFrame } from './protocol/learn'

/** Points of the learning curve sent to the page. */
const CURVE_POINTS = 600
/** Up to so many table cells what moved in the last step is worked out. */
const MOVED_LIMIT = 50_000

interface Told {
  readonly method: LearnMethod
  readonly marks: ExactMarks
  readonly session: number
  readonly running: boolean
  readonly rate: number
  readonly watched: number | null
  readonly rollingWindow: number
  readonly place: string
}

/** How a run stands, for the page. */
export function learnFrame(
  recording: LearnRecording,
  { method, marks, session, running, rate, watched, rollingWindow, place }: Told,
): LearnFrame {
  const { learner } = recording
  const { world, log, last } = learner
  const { model } = world
  const holdsValues = method.tableHolds === 'values'
  const exactValue = running ? marks.latest : marks.now(learner)
  // Preferences say nothing of what a state is worth: the exact value of their policy does.
  const learned = learner.stateValues()
  const now = learned ?? marks.exactValues?.slice() ?? new Float64Array(model.states).fill(NaN)
  const before = !running || rate < 1000 ? tableBefore(learner) : null
  const traces = learner.eligibility
  const bounds = learner.bounds()
  const asked = watched ?? (last.state >= 0 ? last.state : null)
  return {
    type: 'frame',
    session,
    running,
    done: recording.finished,
    status: recording.front,
    steps: learner.steps,
    episodes: log.count,
    reached: recording.reached,
    reachedEpisodes: recording.episodes,
    first: recording.first,
    state: learner.state,
    age: learner.age,
    last: { ...last },
    lastAction: last.row < 0 ? -1 : world.tableAction[last.row],
    lastChance: chanceOfLast(learner),
    lastBefore:
      before && last.row >= 0 ? before[holdsValues ? world.observation[last.state] : last.row] : null,
    level: learner.level,
    learningRate: learner.rate,
    cells: learner.table.length,
    rowValues: holdsValues ? null : world.toModelRows(learner.table),
    policy: world.toModelRows(learner.policy()),
    rowVisits: world.toModelRows(learner.visits),
    values: now,
    moved: movedBy(learner, learned, before),
    traces: !traces ? null : holdsValues ? world.perState(traces) : world.toModelRows(traces),
    curve: log.curve(CURVE_POINTS, rollingWindow, recording.episodes),
    meanReturn: log.count ? log.rollingMean(log.count - 1, log.count) : null,
    firstEnded: log.firstEnded(recording.episodes),
    spans: spansOf(recording, rollingWindow),
    marks: { episode: Float64Array.from(marks.episode), value: Float64Array.from(marks.value) },
    choice: asked === null ? null : (learner.choice(model.observation[asked]) ?? null),
    bounds: bounds && world.toModelRows(bounds),
    working: asked === null ? null : (learner.working(model.observation[asked]) ?? null),
    place,
    exactValue,
    rate,
  }
}

/** Means over the first episodes, those after them and the last ones, as far as the run has come. */
function spansOf({ learner: { log }, episodes }: LearnRecording, size: number): LearnFrame['spans'] {
  const upTo = (count: number) => (count <= episodes ? log.rollingMean(count - 1, size) : null)
  return { size, first: upTo(size), next: upTo(2 * size), last: episodes >= size ? upTo(episodes) : null }
}

/** What of a frame is handed over instead of copied. */
export function frameArrays(frame: LearnFrame): Transferable[] {
  return [
    frame.rowValues,
    frame.policy,
    frame.rowVisits,
    frame.values,
    frame.moved,
    frame.traces,
    frame.bounds,
  ].flatMap((array) => (array ? [array.buffer] : []))
}

/** The table before the last step; null when that is not known, or nobody could follow. */
function tableBefore({ table, changes }: Learner): Float64Array | null {
  const { cells, before, count } = changes
  if (count === 0 || count > cells.length || table.length > MOVED_LIMIT) return null
  const was = table.slice()
  for (let i = count - 1; i >= 0; i--) was[cells[i]] = before[i]
  return was
}

/** [states] by how much the last step moved each value; null where the table does not tell */
function movedBy(
  learner: Learner,
  learned: Float64Array | null,
  before: Float64Array | null,
): Float64Array | null {
  const was = before && learner.stateValues(before)
  return learned && was ? difference(learned, was) : null
}

function difference(now: Float64Array, before: Float64Array): Float64Array {
  return now.map((value, s) => value - before[s])
}

/** How likely the last step was to lead where it did and pay what it did. */
function chanceOfLast({ world, last }: Learner): number {
  if (last.row < 0) return 1
  const { model } = world
  const row = model.rowStart[last.state] + last.row - world.tableStart[world.observation[last.state]]
  let chance = 0
  for (let o = model.outcomeStart[row]; o < model.outcomeStart[row + 1]; o++)
    if (model.outcomeState[o] === last.next) chance += model.outcomeProbability[o]
  return chance
}
