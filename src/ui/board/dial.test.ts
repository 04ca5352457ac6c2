import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { rulebookEnvironment } from '../../core/kinds/rulebook/blank'
import { gridDocument } from '../../core/testing/models'
import { bestOnDial, chancesOnDial, dialOf, dialParts } from './dial'

const compiled = compileEnvironment(
  rulebookEnvironment(
    'Vans',
    `state at in cellar, attic
start at = cellar
action send with van from 1 to 2, to in cellar, attic
action load in 0, 5
action wash with hand in left, right, soap from 1 to 2
action wait
next at = if action = send then to else at`,
  ),
)
const { actions } = compiled.model

describe('the dial of actions with several parts', () => {
  it('has one place for each value of the part that is chosen', () => {
    expect(dialParts(compiled)).toEqual(['van', 'to', 'hand', 'soap'])
    const rest = ['load 0', 'load 5', 'hand left', 'hand right', 'wait']
    expect(dialOf(compiled).places).toEqual(['van 1', 'van 2', ...rest])
    const to = dialOf(compiled, 'to')
    expect(to.places).toEqual(['to cellar', 'to attic', ...rest])
    expect(to.placeOf.map((place, a) => `${actions[a]}: ${to.places[place]}`)).toContain(
      'send van 2 to attic: to attic',
    )
    // A part that was taken out of the rules since.
    expect(dialOf(compiled, 'gone')).toEqual(dialOf(compiled))
  })

  it('adds up chances, and takes the best value', () => {
    const dial = dialOf(compiled, 'to')
    const at = (name: string) => actions.indexOf(name)
    const chances = new Float64Array(actions.length)
    chances[at('send van 1 to attic')] = 0.25
    chances[at('send van 2 to attic')] = 0.5
    chances[at('wait')] = 0.25
    expect([...(chancesOnDial(dial, chances) as Float64Array)]).toEqual([0, 0.75, 0, 0, 0, 0, 0.25])
    const values = new Float64Array(actions.length).fill(NaN)
    values[at('send van 1 to attic')] = -3
    values[at('send van 2 to attic')] = -1
    values[at('load 5')] = 2
    expect([...(bestOnDial(dial, values) as Float64Array)]).toEqual([NaN, -1, NaN, 2, NaN, NaN, NaN])
  })

  it('is that of the actions themselves where none has several parts', () => {
    const grid = compileEnvironment(gridDocument(['..']))
    expect(dialParts(grid)).toEqual([])
    const dial = dialOf(grid)
    expect(dial.places).toEqual(grid.model.actions)
    expect(dial.placeOf).toEqual(grid.model.actions.map((_, a) => a))
  })
})
