import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import type { EnvironmentDocument } from '../kinds/kinds'
import { gridDocument } from '../testing/models'
import type { Exercise, Level, Shows } from './exercise'
import { newExercise } from './new-exercise'
import { whatIsSeen } from './seen'

const demo = (name: string) => checkEnvironment(JSON.parse(readFileSync(`demo/${name}.json`, 'utf8')))
const seen = (environment: EnvironmentDocument, shows: Shows = 'rules', levels?: Level[]) => {
  const made: Exercise = { ...newExercise(environment, 5), shows }
  return whatIsSeen(levels ? { ...made, levels } : made)
}

describe('what students see of an exercise', () => {
  it('is every state that does not end, with what can be done there', () => {
    for (const name of ['night-rounds', 'vault-dial', 'evening-tickets', 'docents-round']) {
      const document = demo(name)
      const { model } = compileEnvironment(document)
      const { states } = seen(document)!
      const told = new Map(states.flatMap((each) => each.states.map((state) => [state, each.actions])))
      let open = 0
      for (let s = 0; s < model.states; s++) {
        if (model.ending[s]) continue
        open++
        const actions = [...model.rowAction.subarray(model.rowStart[s], model.rowStart[s + 1])]
        expect(told.get(model.labels[s])).toEqual(actions.map((action) => model.actions[action]))
      }
      expect(told.size).toBe(open)
    }
  })

  it('has states that look alike as one', () => {
    const { states } = seen(demo('same-looking-doors'))!
    expect(states.some((each) => each.states.length > 1)).toBe(true)
    const { model } = compileEnvironment(demo('same-looking-doors'))
    for (const { states: group } of states)
      expect(new Set(group.map((state) => model.observation[model.labels.indexOf(state)])).size).toBe(1)
  })

  it('has the places of a floor, where each state has one of its own', () => {
    const hall = gridDocument(['..', '#.'], { endings: [{ at: 'B2', reward: 1, name: '' }] })
    expect(seen(hall)!.board).toEqual({ columns: 2, rows: 2, places: [0, 1] })
    const withKey = gridDocument(['...'], {
      starts: [{ at: 'A1', weight: 1 }],
      tokens: [{ at: 'B1', name: 'key', reward: 0 }],
      endings: [{ at: 'C1', reward: 1, name: '' }],
    })
    // Once the key is held, the same place is another state.
    expect(seen(withKey)!.board).toBeNull()
    expect(seen(demo('vault-dial'))!.board).toBeNull()
  })

  it('is no more than the exercise shows', () => {
    const hall = gridDocument(['..', '#.'], { endings: [{ at: 'B2', reward: 1, name: '' }] })
    expect(seen(hall, 'names')).toMatchObject({ board: null, text: null })
    expect(seen(hall, 'board')).toMatchObject({ board: { columns: 2 }, text: null })
    expect(seen(hall, 'rules')!.text).toContain('#')
    expect(seen(demo('evening-tickets'), 'rules')!.text).toContain('reward price * sold')
  })

  it('joins the states of all levels, and lists none where they are too many', () => {
    const tickets = demo('evening-tickets')
    const levels = [4, 8].map((places) => ({
      name: String(places),
      knobs: { places, evenings: 3 },
      points: 1,
    }))
    const namesOf = (some: Level[]) => seen(tickets, 'names', some)!.states.flatMap(({ states }) => states)
    const each = levels.map((level) => namesOf([level]))
    // With more places there are more states, but on the first evening all of them are left.
    expect(each[1]).not.toContain(each[0][0])
    expect(each[0].length).toBeLessThan(each[1].length)
    expect(namesOf(levels).sort()).toEqual([...new Set(each.flat())].sort())
    expect(seen(gridDocument(Array.from({ length: 50 }, () => '.'.repeat(50))))).toBeNull()
  })
})
