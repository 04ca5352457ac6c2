import { describe, expect, it } from 'vitest'
import { newLearner, roomsWalk } from '../../testing/learning'
import { workingText } from '../../explain/working'

const MODEL = roomsWalk(6)

describe('Working of Double Q-learning', () => {
  it('names the table that was written, and takes what comes next from the other one', () => {
    const learner = newLearner('double-q-learning', MODEL)
    const { 'first table': first, 'second table': second } = learner.tables()
    const copy = () => [first.numbers.slice(), second.numbers.slice()]
    const named = { A: 0, B: 0 }
    for (let i = 0; i < 400; i++) {
      const before = copy()
      learner.advance(1)
      const { row, state, next, ended } = learner.last
      const [inFirst, inSecond] = [first, second].map(({ numbers }, t) => numbers[row] !== before[t][row])
      if (inFirst === inSecond) continue
      const working = learner.working(learner.world.observation[state])!
      const written = inFirst ? 'A' : 'B'
      const other = inFirst ? 'B' : 'A'
      named[written]++
      expect(working.note).toContain(`The coin picked table ${written}.`)
      expect(working.latex).toContain(`Q_{${written}}(s, a)`)
      if (ended === 'ending') {
        expect(working.note).toMatch(/an ending: the look ahead is 0/)
        continue
      }
      expect(working.note).toContain(`table ${other} says what that is worth`)
      // By the book: the written table says which action, the other one what it is worth.
      const { tableStart } = learner.world
      const observation = learner.world.observation[next]
      const [writes, tells] = inFirst ? before : [before[1], before[0]]
      const rows = Array.from(
        { length: tableStart[observation + 1] - tableStart[observation] },
        (_, k) => tableStart[observation] + k,
      )
      const best = Math.max(...rows.map((r) => writes[r]))
      const worth = rows.filter((r) => writes[r] === best).map((r) => tells[r])
      const slotAhead = working.lines
        .flatMap(({ parts }) => parts)
        .find((part) => 'role' in part && part.role === 'next') as { value: number } | undefined
      expect(worth).toContain(slotAhead!.value)
    }
    // Both tables were written often enough for this to mean something.
    expect(Math.min(named.A, named.B)).toBeGreaterThan(20)
  })

  it('acts by the mean of both, which is its table', () => {
    const learner = newLearner('double-q-learning', MODEL)
    learner.advance(500)
    const { 'action values': mean, 'first table': first, 'second table': second } = learner.tables()
    mean.numbers.forEach((value, row) =>
      expect(value).toBeCloseTo((first.numbers[row] + second.numbers[row]) / 2, 12),
    )
    expect([...learner.stateValues()!]).toEqual([...learner.world.bestOfRows(mean.numbers)])
  })
})

describe('Working of Dyna-Q', () => {
  it('explains the update from the step itself, and says how many from memory follow', () => {
    const learner = newLearner('dyna-q', MODEL, { planning: 3 })
    learner.advance(1)
    const { state, reward } = learner.last
    const working = learner.working(learner.world.observation[state])!
    expect(working.note).toMatch(/This update came from a step in the world; 3 from memory follow each/)
    // At the first step the table is empty: the target is the reward alone.
    expect(workingText(working, String)).toContain(String(reward))
    const none = newLearner('dyna-q', MODEL, { planning: 0 })
    none.advance(1)
    expect(none.working(none.world.observation[none.last.state])!.note).toContain('0 from memory')
  })

  it('without planning is Q-learning, to the same bits', () => {
    const dyna = newLearner('dyna-q', MODEL, { planning: 0 })
    const plain = newLearner('q-learning', MODEL)
    dyna.advance(700)
    plain.advance(700)
    expect([...dyna.table]).toEqual([...plain.table])
  })
})

it('every learner tells its tables, and what states are worth by them', () => {
  for (const [method, holds] of [
    ['q-learning', 'action values'],
    ['td-0', 'values'],
    ['reinforce', 'preferences'],
  ] as const) {
    const learner = newLearner(method, MODEL)
    learner.advance(200)
    const [main] = Object.values(learner.tables())
    expect(main).toEqual({ holds, numbers: learner.table })
    const values = learner.stateValues()
    if (holds === 'preferences') expect(values).toBeNull()
    else {
      expect(values).toHaveLength(MODEL.states)
      MODEL.ending.forEach((ending, s) => ending && expect(values![s]).toBe(0))
    }
  }
})
