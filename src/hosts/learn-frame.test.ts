import { describe, expect, it } from 'vitest'
import { learnMethod, LEARN_METHOD_IDS, type LearnMethodId } from '../core/learn/methods/methods'
import type { Learner } from '../core/learn/learner'
import { evaluatePolicy } from '../core/plan/evaluate'
import { startValue } from '../core/model/model'
import { LearnRecording } from '../core/recording/learn-recording'
import { chancyGrid, exploring, newLearner } from '../core/testing/learning'
import { ModelBuilder } from '../core/model/builder'
import { ExactMarks } from './exact-marks'
import { frameArrays, learnFrame } from './learn-frame'
import type { LearnFrame } from './protocol/learn'

/** Exact ascent takes one step an episode. */
const settingsFor = (id: LearnMethodId) => ({
  exploration: exploring(0.2),
  episodes: id === 'exact-ascent' ? 700 : 80,
})
/** In the first episode, at a start of a keyframe's stretch, and late in the run. */
const MOMENTS = [1, 2, 7, 256, 300, 611]

function frameOf(
  id: LearnMethodId,
  recording: LearnRecording,
  told: Partial<{ running: boolean; rate: number; watched: number | null; mostStates: number }> = {},
): LearnFrame {
  const { running = false, rate = 0, watched = null, mostStates = 1000 } = told
  return learnFrame(recording, {
    method: learnMethod(id),
    marks: new ExactMarks(recording.learner, mostStates),
    session: 5,
    running,
    rate,
    watched,
    rollingWindow: 10,
    place: '',
  })
}

function after(id: LearnMethodId, steps: number, model = chancyGrid()): LearnRecording {
  const recording = new LearnRecording(newLearner(id, model, settingsFor(id)))
  recording.forward(steps)
  return recording
}

/** What each state is worth by the table, told by the labels of the actions alone. */
function tableValues(id: LearnMethodId, { world, table }: Learner): number[] {
  const { model } = world
  return Array.from({ length: model.states }, (_, s) => {
    if (learnMethod(id).tableHolds === 'values') return table[world.observation[s]]
    const entries = world.toModelRows(table).slice(model.rowStart[s], model.rowStart[s + 1])
    return entries.length ? entries.toSorted().at(-1)! : 0
  })
}

describe('a frame', () => {
  it.each(LEARN_METHOD_IDS)('of %s says what the table holds at any moment, there and back', (id) => {
    const recording = after(id, MOMENTS.at(-1)!)
    for (const steps of [...MOMENTS, ...MOMENTS.toReversed()]) {
      recording.goTo(steps)
      const { learner } = after(id, steps)
      const { model } = learner.world
      const frame = frameOf(id, recording)
      expect([frame.steps, frame.reached, frame.session]).toEqual([steps, MOMENTS.at(-1), 5])
      const exact = evaluatePolicy(model, learner.world.toModelRows(learner.policy()), 0.9).values
      const { tableHolds, critic } = learnMethod(id)
      if (critic) {
        const { values } = learner.tables()
        frame.values.forEach((value, s) => expect(value).toBe(values.numbers[model.observation[s]]))
      } else if (tableHolds === 'preferences')
        frame.values.forEach((value, s) => expect(value).toBe(exact[s]))
      else expect([...frame.values]).toEqual(tableValues(id, learner))
      expect(frame.exactValue).toBe(startValue(model, exact))
      expect(frame.rowVisits.reduce((sum, visits) => sum + visits, 0)).toBe(id === 'exact-ascent' ? 0 : steps)
      expect(frame.cells).toBe(learner.table.length)
      for (let s = 0; s < model.states; s++) {
        if (model.ending[s]) continue
        const chances = frame.policy.slice(model.rowStart[s], model.rowStart[s + 1])
        expect(chances.reduce((sum, chance) => sum + chance, 0)).toBeCloseTo(1, 12)
      }
    }
  })

  it.each(LEARN_METHOD_IDS.filter((id) => learnMethod(id).tableHolds !== 'preferences'))(
    'of %s says by how much the last step moved the values',
    (id) => {
      for (const steps of MOMENTS) {
        const { moved, values } = frameOf(id, after(id, steps))
        const before = tableValues(id, after(id, steps - 1).learner)
        // Methods that wait have moved nothing in most steps.
        if (moved) moved.forEach((by, s) => expect(by).toBe(values[s] - before[s]))
        else expect([...values]).toEqual(before)
      }
    },
  )

  it('tells the chance of what happened last', () => {
    const model = chancyGrid()
    const seen = new Set<number>()
    const recording = after('q-learning', 0, model)
    for (let step = 0; step < 120; step++) {
      recording.forward(1)
      const { last, lastAction, lastChance } = frameOf('q-learning', recording)
      let chance = 0
      for (let r = model.rowStart[last.state]; r < model.rowStart[last.state + 1]; r++)
        for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
          if (model.rowAction[r] === lastAction && model.outcomeState[o] === last.next)
            chance += model.outcomeProbability[o]
      expect(lastChance).toBeCloseTo(chance, 12)
      seen.add(Number(lastChance.toFixed(3)))
    }
    // Of the way meant, and of veering to a side.
    expect(seen.size).toBeGreaterThan(1)
  })

  it('has means over the first, the next and the last episodes, as far as there are any', () => {
    const recording = after('sarsa', 1)
    expect(frameOf('sarsa', recording).spans).toEqual({ size: 10, first: null, next: null, last: null })
    recording.forward(1e6, 34)
    const { log } = recording.learner
    const mean = (from: number, to: number) =>
      log.returns.slice(from, to).reduce((sum, each) => sum + each, 0) / (to - from)
    const { spans, episodes } = frameOf('sarsa', recording)
    expect(episodes).toBe(34)
    expect(spans.first).toBeCloseTo(mean(0, 10), 12)
    expect(spans.next).toBeCloseTo(mean(10, 20), 12)
    expect(spans.last).toBeCloseTo(mean(24, 34), 12)
  })

  it('gives the working of the state that is watched, or of the one just left', () => {
    const recording = after('q-learning', 40)
    const { learner } = recording
    const just = frameOf('q-learning', recording)
    expect(just.working).toEqual(learner.working(learner.world.observation[just.last.state]))
    expect(just.working).not.toBeNull()
    const other = learner.world.model.states - 1
    expect(frameOf('q-learning', recording, { watched: other }).working).toBeNull()
    expect(frameOf('q-learning', after('q-learning', 0)).working).toBeNull()
  })

  it('leaves out what nobody could follow at full speed, and exact values of large models', () => {
    const recording = after('q-learning', 100)
    expect(frameOf('q-learning', recording, { running: true, rate: 5e6 }).moved).toBeNull()
    expect(frameOf('q-learning', recording, { running: true, rate: 20 }).moved).not.toBeNull()
    expect(frameOf('q-learning', recording, { mostStates: 5 }).exactValue).toBeNull()
  })

  it('hands over arrays of its own: the run goes on untouched', () => {
    const recording = after('sarsa-lambda', 50)
    const frame = frameOf('sarsa-lambda', recording)
    const { learner } = recording
    const buffers = frameArrays(frame)
    expect(new Set(buffers).size).toBe(6)
    for (const mine of [learner.table, learner.visits, learner.policy(), learner.eligibility!])
      expect(buffers).not.toContain(mine.buffer)
  })
})

describe('exact marks', () => {
  /** From a hall, on to the end or round and round. */
  function hall() {
    const builder = new ModelBuilder()
    const [start, end] = ['hall', 'end'].map((label) => builder.state(label))
    builder.outcome(builder.row(start, builder.action('round')), start, 1, -1)
    builder.outcome(builder.row(start, builder.action('on')), end, 1, -1)
    return builder.build({ starts: [{ state: start, weight: 1 }], cap: 10 })
  }

  it('have no value while the policy goes round for ever at discount 1, and one as soon as it ends', () => {
    const learner = newLearner('q-learning', hall(), { discount: 1, ties: 'first', episodes: 500 })
    learner.begin(Float64Array.of(1, 0))
    const marks = new ExactMarks(learner, 10)
    expect(marks.now(learner)).toBeNull()
    expect(marks.exactValues).toBeUndefined()
    while (learner.advance(1) > 0 && learner.policy()[1] !== 1);
    expect(learner.policy()[1]).toBe(1)
    expect(marks.now(learner)).toBe(-1)
    marks.add(learner)
    while (learner.advance(50) > 0) marks.add(learner)
    expect(marks.value).not.toContain(NaN)
    expect(marks.episode).toEqual(marks.episode.toSorted((a, b) => a - b))
    expect(marks.episode.length).toBe(new Set(marks.episode).size)
  })
})
